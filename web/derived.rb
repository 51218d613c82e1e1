# frozen_string_literal: true

require "monitor"

module Loomshuttle
  module Web
    # One version of the show with all that the core derives from it, each computed once, however many ask.
    class Derived
      # @return [Store::Shows::Loaded]
      attr_reader :loaded

      # @param loaded [Store::Shows::Loaded]
      # @param free [Proc] free bytes of the capture disk, or nil
      def initialize(loaded, free: -> {})
        @loaded = loaded
        @free = free
        @lock = Monitor.new
      end

      def show = loaded.show
      def version = loaded.version
      def id = loaded.id

      # @return [Checks::Context]
      def context = @lock.synchronize { @context ||= Checks::Context.of(show) }

      # All findings, accepted ones too. The free space changes all the time; only what the check of it says counts.
      # @return [Array<Checks::Finding>]
      def findings
        @lock.synchronize do
          now = context.with(free_bytes: @free.call)
          disk = Checks::DiskTime.findings(now).map(&:sentence)
          @findings = nil unless disk == @disk
          @disk = disk
          @findings ||= Checks.run(now).freeze
        end
      end

      # @return [Array<Checks::Finding>] those that nobody has accepted
      def open_findings = findings.reject { |finding| show.setup.accepted.key?(finding.id) }

      # @return [Signal::Sheet]
      def sheet = @lock.synchronize { @sheet ||= Signal::Sheet.new(show, context.strands) }
    end
  end
end
