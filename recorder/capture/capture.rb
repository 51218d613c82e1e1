# frozen_string_literal: true

require "fileutils"
require "json"
require "securerandom"
require "time"

module Loomshuttle
  module Recorder
    # A take while it is written, to one folder or two at once. It is fed with batches, and does not know their origin.
    class Capture
      # Heads are made true so often a second.
      REFRESHES = 2
      # The manifest waits for the disk, so it is written at once only when something happened, and otherwise so often (seconds).
      MANIFEST_EVERY = 5
      # Breaks that are listed; the note counts on.
      BREAKS = 200

      attr_reader :frames, :number, :name, :id
      # @return [Array<Formats::Markers::Marker>]
      attr_reader :markers

      # @param root [String] folder of all takes
      # @param tracks [Array<Track>] to write   @param started_at [Time]
      # @param limit [Integer, nil] length in frames after which it stops automatically
      # @param bits [24, 32]   @param project [String] the show
      # @param mirror [String, nil] folder of a second copy of all takes
      # @param over [Hash, nil] take, number, from and trip of the take that is overdubbed: the new take begins with silence that takes
      #   no disk space up to `from`, so that both share one time line
      # @param numbers [Numbers]
      # @raise [SystemCallError] if the folder or a file cannot be created
      def initialize(root, tracks:, name:, lanes:, rate:, started_at:, limit: nil, bits: 24, project: "", mirror: nil, over: nil, numbers: Numbers.new)
        @tracks, @name, @rate, @limit, @started_at, @bits, @project = tracks, name, rate, limit, started_at, bits, project
        @id = SecureRandom.uuid
        @number = numbers.next([root, mirror].compact)
        @levels = Audio::LevelSum.new(lanes)
        @pieces = Pieces.new(bits)
        @clips = Hash.new(0)
        @rests = Hash.new { |rests, number| rests[number] = [] }
        @frames, @behind, @over, @mirror = 0, 0, over, mirror
        @step, @refresh = rate / Engine::BATCHES, rate / REFRESHES
        @gaps = GapLog.new
        @breaks, @markers = [], []
        @state = "capturing"
        FileUtils.mkdir_p(root)
        @copies = Copies.new(open_folder(root), rate) { |copy| copy.close(manifest.merge("state" => "ended early", "note" => lost.join(" ")), @markers) }
        @copies.add_mirror(mirror) { SecondCopy.check(mirror, root) || open_folder(mirror) } if mirror
        lead(over["from"]) if over
        refresh
      end

      # @param list [Array<Formats::Markers::Marker>]
      def markers=(list)
        @markers = list
        @written_markers = nil
        @due = true # on the disk with the next batch: a recorder that ends then loses none
      end

      # @return [String, nil] what went wrong so far, in sentences
      def problem = [break_words.last, behind_words, *lost].compact.join(" ").then { |words| words unless words.empty? }

      # @return [String] path of the take's folder (the mirror's if the first copy was given up)
      def folder = @copies.folder

      # Writes a batch, up to the wanted length.
      # @param batch [Batch]
      # @raise [SystemCallError] if no copy can be written; if one of two fails, it becomes a problem
      def write(batch)
        batch = batch.first(@limit - @frames) if @limit
        @start ||= batch.position
        pieces = lane_pieces(batch)
        peaks = batch.levels.first.to_a
        row = overview_row(batch, peaks)
        @copies.each { |copy| copy.write(pieces, row) }
        note_breaks(batch)
        batch.gaps.each { |first, lanes, at, missing| @gaps.add(@frames + at - batch.position, missing, [first + 1, first + lanes]) }
        @behind += batch.behind
        note_levels(batch, peaks)
        @frames += batch.frames
        refresh if @due || (@frames % @refresh) < batch.frames
      end

      # Pauses or resumes tracks from the next batch on; paused tracks stay aligned.
      # @param numbers [Array<Integer>]
      def rest(numbers, resting)
        numbers.each do |number|
          next if resting == resting?(number)

          resting ? @rests[number] << [@frames, nil] : @rests[number].last[1] = @frames - @rests[number].last[0]
        end
      end

      # @return [Array<Integer>] numbers of the paused tracks
      def resting = @tracks.map(&:number).select { |number| resting?(number) }

      # @return [Array<Integer>] lanes (0-based) of paused tracks
      def resting_lanes = @tracks.select { |track| resting?(track.number) }.flat_map { |track| track.inputs.map { |lane| lane - 1 } }

      # @return [Boolean] whether the wanted length has been reached
      def full? = !@limit.nil? && @frames >= @limit

      # @return [Array<Symbol>] :first and :mirror, if they are still being written
      def copies = @copies.written

      # Closes one of two copies cleanly and continues with the other.
      # @param copy [Symbol]   @param why [String]
      # @return [Boolean] whether there is another copy
      def leave(copy, why) = @copies.leave(copy, why)

      # @return [Integer] bytes per second of one copy; paused tracks need none
      def bytes_a_second = self.class.bytes_a_second(@tracks.reject { |track| resting?(track.number) }, @rate, @bits)

      # @param tracks [Array<Track>]   @param rate [Integer]   @param bits [24, 32]
      def self.bytes_a_second(tracks, rate, bits) = tracks.sum { |track| track.inputs.size } * rate * bits / 8

      # Ends the capture and completes all files.
      # @param why [String, nil] reason, if it did not end as wished
      # @return [Hash] the manifest
      def finish(why = nil)
        rest(resting, false)
        why = settle(why)
        @state = why ? "ended early" : "complete"
        note([why, *break_words.first(20), behind_words, *lost])
        @copies.close(-> { manifest }, @markers) { |problem| note([@note, problem]) } # the first one tells what went wrong with the other
        manifest
      end

      # @return [Hash] the manifest so far
      def manifest
        { "format" => Formats::TakeManifest::FORMAT, "id" => @id, "number" => @number, "name" => @name, "state" => @state, "note" => @note,
          "rate" => @rate, "bits" => @bits, "frames" => @frames, "started_at" => @started_at.iso8601, "start_position" => @start,
          "project" => @project, "over" => @over, "mirror" => @mirror && { "folder" => @mirror, "problem" => @copies.mirror_problem },
          "gaps" => @gaps.list, "gaps_total" => @gaps.total,
          "breaks" => @breaks, "markers" => TakeMarkers.data(@markers), "overview" => { "file" => TakeFolder::OVERVIEW, "frames" => @step },
          "tracks" => @tracks.map { |track| track_entry(track) } }
      end

      private

      def open_folder(root)
        TakeFolder.new(File.join(root, Formats::FileNames.take_folder(@number, @name)), @tracks.to_h { |track| [track, file_of(track)] }) do |path, track|
          Formats::Wav::Writer.new(path, bext: bext(track), ixml: ixml(track), lanes: track.inputs.size, rate: @rate, bits: @bits)
        end
      end

      # Whole steps of the overview, and what is left of one.
      def lead(frames)
        rest = @tracks.to_h { |track| [track, frames] }
        @copies.each { |copy| copy.write(rest, "\0" * (@tracks.size * (frames / @step))) }
        @frames = frames
      end

      # Waits for copies that are behind. The last one may fail even now.
      # @return [String, nil] what ended the take
      def settle(why)
        @copies.each(&:settle)
        why
      rescue SystemCallError => e
        why || "Take #{@number} ended early: #{e.message}"
      end

      # Copies that were given up, in words.
      def lost = @copies.problems

      def note(words)
        @note = words.compact.join(" ").then { |text| text unless text.empty? }
      end

      def file_of(track) = Formats::FileNames.track(@name, @number, track.number, track.name)
      def resting?(number) = @rests.key?(number) && !@rests[number].empty? && @rests[number].last[1].nil?

      def since_midnight
        midnight = Time.new(@started_at.year, @started_at.month, @started_at.day, 0, 0, 0, @started_at.utc_offset)
        ((@started_at - midnight) * @rate).round
      end

      def bext(track)
        mode = track.inputs.size == 1 ? "mono" : "stereo"
        Formats::Bext.new(description: "#{track.name}, take #{@number} #{@name}", originator: "Loomshuttle",
                          reference: @id.delete("-"), date: @started_at.strftime("%Y-%m-%d"), time: @started_at.strftime("%H:%M:%S"),
                          time_reference: since_midnight, history: "A=PCM,F=#{@rate},W=#{@bits},M=#{mode},T=Loomshuttle")
      end

      def ixml(track)
        Formats::IXml.write(project: @project, take: "#{@number} #{@name}", tracks: [track], id: "#{@id}-#{track.number}", family: @id, rate: @rate, bits: @bits,
                            since_midnight: since_midnight)
      end

      # What each track gets: samples, or frames of rest.
      def lane_pieces(batch)
        return @tracks.to_h { |track| [track, batch.frames] } if batch.silent?

        resting, writing = @tracks.partition { |track| resting?(track.number) }
        @pieces.of(batch, writing).merge(resting.to_h { |track| [track, batch.frames] })
      end

      # Those before its first sample are none of this take's.
      def note_breaks(batch)
        batch.breaks.each do |one|
          at = @frames + one.at - batch.position
          next unless at.positive? && @breaks.size < BREAKS

          @breaks << { "at" => at, "seconds" => one.seconds, **(one.kind == "restarted" ? {} : { "kind" => one.kind }) }
        end
      end

      def break_words = TakeBreaks.words(@breaks, @rate)

      def behind_words
        format("Disk too slow: %.1f s could not be written and are silent.", @behind / @rate.to_f) if @behind.positive?
      end

      def note_levels(batch, peaks)
        @levels.add(batch.frames, *batch.levels)
        @tracks.each { |track| @clips[track.number] += 1 if !resting?(track.number) && track.inputs.any? { |lane| peaks[lane - 1] >= Audio::Level::CLIPPED } }
      end

      # One byte a track for each step; 0 while it rests.
      def overview_row(batch, peaks)
        return "\0" * (@tracks.size * (batch.frames / @step.to_f).ceil) if batch.silent?

        @tracks.map { |track| resting?(track.number) ? 0 : Audio::Level.byte(track.inputs.map { |lane| peaks[lane - 1] }.max) }.pack("C*")
      end

      # Markers by the thousand are put into words once, and not twice a second.
      def refresh
        @due = false
        @written_markers ||= JSON::Fragment.new(JSON.generate(TakeMarkers.data(@markers)))
        data = manifest.merge("markers" => @written_markers) if manifest_due?
        @copies.each { |copy| copy.refresh(data) }
      end

      # The files tell their own length; what only the manifest tells is kept as soon as it changes.
      def manifest_due?
        told = [@written_markers.object_id, @gaps.count, @breaks.size, @behind, resting, lost]
        return false if told == @told && @frames - @kept_at < MANIFEST_EVERY * @rate

        @told, @kept_at = told, @frames
        true
      end

      def track_entry(track)
        lanes = track.inputs.map { |lane| lane - 1 }
        { "number" => track.number, "name" => track.name, "inputs" => track.inputs, "outputs" => track.outputs,
          "file" => file_of(track), "frames" => @frames, "peak_dbfs" => @levels.peak_dbfs(lanes).round(2),
          "rms_dbfs" => @levels.rms_dbfs(lanes).round(2), "clips" => @clips[track.number], "rests" => @rests.fetch(track.number, []) }
      end
    end
  end
end
