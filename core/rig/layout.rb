# frozen_string_literal: true

module Loomshuttle
  module Rig
    # The rig put together: the socket behind each lane of a link, the sources that channels can have, and the load of each link. Derived from desk,
    # boxes and rate; never stored.
    class Layout
      # A box as it hangs on a link. up and down: ranges of the link's lanes that its sockets take.
      Hung = Value.define(:letter, :box, :port, :place, :up, :down) do
        # @return [String] its name in clocks, findings and paths: "box-a"
        def id = "box-#{letter}"

        # @return [String] for people: "Box A"
        def title = "Box #{letter.upcase}"

        # @param kind ["in", "out"]
        # @return [Point] a socket
        def socket(kind, number) = Point.box(letter, kind, number)
      end
      # A stage source. socket: the physical socket behind it; missing: why there is none, or nil; mark: its short name.
      Source = Value.define(:point, :socket, :missing, :mark)

      attr_reader :desk, :hung, :link_lanes, :rate

      # @param desk [Desk]
      # @param boxes [Hash{String=>Settings::BoxPlan}] by letter
      # @param catalog [Catalog]
      # @param rate [Integer] samples a second
      def initialize(desk, boxes, catalog, rate)
        @desk = desk
        @rate = rate
        @link_lanes = Aes50.lanes(rate)
        @hung = boxes.values.select { |plan| plan.profile && desk.ports.include?(plan.port) }.map { |plan| hang(plan, catalog) }
          .sort_by { |one| [one.port, one.place, one.letter] }.freeze
        @up = lanes(:up, "in").freeze
        @down = lanes(:down, "out").freeze
        @sources = list_sources.to_h { |source| [source.point, source] }.freeze
        @numbers = @sources.keys.each.with_index(1).to_h.freeze
        @connected = (sockets + sources.reject(&:missing).map(&:point)).to_h { |point| [point, true] }.freeze
        freeze
      end

      # @return [Array<Hung>] boxes on a port in the order of their chain
      def chain(port) = hung.select { |one| one.port == port }

      # @return [Hash{Point=>Array<Point>}] link lane => sockets that feed it (more than one where offsets overlap)
      attr_reader :up

      # @return [Hash{Point=>Array<Point>}] link lane => sockets that it comes out of
      attr_reader :down

      # @return [Array<Source>] all possible stage sources of a channel
      def sources = @sources.values

      # @return [Hash{Point=>true}] all physical input sockets, and the lanes that they reach
      attr_reader :connected

      # @return [Integer, nil] a source's position among all, from 1
      def number(point) = @numbers[point]

      # @return [Source, nil]
      def source(point) = @sources[point]

      # @return [Point] the physical socket of a source, or the source itself if it has none
      def socket_of(point) = @sources[point]&.socket || point

      # @return [String] a point in words; for a link, the socket and its lane: "Box A in 1 (link A, lane 1)"
      def words(point)
        socket = socket_of(point)
        socket == point ? Label.for(point) : "#{Label.for(socket)} (#{Label.for(point).sub('Link', 'link')})"
      end

      # @return [Array<Point>] sockets at which an outlet (a local socket or a lane of a link) appears
      def sockets_of_outlet(point) = point.link? ? down.fetch(point, []) : [point]

      # @return [Array<Point>] all physical input sockets
      def sockets = hung.flat_map { |one| (1..one.box.inputs).map { |number| one.socket("in", number) } } + desk.input_sockets

      # Layouts of the same devices are equal, so that shows can be compared by their settings.
      def ==(other) = other.is_a?(Layout) && [desk.id, hung, rate] == [other.desk.id, other.hung, other.rate]

      def inspect = "#<Layout #{desk.name}, #{hung.map(&:id).join(' ')}, #{rate}>"

      private

      def hang(plan, catalog)
        box = catalog.fetch("box", plan.profile)
        Hung.new(letter: plan.letter, box: box, port: plan.port, place: plan.place,
                 up: (plan.input_offset + 1)..(plan.input_offset + box.inputs), down: (plan.output_offset + 1)..(plan.output_offset + box.outputs))
      end

      def lanes(way, kind)
        hung.each_with_object({}) do |one, found|
          one[way].each_with_index do |lane, at|
            (found[Point.link(one.port, way, lane)] ||= []) << one.socket(kind, at + 1) if lane <= link_lanes
          end
        end
      end

      # Boxes first: on a desk with links the stage hangs there.
      def list_sources
        families = desk.inlets.sort_by.with_index { |family, at| [family.first.link? ? 0 : 1, at] }
        families.flat_map { |family| (1..family.names).map { |n| look_up(family, n) } }
      end

      def look_up(family, number)
        point = family.point(number)
        return Source.new(point: point, socket: point, missing: nil, mark: Label.short(point)) if number <= family.present

        socket = @up[point]&.first
        Source.new(point: point, socket: socket, missing: socket ? nil : why(family, number), mark: Label.short(socket || point))
      end

      def why(family, number)
        return "the #{desk.name} has only #{family.present} #{family.label} sockets" unless family.first.link?
        return "link #{family.label} carries #{link_lanes} lanes at #{rate / 1000.0} kHz" if number > link_lanes

        chain(family.id).empty? ? "no box is connected to port #{family.label}" : "no box on port #{family.label} reaches lane #{number}"
      end
    end
  end
end
