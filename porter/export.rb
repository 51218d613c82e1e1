# frozen_string_literal: true

require "digest"
require "fileutils"

module Loomshuttle
  module Porter
    # Exports a take or a part of it: sound, markers, patch sheet, manifest and checksums, as a folder or a ZIP file. Each file gets its name when
    # it is complete, so after a restart only missing files are made.
    class Export
      SUMS = "SHA256SUMS"
      SHEET = "patch sheet.pdf"

      # @param job [Job] take (its folder), tracks (numbers, or nil for all), from and to (frames), form ("folder" or "zip"), sound (SoundForm), name
      # @param stopped [Proc] returns whether the process has to stop   @param room [Room] on the disk
      def initialize(job, stopped:, room:)
        @job, @stopped, @room = job, stopped, room
        @cut = Cut.new(job["take"], tracks: job["tracks"], from: job["from"], to: job["to"])
        @form = SoundForm.new(@cut, job["sound"])
        @sums = job.data.fetch("files", {}).dup
        @done = 0
      end

      def run
        raise Invalid.new("#{@job['place']} is not there any more; is its disk plugged in?", where: "folder") unless @job["place"].nil? || File.directory?(@job["place"])

        FileUtils.mkdir_p(work)
        keep_sound
        @total = @cut.bytes * (zip? ? 2 : 1)
        @room.check(@total)
        @form.files.each { |name, tracks| make(name) { |path| @form.write(tracks, path) { |bytes| step(bytes) } } }
        @form.lists.each { |name, bytes| make(name) { |path| Runtime::Files.write(path, bytes) } }
        make(SHEET) { |path| FileUtils.cp(@job.path(SHEET), path) } if File.exist?(@job.path(SHEET))
        Runtime::Files.write(File.join(work, SUMS), @sums.map { |name, sum| "#{sum}  #{name}\n" }.join)
        Runtime::Files.sync(work)
        finish
      end

      private

      # What another run has made stays where it is called as it would be now; lists are made again.
      def keep_sound
        wanted = @form.files.keys
        @sums.keep_if { |name, _| wanted.include?(name) }
        (Dir.children(work) - wanted).each { |name| FileUtils.rm_f(File.join(work, name)) }
      end

      def zip? = @job["form"] == "zip"
      def work = File.join(@job.work, @job["name"])

      def make(name)
        path = File.join(work, name)
        if @sums.key?(name) && File.exist?(path)
          @done += File.size(path)
        else
          FileUtils.rm_f("#{path}.part")
          yield "#{path}.part"
          @sums[name] = Digest::SHA256.file("#{path}.part").hexdigest
          Runtime::Files.sync("#{path}.part")
          Runtime::Files.publish("#{path}.part", path)
        end
        @job.update(files: @sums, done: @done, total: @total)
      end

      def step(bytes)
        @done += bytes
        @room.check(@total - @done)
        @job.check
        raise Job::Stopped if @stopped.call

        return unless @told.nil? || @done - @told > @total / 100

        @told = @done
        @job.update(done: @done, total: @total)
      end

      def finish
        made = zip? ? packed : work
        result = @job["place"] ? beside(File.join(@job["place"], File.basename(made))) : @job.path(File.basename(made))
        @job["place"] ? open_up(made) : FileUtils.rm_rf(result)
        Runtime::Files.publish(made, result)
        FileUtils.rm_rf(@job.work)
        @job.update(state: "done", done: @total, result: result, files: @sums)
      end

      def packed
        "#{work}.zip".tap do |zip|
          ZipFolder.pack(work, "#{zip}.part") { |bytes| step(bytes) }
          Runtime::Files.sync("#{zip}.part")
          Runtime::Files.publish("#{zip}.part", zip)
        end
      end

      # Everybody who may read the target folder may read the export, e.g. the person who mixes.
      def open_up(made)
        others = File.stat(@job["place"]).mode & 0o055
        [made, *(File.directory?(made) ? Dir.children(made).map { |name| File.join(made, name) } : [])].each do |path|
          File.chmod(File.directory?(path) ? 0o700 | others : 0o600 | (others & 0o044), path)
        end
      rescue SystemCallError
        nil # a disk without such rights
      end

      # What lies there already is somebody's, and stays.
      def beside(path)
        ending = zip? ? ".zip" : ""
        (1..).lazy.map { |n| n == 1 ? path : "#{path.delete_suffix(ending)} #{n}#{ending}" }.find { |one| !File.exist?(one) }
      end
    end
  end
end
