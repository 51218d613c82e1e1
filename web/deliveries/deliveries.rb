# frozen_string_literal: true

require "digest"
require "fileutils"
require "securerandom"

module Loomshuttle
  module Web
    # Files that others delivered: sent by a browser or lying in a folder of this computer, looked at with ffprobe (Looks), and handed to
    # the porter once somebody has seen what would become of them. Only folders that whoever starts us has allowed are looked into.
    class Deliveries
      KINDS = %w[.wav .wave .bwf .rf64 .w64 .aif .aiff .aifc .caf .flac .mp3 .m4a .aac .ogg .opus .wma].freeze
      # What tells tempos and sections of a song.
      MIDI = %w[.mid .midi .smf].freeze
      # What may hold all of them.
      ZIP = ".zip"
      # Files of one delivery, and bytes of a name.
      MOST, NAME = 1000, 200
      # What is kept free when files are sent (bytes).
      RESERVE = 1 << 30
      # Delivered files are cleared away after this (seconds), the oldest sooner when there are more than so many bytes of them.
      AGE, BYTES = 7 * 24 * 3600, 40 << 30
      # What was sent or written lately is in use (seconds): a large file over a slow network takes hours.
      IN_USE = 24 * 3600

      # @param home [String] folder of this instance   @param jobs [Jobs]
      # @param folders [AllowedFolders] below which deliveries may lie
      def initialize(home, jobs, folders: AllowedFolders.new)
        @root = File.expand_path(File.join(home, "deliveries"))
        @jobs = jobs
        @folders = folders
        @in_use = -> { [] }
      end

      # @param in_use [Proc] gives folders that somebody is looking at
      attr_writer :in_use

      # @param bytes [Integer, nil] of all files that will be sent, where that is known
      # @return [String] id of a delivery that files can be sent to
      # @raise [Invalid] when they are too many bytes   @raise [Full] when the disk has no room for them
      def create(bytes: nil)
        if bytes
          if bytes > BYTES
            raise Invalid.new("#{gigabytes(bytes)} are too much to send; #{gigabytes(BYTES)} is the limit. Put the files on a disk and choose its folder.",
                              where: "bytes")
          end

          check_room(bytes)
        end
        SecureRandom.uuid.tap { |id| FileUtils.mkdir_p(File.join(@root, id), mode: 0o700) }
      end

      # Keeps a file that is sent.
      # @param io [IO]
      # @raise [Invalid]
      def add(id, name, io)
        folder = sent(id)
        plain = File.basename(Text.keep(name.to_s, "name", most: NAME, lines: false))
        raise Invalid.new("\"#{plain}\" is no name of a sound file.", where: "name") unless [*KINDS, *MIDI, ZIP].include?(File.extname(plain).downcase) && plain.bytesize <= NAME
        raise Invalid.new("A delivery has #{MOST} files at most.", where: "files") if Dir.children(folder).size >= MOST
        raise Invalid.new("This delivery has more than #{gigabytes(BYTES)}. Put the files on a disk and choose its folder.", where: "files") if sum(folder) + size_of(io) > BYTES

        take_in(io, File.join(folder, plain))
      end

      # @param source [Hash] "id" of what was sent, or "folder" on this computer: a folder, or a ZIP file, which is unpacked when it is looked into
      # @return [String] the folder to look into
      # @raise [Invalid] when it is not there, or not allowed
      def folder_of(source)
        return sent(source["id"]) if source["id"]

        folder = source["folder"].to_s
        real = @folders.allowed(folder) || AllowedFolders.new([@root]).allowed(folder)
        raise Invalid.new("#{Text.readable(folder)} is not below the folders that deliveries are looked at in: #{@folders.words}.", where: "folder") unless real
        raise Errno::ENOENT unless File.directory?(real) || zip?(real)

        zip?(real) ? place_of(real) : real
      rescue Errno::ENOENT
        raise Invalid.new("There is no folder #{Text.readable(folder)}.", where: "folder")
      rescue SystemCallError => e
        raise Invalid.new("#{Text.readable(folder)} cannot be looked into: #{Text.readable(e.message)}", where: "folder")
      end

      # @param source [Hash] as folder_of has it
      # @param show [Settings::Show]
      # @yieldparam seen [Integer] files so far; may raise to end it
      # @return [Array(Array<Delivery::Plan::Item>, Array<Hash>)] items, and what was not understood (where, message)
      # @raise [Invalid]
      def look(source, show)
        folder = folder_of(source)
        left_out = unpack(source, folder) { yield 0 if block_given? }
        found, problems = FolderWalk.new(folder, KINDS, beside: MIDI).run
        problems.unshift(*left_out)
        sounds = found.each.with_index(1).filter_map do |path, seen|
          yield seen if block_given?
          Probe.sound(File.join(folder, path)) || ((problems << { where: path, message: "cannot be read as sound" }) && nil)
        end
        raise Invalid.new("There is no sound file in #{source['folder'] ? Text.readable(source['folder']) : 'what was sent'}.", where: "folder") if sounds.empty?

        [Delivery::Plan.of(sounds, show), problems]
      end

      # Hands them to the porter.
      # @param items [Array<Delivery::Plan::Item>] that are wanted (Arrangement)
      # @param part [Integer, nil] only this part of split recordings, from 1; nil: all, one behind the other
      # @return [Hash] the job
      # @raise [Invalid]
      def bring_in(items, show, name:, part: nil, who: nil)
        made = items.map { |item| item_hash(item, part, show) }
        @jobs.bring_in(name: name, rate: show.rate, project: show.about.fetch(:name, ""), items: made, who: who)
      end

      # Clears away what was sent and is not wanted.
      # @raise [Invalid] when a job needs it
      def give_up(id)
        folder = sent(id)
        raise Invalid.new("What was sent is being brought in.", where: "id") if needed.any? { |file| file.start_with?("#{folder}/") }

        FileUtils.rm_rf(folder)
      end

      # Clears away what was used or given up: by age and size, and never what is being sent or looked at, or what a job still needs.
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

      # Clears away what became a take.
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
        free = Runtime::Programs.free_bytes(@root) or return
        return if bytes <= free - RESERVE

        raise Full, "There is no room for #{gigabytes(bytes)}: #{gigabytes([free - RESERVE, 0].max)} are free. Make room, or choose fewer files."
      end

      # @return [Array<String>] files of jobs that are not done
      def needed = @jobs.all.select { |job| Formats::JobFile::OPEN.include?(job["state"]) }.flat_map { |job| files_of(job) }

      def files_of(job) = [*job["items"], *job["stems"]].flat_map { |item| item["files"] } + [job["midi"]].compact

      def zip?(path) = File.extname(path).downcase == ZIP && File.file?(path)

      # The same for the same file, so that it is unpacked once.
      def place_of(zip) = File.join(@root, "zip-#{Digest::SHA256.hexdigest([zip, File.size(zip), File.mtime(zip).to_r].join(' '))[0, 32]}")

      # @return [Array<Hash>] what was left out
      def unpack(source, folder, &)
        return sent_zips(folder, &) if source["id"]
        return [] unless zip?(source["folder"]) && !Dir.exist?(folder)

        whole = "#{folder}.part"
        FileUtils.rm_rf(whole)
        left_out = unpacked(source["folder"], whole, &)
        Runtime::Files.publish(whole, folder)
        left_out
      end

      def sent_zips(folder, &)
        Dir.children(folder).select { |name| zip?(File.join(folder, name)) }.flat_map do |name|
          unpacked(File.join(folder, name), folder, &).tap { FileUtils.rm_f(File.join(folder, name)) }
        end
      end

      def unpacked(zip, folder, &)
        room = [(Runtime::Programs.free_bytes(@root) || BYTES) - RESERVE, BYTES].min
        Unpacked.new(zip, folder, kinds: [*KINDS, *MIDI], most: MOST, bytes: room).run(&)
      end

      def sent(id)
        folder = File.join(@root, id.to_s)
        raise Invalid.new("There is no such delivery.", where: "id") unless id.to_s.match?(Formats::JobFile::ID) && File.directory?(folder)

        folder
      end

      def take_in(io, path)
        check_room(size_of(io))
        File.open("#{path}.part", "wb") { |file| IO.copy_stream(io, file) && file.fsync }
        Runtime::Files.publish("#{path}.part", path)
      rescue Errno::ENOSPC, Errno::EDQUOT
        FileUtils.rm_f("#{path}.part")
        raise Full, "The disk became full while #{File.basename(path)} was saved. Make room and send it again."
      rescue SystemCallError => e
        FileUtils.rm_f("#{path}.part")
        raise Invalid.new("#{File.basename(path)} could not be kept: #{Text.readable(e.message)}", where: "name")
      end

      def item_hash(item, part, show)
        pieces = part && item.recording.pieces.size > 1 ? [part_of(item, part)] : item.recording.pieces
        title = item.target ? show.title_of(show.tracks[item.target]) : Text.readable(item.title, most: 120)
        { "title" => title, "track" => item.target, "lanes" => item.lanes, "wide" => pieces.flatten(1).any? { |source| source.lanes > 2 }, "offset" => part ? 0 : item.offset,
          "frames" => item.frames, "files" => pieces.flatten(1).map { |source| source.sound.path }.uniq,
          "pieces" => pieces.map { |piece| piece.map { |source| { "file" => source.sound.path, "lane" => source.lane } } } }
      end

      def part_of(item, part) = (part.positive? && item.recording.pieces[part - 1]) || raise(Invalid.new("#{item.title} has no part #{part}.", where: "part"))
    end
  end
end
