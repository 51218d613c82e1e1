# frozen_string_literal: true

require "fileutils"
require "securerandom"

module Loomshuttle
  module Porter
    # Turns a folder of stems into a song. Each stem is converted to 32-bit float at the playback rate, with waveform, checksum and mono loss;
    # tempo, sections and loudness come from a MIDI file, a name, or detection. The library takes it over after a preview.
    class BringSong
      OVERVIEW = "overview.u8"
      # No song is longer (seconds).
      LONGEST = 2 * 3600

      # @param job [Job] name, rate, stems, midi and bpm (Formats::JobFile)
      # @param stopped [Proc] returns whether the process has to stop   @param room [Room] on the disk
      def initialize(job, stopped:, room:)
        @job, @stopped, @room, @rate = job, stopped, room, job["rate"]
        @id = SecureRandom.uuid
        @done = 0
      end

      # Starts over if it was interrupted: nothing has left the work folder yet.
      def run
        FileUtils.rm_rf(work)
        FileUtils.mkdir_p(work)
        @room.check(@job["stems"].sum { |stem| stem["frames"].to_i * stem["lanes"] * 4 })
        @total = @job["stems"].sum { |stem| stem["files"].sum { |path| File.size(path) } }
        made = @job["stems"].each.with_index(1).map { |stem, number| convert(stem, number) }
        frames = made.map(&:frames).max
        made.each { |one| one.close(one.frames) }
        Runtime::Files.write(File.join(work, OVERVIEW), overview(made))
        write(song(made, frames))
        Runtime::Files.sync_tree(work)
        @job.update(state: "done", done: @total, total: @total, result: work)
      end

      private

      def work = @job.path("work")

      def convert(stem, number)
        made = Stem.new(stem.merge("offset" => 0, "title" => stem["name"]), writer(stem, number), @rate)
        stem["files"].size == 2 ? made.append_pair(*stem["files"]) { go_on(made) } : made.append(stem["files"].first) { go_on(made) }
        @done += stem["files"].sum { |path| File.size(path) }
        @job.update(done: @done, total: @total)
        made
      end

      def go_on(made)
        raise Invalid.new("#{made.file} is longer than #{LONGEST / 3600} hours.", where: "files") if made.frames > LONGEST * @rate

        @room.check
        @job.check
        raise Job::Stopped if @stopped.call
      end

      def writer(stem, number)
        title = Formats::FileNames.safe(stem["role"])
        bext = Formats::Bext.new(description: "#{@job['name']}: #{stem['role']}", originator: "Loomshuttle", reference: @id.delete("-"), date: Time.now.strftime("%Y-%m-%d"),
                                 time: Time.now.strftime("%H:%M:%S"), time_reference: 0, history: "A=PCM,F=#{@rate},W=32,M=#{stem['lanes'] == 1 ? 'mono' : 'stereo'},T=Loomshuttle")
        Formats::Wav::Writer.new(File.join(work, "#{format('%02d', number)} #{title}.wav"), bext: bext, lanes: stem["lanes"], rate: @rate, bits: 32)
      end

      def overview(made)
        rows = made.map { |one| one.columns.size }.max
        (0...rows).map { |row| made.map { |one| one.column(row) }.pack("C*") }.join
      end

      def song(made, frames)
        stems = made.each.with_index(1).map do |one, number|
          told = @job["stems"][number - 1]
          { "id" => number, "name" => told["name"], "role" => told["role"], "file" => one.file, "lanes" => told["lanes"], "frames" => one.frames, "sum" => one.sum,
            "source" => told["files"].map { |path| File.basename(path) }.join(" + ")[0, 255], "mono_db" => one.mono_db }
        end
        base = { "format" => Songs::SongFile::FORMAT, "id" => @id, "version" => 1, "rate" => @rate, "frames" => frames, "name" => @job["name"][0, 80], "stems" => stems }
        with_marks(base.merge(click_of(stems), tempo(stems), "loudness" => Loudness.of(paths(stems, "parts"))))
      end

      # Places that are marked in a file begin sections, where no MIDI file says it better.
      def with_marks(data)
        return data if data["sections"]&.any?

        stem = @job["stems"].find { |one| marks(one["files"].first).any? } or return data
        sections = Songs::FromCues.sections(marks(stem["files"].first), Songs::SongFile.song(Songs::SongFile.check(data)))
        data.merge("sections" => sections)
      end

      # @return [Array<Array(Integer, String)>] at the playback rate
      def marks(path) = Formats::Wav::Cues.of(path).map { |seconds, name| [(seconds * @rate).round, name] }

      # A click that came with the song is the song's.
      def click_of(stems)
        click = stems.find { |stem| Songs::Role.kind_of(stem["role"]) == "click" }
        click ? { "click" => { "stem" => click["id"] } } : {}
      end

      def paths(stems, kind) = stems.select { |stem| Songs::Role.kind_of(stem["role"]) == kind }.map { |stem| File.join(work, stem["file"]) }

      # What the MIDI file tells counts, then a figure in a name; the beat tracker tells where the first beat is, or both.
      def tempo(stems)
        midi = @job["midi"] && Songs::FromMidi.changes(Formats::MidiReader.new(File.binread(@job["midi"], Formats::MidiReader::LARGEST + 1)))
        return midi if midi

        heard = Beats.of((paths(stems, "click") + paths(stems, "parts")).first, @rate) if paths(stems, "click").any? || paths(stems, "parts").any?
        bpm = @job["bpm"] || heard&.bpm or return {}
        first = heard && (heard.bpm - bpm).abs < 2 ? heard.first : 0
        { "tempos" => [{ "at" => 0, "bpm" => bpm, "ramp" => false }], "start" => first }
      end

      def write(data)
        Runtime::Files.write(File.join(work, Songs::SongFile::FILE), Songs::SongFile.dump(Songs::SongFile.check(data)))
      rescue Invalid => e
        # A map that does not fit the files is left out, and the rest stays.
        raise unless data.key?("sections") || data.key?("tempos")

        Runtime::Log.now.warn("#{data['name']}: #{e.message}")
        write(data.except("sections", "tempos", "meters", "start"))
      end
    end
  end
end
