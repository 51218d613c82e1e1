# frozen_string_literal: true

require "fileutils"
require "json"

module Loomshuttle
  module Porter
    # Renders a song to files, one for each output. A process of the player does it (processes/render.rb), so the result is the same to the sample.
    class RenderSong
      # It has so long (seconds).
      SECONDS = 3600

      # @param job [Job] song (folder), roles, pilot, item, fps and hour   @param stopped [Proc]   @param room [Room] on the disk
      def initialize(job, stopped:, room:)
        @job, @stopped, @room = job, stopped, room
      end

      # Starts over if it was interrupted.
      def run
        @room.check
        out = @job.path("work", @job["name"])
        FileUtils.rm_rf(@job.path("work"))
        FileUtils.mkdir_p(@job.path("work"))
        problem, limited = made(out)
        raise Invalid.new(problem, where: "song") if problem

        Runtime::Files.sync_tree(@job.path("work"))
        @job.update(state: "done", done: 1, total: 1, result: out, **(limited ? { note: limited } : {}))
      end

      private

      # @return [Array(String, String)] what went wrong, and which outputs were limited; nil where there is nothing to say
      def made(out)
        asked = JSON.generate(@job.data.slice("roles", "pilot", "item", "fps", "hour"))
        attended = Attended.new(@job, stopped: @stopped, seconds: SECONDS, where: "song")
        said, well = attended.run(RbConfig.ruby, File.join(ROOT, "processes", "render.rb"), @job["song"], out, input: asked)
        well ? [nil, limited(said)] : [Text.readable(said.lines.last.to_s.strip, most: 400), nil]
      end

      def limited(said)
        outputs = JSON.parse(said.lines.last.to_s)["limited"].to_a.map { |one| one["output"] }
        "Limited at full scale: output #{outputs.join(', ')}. Turn down what goes there." unless outputs.empty?
      rescue JSON::ParserError
        nil
      end
    end
  end
end
