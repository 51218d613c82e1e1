# frozen_string_literal: true

require "fileutils"
require "securerandom"

module Loomshuttle
  module Web
    # Uploaded files, one folder for each upload: saved, deleted on request, and deleted by age and size.
    class SentFiles
      # Files of one delivery, and bytes of a name.
      MOST, NAME = 1000, 200
      # What is kept free when files are sent (bytes).
      RESERVE = 1 << 30
      # Delivered files are deleted after this time (seconds), the oldest earlier if all together exceed BYTES.
      AGE, BYTES = 7 * 24 * 3600, 40 << 30
      # What was sent or written lately is in use (seconds): a large file over a slow network takes hours.
      IN_USE = 24 * 3600

      # @param root [String] folder of all deliveries   @param jobs [Jobs]
      def initialize(root, jobs)
        @root, @jobs = root, jobs
        @in_use = -> { [] }
      end

      # @param in_use [Proc] gives folders that somebody is looking at
      attr_writer :in_use

      # @param bytes [Integer, nil] total size of the files to be sent, if known
      # @return [String] id of the new delivery
      # @raise [Invalid] if the limit is exceeded   @raise [Full] if the disk has no room
      def create(bytes: nil)
        if bytes
          if bytes > BYTES
            raise Invalid.new("#{gigabytes(bytes)} are too much to upload; #{gigabytes(BYTES)} is the limit. Put the files on a disk and choose its folder.",
                              where: "bytes")
          end

          check_room(bytes)
        end
        SecureRandom.uuid.tap { |id| FileUtils.mkdir_p(File.join(@root, id), mode: 0o700) }
      end

      # Stores a file being sent.
      # @param io [IO]
      # @raise [Invalid]
      def add(id, name, io)
        folder = self.folder(id)
        plain = File.basename(Text.keep(name.to_s, "name", most: NAME, lines: false))
        raise Invalid.new("\"#{plain}\" is not the name of a sound file.", where: "name") unless [*Deliveries::KINDS, *Deliveries::MIDI,
                                                                                                  Deliveries::ZIP].include?(File.extname(plain).downcase) && plain.bytesize <= NAME
        raise Invalid.new("An upload has at most #{MOST} files.", where: "files") if Dir.children(folder).size >= MOST
        raise Invalid.new("This delivery has more than #{gigabytes(BYTES)}. Put the files on a disk and choose its folder.", where: "files") if sum(folder) + size_of(io) > BYTES

        take_in(io, File.join(folder, plain))
      end

      # @param id [String]
      # @return [String] folder of the delivery
      # @raise [Invalid]
      def folder(id)
        folder = File.join(@root, id.to_s)
        raise Invalid.new("There is no such upload.", where: "id") unless id.to_s.match?(Formats::JobFile::ID) && File.directory?(folder)

        folder
      end

      # Deletes a delivery that is not wanted.
      # @raise [Invalid] if a job needs it
      def give_up(id)
        folder = self.folder(id)
        raise Invalid.new("These files are being imported.", where: "id") if needed.any? { |file| file.start_with?("#{folder}/") }

        FileUtils.rm_rf(folder)
      end

      # Deletes used or abandoned deliveries by age and size, but never one that is being sent, inspected or used by a job.
      # @param now [Time]
      def clear(now = Time.now)
        used, kept = needed + @in_use.call.map { |folder| "#{folder}/" }, 0
        Runtime::Files.matching(@root, "*").sort_by { |path| File.mtime(path) }.reverse_each do |path|
          kept += sum(path)
          next if now - touched(path) < IN_USE || used.any? { |file| file.start_with?("#{path}/") }

          FileUtils.rm_rf(path) if now - File.mtime(path) > AGE || kept > BYTES
        rescue SystemCallError
          next
        end
      end

      # Deletes a delivery that has become a take.
      # @param job [Hash]
      def used(job)
        files_of(job).map { |path| File.dirname(path) }.uniq.each { |folder| FileUtils.rm_rf(folder) if File.dirname(folder) == @root }
      end

      private

      def gigabytes(bytes) = "#{(bytes / 1e9).round(1)} GB"
      def sum(folder) = Runtime::Files.matching(folder, "*").sum { |file| File.size(file) }
      def size_of(io) = io.respond_to?(:size) ? io.size.to_i : 0

      # @return [Time] when something was last written into it; a file on its way grows
      def touched(folder) = [folder, *Runtime::Files.matching(folder, "*")].map { |path| File.mtime(path) }.max

      def check_room(bytes)
        free = Runtime::FreeBytes.of(@root) or return
        return if bytes <= free - RESERVE

        raise Full, "There is no room for #{gigabytes(bytes)}: #{gigabytes([free - RESERVE, 0].max)} are free. Make room, or choose fewer files."
      end

      # @return [Array<String>] files of jobs that are not done
      def needed = @jobs.all.select { |job| Formats::JobFile::OPEN.include?(job["state"]) }.flat_map { |job| files_of(job) }

      def files_of(job) = [*job["items"], *job["stems"]].flat_map { |item| item["files"] } + [job["midi"]].compact

      def take_in(io, path)
        check_room(size_of(io))
        File.open("#{path}.part", "wb") { |file| IO.copy_stream(io, file) && file.fsync }
        Runtime::Files.publish("#{path}.part", path)
      rescue Errno::ENOSPC, Errno::EDQUOT
        FileUtils.rm_f("#{path}.part")
        raise Full, "The disk became full while #{File.basename(path)} was saved. Make room and send it again."
      rescue SystemCallError => e
        FileUtils.rm_f("#{path}.part")
        raise Invalid.new("#{File.basename(path)} could not be saved: #{Text.readable(e.message)}", where: "name")
      end
    end
  end
end
