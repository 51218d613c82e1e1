# frozen_string_literal: true

require "digest"
require "fileutils"
require "forwardable"

module Loomshuttle
  module Web
    # Files that others delivered: sent by a browser or lying in a folder of this computer, looked at with ffprobe (Inspections), and handed to
    # the porter once somebody has seen what would become of them. Only folders that whoever starts us has allowed are looked into.
    class Deliveries
      extend Forwardable

      KINDS = %w[.wav .wave .bwf .rf64 .w64 .aif .aiff .aifc .caf .flac .mp3 .m4a .aac .ogg .opus .wma].freeze
      # What tells tempos and sections of a song.
      MIDI = %w[.mid .midi .smf].freeze
      # What may hold all of them.
      ZIP = ".zip"

      # @param home [String] folder of this instance   @param jobs [Jobs]
      # @param folders [AllowedFolders] below which deliveries may lie
      def initialize(home, jobs, folders: AllowedFolders.new)
        @root = File.expand_path(File.join(home, "deliveries"))
        @jobs = jobs
        @folders = folders
        @sent = SentFiles.new(@root, jobs)
      end

      def_delegators :@sent, :create, :add, :give_up, :clear, :used, :in_use=

      # @param source [Hash] "id" of a sent delivery, or "folder" on this computer: a folder, or a ZIP file that is unpacked for the inspection
      # @return [String] the folder to inspect
      # @raise [Invalid] if it does not exist or is not allowed
      def folder_of(source)
        return @sent.folder(source["id"]) if source["id"]

        folder = source["folder"].to_s
        real = @folders.allowed(folder) || AllowedFolders.new([@root]).allowed(folder)
        raise Invalid.new("#{Text.readable(folder)} is outside the allowed import folders: #{@folders.words}.", where: "folder") unless real
        raise Errno::ENOENT unless File.directory?(real) || zip?(real)

        zip?(real) ? place_of(real) : real
      rescue Errno::ENOENT
        raise Invalid.new("There is no folder #{Text.readable(folder)}.", where: "folder")
      rescue SystemCallError => e
        raise Invalid.new("#{Text.readable(folder)} cannot be read: #{Text.readable(e.message)}", where: "folder")
      end

      # @param source [Hash] as in folder_of
      # @param show [Settings::Show]
      # @yieldparam seen [Integer] files so far; the block may raise to stop
      # @return [Array(Array<Delivery::Plan::Item>, Array<Hash>)] items, and problems (where, message)
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

      # Hands the chosen items to the porter.
      # @param items [Array<Delivery::Plan::Item>] chosen (Arrangement)
      # @param part [Integer, nil] only this part of split recordings, from 1; nil for all parts in sequence
      # @return [Hash] the job
      # @raise [Invalid]
      def bring_in(items, show, name:, part: nil, who: nil)
        made = items.map { |item| item_hash(item, part, show) }
        @jobs.bring_in(name: name, rate: show.rate, project: show.about.fetch(:name, ""), items: made, who: who)
      end

      private

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
        room = [(Runtime::FreeBytes.of(@root) || SentFiles::BYTES) - SentFiles::RESERVE, SentFiles::BYTES].min
        Unpacked.new(zip, folder, kinds: [*KINDS, *MIDI], most: SentFiles::MOST, bytes: room).run(&)
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
