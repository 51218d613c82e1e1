# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Porter
    # Renders the stems of a song at another tempo or in another key with Rubber Band, each exactly as long as the song says, into the files that
    # Songs::Varied names. Existing files are not rendered again. The library takes them over.
    class VarySong
      # A stem has so long (seconds).
      SECONDS = 3600
      PROGRAM = "rubberband"
      # Frames that are copied at once.
      BLOCK = 1 << 18

      # @param job [Job] song (folder), tempo and key   @param stopped [Proc] returns whether the process has to stop   @param room [Room] on the disk
      def initialize(job, stopped:, room:)
        @job, @stopped, @room = job, stopped, room
      end

      # Starts over with a stem that was interrupted.
      def run
        data = Songs::SongFile.read(@job["song"])
        stems = data["stems"].zip(Songs::Varied.data(data, @job["tempo"], @job["key"])["stems"]).reject { |_, made| File.file?(File.join(@job["song"], made["file"])) }
        @total, @done = stems.sum { |_, made| made["frames"] }, 0
        @room.check(stems.sum { |_, made| made["frames"] * made["lanes"] * 4 })
        stems.each { |stem, made| make(stem, made, data["rate"]) }
        FileUtils.mkdir_p(work)
        @job.update(state: "done", done: @total, total: @total, result: work)
      end

      private

      def work = @job.path("work")
      def words = Songs::Varied.words(@job["tempo"], @job["key"])

      def make(stem, made, rate)
        target = File.join(work, made["file"])
        unless File.file?(target)
          FileUtils.mkdir_p(File.dirname(target))
          stretched = "#{target}.stretched.wav"
          stretch(stem, made, rate, stretched)
          copy(stretched, "#{target}.part", stem, made, rate)
          Runtime::Files.publish("#{target}.part", target)
          FileUtils.rm_f(stretched)
        end
        @job.update(done: @done += made["frames"], total: @total)
      end

      def stretch(stem, made, rate, out)
        asked = ["--fine", "--quiet", "--ignore-clipping", "--duration", format("%.9f", made["frames"].fdiv(rate)), "--pitch", Songs::Varied.semitones(stem, @job["key"]).to_s]
        said, well = Attended.new(@job, stopped: @stopped, seconds: SECONDS, where: stem["name"]).run(PROGRAM, *asked, File.join(@job["song"], stem["file"]), out) { @room.check }
        return if well

        raise Invalid.new("#{stem['name']} could not be made at #{words}: #{Text.readable(said.lines.last.to_s.strip, most: 200)}", where: "song")
      rescue Errno::ENOENT
        raise Invalid.new("Other tempos and keys need Debian's package rubberband-cli; install it and try again.", where: "song")
      end

      # To the length that the song says, though the program may round otherwise.
      def copy(from, target, stem, made, rate)
        FileUtils.rm_f(target)
        source = Formats::Wav::Reader.new(from)
        now = Time.now
        bext = Formats::Bext.new(description: "#{stem['name']}: #{words}", originator: "Loomshuttle", reference: "", date: now.strftime("%Y-%m-%d"), time: now.strftime("%H:%M:%S"),
                                 time_reference: 0, history: "A=PCM,F=#{rate},W=32,M=#{made['lanes'] == 1 ? 'mono' : 'stereo'},T=Rubber Band")
        writer = Formats::Wav::Writer.new(target, bext: bext, lanes: made["lanes"], rate: rate, bits: 32)
        whole = [source.frames, made["frames"]].min
        (0...whole).step(BLOCK) { |at| writer.write(source.bytes(at, [BLOCK, whole - at].min)) }
        writer.rest(made["frames"] - whole) if made["frames"] > whole
        writer.close
      ensure
        source&.close
      end
    end
  end
end
