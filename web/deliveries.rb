# frozen_string_literal: true

require "fileutils"
require "json"
require "open3"
require "securerandom"

module Loomshuttle
  module Web
    # Files that others delivered: sent by a browser or lying in a folder of this computer, looked at with ffprobe, and handed to
    # the porter once somebody has seen what would become of them.
    class Deliveries
      KINDS = %w[.wav .wave .bwf .rf64 .w64 .aif .aiff .aifc .caf .flac .mp3 .m4a .aac .ogg .opus .wma].freeze

      # @param home [String] folder of this instance   @param jobs [Jobs]
      def initialize(home, jobs)
        @root = File.expand_path(File.join(home, "deliveries"))
        @jobs = jobs
      end

      # @return [String] id of a delivery that files can be sent to
      def create
        SecureRandom.uuid.tap { |id| FileUtils.mkdir_p(File.join(@root, id)) }
      end

      # Keeps a file that is sent.
      # @param io [IO]
      # @raise [Invalid]
      def add(id, name, io)
        folder = folder_of("id" => id)
        plain = File.basename(name.to_s)
        raise Invalid.new("\"#{plain}\" is no name of a sound file.", where: "name") unless KINDS.include?(File.extname(plain).downcase)

        path = File.join(folder, plain)
        File.open("#{path}.part", "wb") { |file| IO.copy_stream(io, file) }
        File.rename("#{path}.part", path)
      end

      # @param source [Hash] "id" of what was sent, or "folder" on this computer
      # @param show [Patch::Show]
      # @return [Array(Array<Delivery::Plan::Item>, Array<Hash>)] items, and what was not understood (where, message)
      # @raise [Invalid]
      def look(source, show)
        folder = folder_of(source)
        found, others = Dir.glob("**/*", base: folder).select { |path| File.file?(File.join(folder, path)) }.partition { |path| KINDS.include?(File.extname(path).downcase) }
        sounds, problems = [], others.reject { |path| File.basename(path).start_with?(".") }.map { |path| { where: path, message: "is no sound file and is left out" } }
        found.sort.each do |path|
          sound = sound(File.join(folder, path))
          sound ? sounds << sound : problems << { where: path, message: "cannot be read as sound" }
        end
        raise Invalid.new("There is no sound file in #{source['folder'] || 'what was sent'}.", where: "folder") if sounds.empty?

        [Delivery::Plan.of(sounds, show), problems]
      end

      # Hands them to the porter.
      # @param choices [Array<Hash>] "files" (paths as they were told) and "track" (or nil), for those that are wanted
      # @param part [Integer, nil] only this part of split recordings, from 1; nil: all, one behind the other
      # @return [Hash] the job
      def bring_in(source, show, name:, choices:, part: nil, who: nil)
        items, = look(source, show)
        wanted = choices.map do |choice|
          item = items.find { |one| one.sounds.map(&:path) == choice["files"] } || raise(Invalid.new("What was delivered has changed meanwhile; look at it again.", where: "items"))
          item_hash(item, choice["track"], part, show)
        end
        @jobs.bring_in(name: name, rate: show.rate, project: show.about.fetch(:name, ""), items: wanted, who: who)
      end

      private

      def item_hash(item, track, part, show)
        sounds = part && item.sounds.size > 1 ? [part_of(item, part)] : item.sounds
        title = track ? show.title_of(show.tracks[track]) : File.basename(sounds.first.path, ".*")
        { "title" => title, "track" => track, "lanes" => item.lanes, "wide" => sounds.any? { |sound| sound.lanes > 2 }, "offset" => part ? 0 : item.offset,
          "files" => sounds.map(&:path) }
      end

      def part_of(item, part) = item.sounds[part - 1] || raise(Invalid.new("#{item.title} has no part #{part}.", where: "part"))

      def folder_of(source)
        id = source["id"]
        raise Invalid.new("There is no such delivery.", where: "id") if id && !id.match?(/\A[0-9a-f-]{36}\z/)

        folder = id ? File.join(@root, id) : source["folder"].to_s
        raise Invalid.new("There is no folder #{folder}.", where: "folder") unless folder.start_with?("/") && File.directory?(folder)

        folder
      end

      # @return [Delivery::Plan::Sound, nil] nil for what ffprobe cannot read
      def sound(path)
        text, status = Open3.capture2("ffprobe", "-v", "error", "-of", "json", "-select_streams", "a:0", "-show_streams", "-show_format", path, err: File::NULL)
        stream = status.success? && JSON.parse(text)
        first = stream && stream["streams"]&.first or return
        rate = first["sample_rate"].to_i
        tags = stream.dig("format", "tags") || {}
        Delivery::Plan::Sound.new(path: path, name: Delivery::Name.parse(path), rate: rate, lanes: first["channels"].to_i, codec: first["codec_name"],
                                  frames: ((first["duration"] || stream.dig("format", "duration")).to_f * rate).round, time_reference: tags["time_reference"]&.to_i)
      end
    end
  end
end
