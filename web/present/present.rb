# frozen_string_literal: true

module Loomshuttle
  module Web
    # A show and what the core derives from it, in the terms of the API (schemas Show, Strand, Finding, Hop).
    class Present
      # @param derived [Derived]
      # @param heard [Array<Checks::Finding>] about who hears what
      def initialize(derived, heard: [])
        @derived, @heard = derived, heard
        @show = derived.show
      end

      def strands = @derived.context.strands.map { |strand| PresentStrand.of(@show, strand) }

      # All findings; accepted ones with their reason.
      def findings
        Checks.in_order(@derived.findings + @heard).map do |finding|
          finding.to_h.merge(path: finding.path.map { |point| { point: point, label: Rig::Label.for(point) } }, accepted: @show.setup.accepted[finding.id], **mending(finding.fix))
        end
      end

      # @param id [String] of a strand
      # @raise [Invalid] if there is none
      def strand_trace(id)
        strand = @derived.context.strands.find { |one| one.id == id } or raise Invalid.new("There is no strand #{id} any more.", where: "strand")
        hops = story.of_strand(strand).map { |hop| hop_hash(hop) }
        { strand: PresentStrand.of(@show, strand), hops: hops, comes_home: strand.comes_home? }
      end

      # @param name [String] of any point of the graph
      # @return [Hash] every path through it (schema PointTrace)
      # @raise [Invalid] if it does not name a point
      def point_trace(name)
        point = Rig::Point.of(name)
        { point: point, label: @show.label(point), ways: story.through(point).map { |hops| hops.map { |hop| hop_hash(hop) } } }
      end

      private

      # What mends a finding: an edit of the plan, or levels to be pressed at the desk.
      def mending(fix)
        pressed = fix.is_a?(Hearing::Press)
        { fix: fix && !pressed ? { label: fix.label, settings: fix.settings } : nil, press: pressed ? fix.to_h : nil }
      end

      def story = @derived.context.then { |context| Signal::Story.new(@show, context.graph, context.levels) }

      def hop_hash(hop)
        hop.to_h.merge(delay_ms: Timing::Latency.ms(hop.delay, @show.rate).round(2), total_delay_ms: Timing::Latency.ms(hop.total_delay, @show.rate).round(2))
      end
    end
  end
end
