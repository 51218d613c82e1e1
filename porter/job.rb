# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Porter
    # A job and its progress: a folder with job.json (Formats::JobFile), which only the porter writes once the job exists, and its result. To cancel
    # a job, a file "cancel" is put beside it (docs/formats.md).
    class Job
      FILE = Formats::JobFile::FILE
      CANCEL = "cancel"

      # Somebody does not want it any more.
      class Cancelled < StandardError; end
      # The process ends while the job is under way.
      class Stopped < StandardError; end

      attr_reader :folder, :data

      # @param root [String] folder of all jobs   @param index [Runtime::FolderIndex] of them, from `index`
      # @return [Array<Job>] unfinished jobs, oldest first; unreadable ones are left alone and shown on the screens
      def self.open(root, index = index(root)) = index.all.select { |job| Formats::JobFile::OPEN.include?(job.data["state"]) }.sort_by { |job| job.data["made_at"] }

      # @return [Runtime::FolderIndex] rereads a job's file only after it changed
      def self.index(root) = Runtime::FolderIndex.new(root, FILE, settled: ->(job) { !Formats::JobFile::OPEN.include?(job["state"]) }) { |folder| read(folder) }

      # @return [Job, nil]
      def self.read(folder)
        new(folder)
      rescue SystemCallError, Invalid
        nil
      end

      # @raise [Invalid] if its file does not describe a job   @raise [SystemCallError]
      def initialize(folder)
        @folder = folder
        @data = Formats::JobFile.read(folder)
      end

      def [](field) = @data[field]
      def id = @data["id"]
      def path(*names) = File.join(@folder, *names)

      # @return [String] folder for unfinished work, on the target disk
      def work = self["place"] ? File.join(self["place"], ".loomshuttle-#{id}") : path("work")

      # @param changes [Hash] state, done (bytes), total, files, result, error, tries
      # @raise [SystemCallError] if the disk is full
      def update(**changes)
        @data = @data.merge(changes.transform_keys(&:to_s))
        Runtime::Files.replace(path(FILE), Formats::JobFile.dump(@data))
      end

      # @raise [Cancelled]
      def check
        raise Cancelled if File.exist?(path(CANCEL))
      end
    end
  end
end
