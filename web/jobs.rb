# frozen_string_literal: true

require "fileutils"
require "json"
require "securerandom"

module Loomshuttle
  module Web
    # Jobs that the porter does, in their folders: made, listed, ended and cleared away here (docs/formats.md).
    class Jobs
      FILE = "job.json"
      SHEET = "patch sheet.pdf"

      # @param home [String] folder of this instance
      def initialize(home)
        @root = File.expand_path(File.join(home, "jobs"))
      end

      # @param take [Hash] manifest with "folder"   @param form ["folder", "zip"]
      # @param sheet [String, nil] bytes of the patch sheet
      # @return [Hash] the job
      def export(take, form:, tracks: nil, from: nil, to: nil, part: nil, sheet: nil, who: nil)
        make({ "kind" => "export", "take" => take["folder"], "number" => take["number"], "name" => safe([format("%04d", take["number"]), take["name"], part].compact.join(" ")),
               "form" => form, "tracks" => tracks, "from" => from, "to" => to, "who" => who }, sheet ? { SHEET => sheet } : {})
      end

      # @param items [Array<Hash>] title, track, lanes, offset and files (Porter::BringIn)
      # @return [Hash] the job
      def bring_in(name:, rate:, project:, items:, who: nil)
        raise Invalid.new("A take needs a name.", where: "name") if name.to_s.strip.empty?
        raise Invalid.new("Choose at least one file.", where: "items") if items.empty?
        raise Invalid.new("Two files cannot go to one track.", where: "items") unless items.filter_map { |item| item["track"] }.then { |all| all.uniq == all }

        make({ "kind" => "bring-in", "name" => name.strip, "rate" => rate, "project" => project, "items" => items, "started_at" => Time.now.iso8601, "form" => "take",
               "notes" => "Brought in", "who" => who }, {})
      end

      # @return [Array<Hash>] takes that are made and that nobody has taken over yet
      def ready = all.select { |job| job["kind"] == "bring-in" && job["state"] == "done" && Dir.exist?(job["result"]) }

      # @return [Array<Hash>] newest first
      def all
        Dir.glob(File.join(@root, "*", FILE)).filter_map { |path| read(path) }.sort_by { |job| job["made_at"] }.reverse
      end

      # @raise [Invalid] when there is none
      def find(id) = all.find { |job| job["id"] == id } || raise(Invalid.new("There is no such job any more.", where: "job"))

      # Asks the porter to end it.
      def cancel(id) = FileUtils.touch(File.join(folder(find(id)), "cancel"))

      # Clears away what came of it.
      # @raise [Invalid] while it is under way
      def delete(id)
        job = find(id)
        raise Invalid.new("It is still under way; end it first.", where: "job") if %w[waiting running].include?(job["state"])

        FileUtils.rm_rf(folder(job))
      end

      private

      def make(data, files)
        id = SecureRandom.uuid
        folder = File.join(@root, id)
        FileUtils.mkdir_p(folder)
        files.each { |name, bytes| File.binwrite(File.join(folder, name), bytes) }
        job = { "id" => id, **data, "state" => "waiting", "done" => 0, "total" => 0, "made_at" => Time.now.iso8601(3) }
        File.write(File.join(folder, "#{FILE}.new"), JSON.pretty_generate(job))
        File.rename(File.join(folder, "#{FILE}.new"), File.join(folder, FILE))
        job
      end

      def folder(job) = File.join(@root, job["id"])

      def read(path)
        JSON.parse(File.read(path))
      rescue SystemCallError, JSON::ParserError
        nil
      end

      def safe(name) = name.gsub(/[^[:alnum:] _-]+/, "_").strip[0, 80]
    end
  end
end
