# frozen_string_literal: true

require "fileutils"
require "json"
require "securerandom"
require "time"

module Loomshuttle
  module Porter
    # Turns imported files into a take. Each file becomes a track at the show's rate, at its start, as long as the longest. Then the recorder takes
    # the folder over.
    class BringIn
      OVERVIEW = "overview.u8"
      # What belongs to no track of the show is numbered from here on.
      OTHERS = 900
      # No recording is longer than this, with where it begins (seconds).
      LONGEST = 24 * 3600

      # @param job [Job] name, rate, project, notes, started_at and items (Converted)
      # @param stopped [Proc] returns whether the process has to stop   @param room [Room] on the disk
      # @raise [Invalid] if an offset is too large
      def initialize(job, stopped:, room:)
        @job, @stopped, @room = job, stopped, room
        late = job["items"].find { |item| item["offset"] > LONGEST * job["rate"] }
        raise Invalid.new("#{late['title']} would begin more than #{LONGEST / 3600} hours after the first.", where: "offset") if late

        @rate = job["rate"]
        @id = SecureRandom.uuid
        @done = 0
      end

      # Starts over if it was interrupted: nothing has left the work folder yet.
      def run
        FileUtils.rm_rf(work)
        FileUtils.mkdir_p(work)
        @room.check(@job["items"].sum { |item| item["frames"].to_i * item["lanes"] * Audio::Pcm24::BYTES })
        @total = @job["items"].sum { |item| pieces(item).flatten.sum { |source| File.size(source["file"]) } }
        made = @job["items"].each.with_index(1).map { |item, number| convert(item, number) }
        frames = made.map(&:frames).max
        made.each { |one| one.close(frames) }
        Runtime::Files.write(File.join(work, OVERVIEW), overview(made, frames))
        Runtime::Files.write(File.join(work, Formats::TakeManifest::FILE), Formats::TakeManifest.dump(Formats::TakeManifest.check(manifest(made, frames))))
        Runtime::Files.sync_tree(work)
        @job.update(state: "done", done: @total, total: @total, result: work)
      end

      private

      def work = @job.path("work")
      def started = @started ||= Time.parse(@job["started_at"])
      def since_midnight = ((started.hour * 3600) + (started.min * 60) + started.sec) * @rate

      def convert(item, number)
        made = Converted.new(item, writer(item, number), @rate)
        pieces(item).each do |piece|
          made.append_piece(piece) { go_on(made) }
          @done += piece.sum { |source| File.size(source["file"]) }
          @job.update(done: [@done, @total].min, total: @total)
        end
        made
      end

      # Jobs of older versions name files alone.
      def pieces(item) = item["pieces"] || item["files"].map { |path| [{ "file" => path, "lane" => nil }] }

      def go_on(made)
        raise Invalid.new("#{made.file} is longer than #{LONGEST / 3600} hours.", where: "files") if made.frames > LONGEST * @rate

        @room.check
        @job.check
        raise Job::Stopped if @stopped.call
      end

      def writer(item, number)
        title = Formats::FileNames.safe(item["title"])
        path = File.join(work, "#{format('%02d', item['track'] || (OTHERS + number))} #{title}.wav")
        Formats::Wav::Writer.new(path, bext: bext(item), ixml: ixml(item, number), lanes: item["lanes"], rate: @rate)
      end

      def bext(item)
        mode = item["lanes"] == 1 ? "mono" : "stereo"
        Formats::Bext.new(description: "#{item['title']}, imported", originator: "Loomshuttle", reference: @id.delete("-"), date: started.strftime("%Y-%m-%d"),
                          time: started.strftime("%H:%M:%S"), time_reference: since_midnight, history: "A=PCM,F=#{@rate},W=24,M=#{mode},T=Loomshuttle")
      end

      def ixml(item, number)
        track = Formats::IXml::Track.new(number: item["track"] || number, name: item["title"], inputs: (1..item["lanes"]).to_a)
        Formats::IXml.write(project: @job["project"], take: @job["name"], tracks: [track], id: "#{@id}-#{number}", family: @id, rate: @rate, bits: 24,
                            since_midnight: since_midnight)
      end

      def overview(made, frames)
        rows = (frames / Converted::STEP.to_f).ceil
        (0...rows).map { |row| made.map { |one| one.column(row) }.pack("C*") }.join
      end

      # @return [String, nil] which recordings had more than full scale
      def limited(made)
        over = made.zip(@job["items"]).select { |one, _| one.limited.positive? }.map { |one, item| "#{item['title']} (#{one.limited} samples)" }
        "Limited at full scale: #{over.join(', ')}."[0, 2000] unless over.empty?
      end

      def manifest(made, frames)
        { "format" => Formats::TakeManifest::FORMAT, "id" => @id, "number" => 0, "name" => @job["name"], "state" => "complete", "note" => limited(made),
          "notes" => @job["notes"].to_s,
          "rate" => @rate, "bits" => 24, "frames" => frames, "started_at" => started.iso8601, "start_position" => 0, "project" => @job["project"], "gaps" => [], "markers" => [],
          "overview" => { "file" => OVERVIEW, "frames" => Converted::STEP }, "tracks" => made.each.with_index(1).map { |one, number| one.entry(OTHERS + number) } }
      end
    end
  end
end
