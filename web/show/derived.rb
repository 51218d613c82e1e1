# frozen_string_literal: true

require "monitor"

module Loomshuttle
  module Web
    # One version of the show with everything that the core derives from it. Each part is computed once, however many people ask.
    class Derived
      # @return [Store::Shows::Loaded]
      attr_reader :loaded

      # @param loaded [Store::Shows::Loaded]
      # @param free [Proc] returns the free bytes of the capture disk, or nil
      # @param before [Derived, nil] the previous version; its results are reused where still valid
      def initialize(loaded, free: -> {}, before: nil)
        @loaded = loaded
        @free = free
        @base, @base_sheet = before&.known_context, before&.known_sheet
        @lock = Monitor.new
      end

      def show = loaded.show
      def version = loaded.version
      def id = loaded.id

      # @return [Checks::Context]
      def context = @lock.synchronize { @context ||= Checks::Context.of(show, before: @base).tap { @base = nil } }

      # @return [Checks::Context, nil] its own, else the one it builds on
      def known_context = @context || @base
      # @return [Signal::Sheet, nil] its own, else the one it builds on
      def known_sheet = @sheet || @base_sheet

      # All findings, including accepted ones. Free space changes constantly, so only the result of its check counts.
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
      def sheet = @lock.synchronize { @sheet ||= Signal::Sheet.new(show, context.strands, before: @base_sheet).tap { @base_sheet = nil } }
    end
  end
end
