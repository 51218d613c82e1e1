# frozen_string_literal: true

require "fileutils"
require "json"

module Loomshuttle
  module Porter
    # A job and how far it is: a folder with job.json, which only the porter writes once the job is there, and what comes of it.
    # Whoever wants it to end puts a file "cancel" beside it (docs/formats.md).
    class Job
      FILE = "job.json"
      CANCEL = "cancel"
      OPEN = %w[waiting running].freeze

      # Somebody does not want it any more.
      class Cancelled < StandardError; end

      attr_reader :folder, :data

      # @param root [String] folder of all jobs
      # @return [Array<Job>] those that are not over, oldest first
      def self.open(root)
        Dir.glob(File.join(root, "*", FILE)).filter_map { |path| new(File.dirname(path)) }.select { |job| OPEN.include?(job.data["state"]) }
          .sort_by { |job| job.data["made_at"].to_s }
      end

      def initialize(folder)
        @folder = folder
        @data = JSON.parse(File.read(File.join(folder, FILE)))
      end

      def [](field) = @data[field]
      def path(*names) = File.join(@folder, *names)

      # @param changes [Hash] state, done (bytes), total, files, result, error
      def update(**changes)
        @data = @data.merge(changes.transform_keys(&:to_s))
        File.write("#{path(FILE)}.new", JSON.pretty_generate(@data))
        File.rename("#{path(FILE)}.new", path(FILE))
      end

      # @raise [Cancelled]
      def check
        raise Cancelled if File.exist?(path(CANCEL))
      end
    end
  end
end
