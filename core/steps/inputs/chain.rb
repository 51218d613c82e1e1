# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Settings for boxes in a chain on one link.
    module Chain
      # @param chain [Array<Rig::Layout::Hung>] in order
      # @return [Hash{String=>Integer}] offsets by letter, so that each box starts after the previous one's lanes
      def self.offsets(chain)
        up = down = 0
        chain.each_with_object({}) do |hung, settings|
          settings["box/#{hung.letter}/input_offset"] = up
          settings["box/#{hung.letter}/output_offset"] = down
          up += hung.box.inputs
          down += hung.box.outputs
        end
      end

      # @param show [Settings::Show]
      # @param profile [String] id of a box's profile
      # @param port [String, nil]
      # @return [Settings::Edit] adds a box under the first free letter, at the end of the port's chain
      # @raise [Invalid] if there are eight boxes already, or the link has no room for it
      def self.add(show, profile:, port:)
        box = show.catalog.fetch("box", profile)
        letter = show.boxes.values.find { |plan| plan.profile.nil? }&.letter or
          raise Invalid.new("A rig has at most #{Settings::LETTERS.size} boxes.", where: "box")
        Settings::Edit.set("Add #{box.name} as box #{letter.upcase}", { "box/#{letter}/profile" => profile }.merge(port ? behind(show, letter, box, port) : {}))
      end

      # @return [Settings::Edit] moves a box to the end of a port's chain, or disconnects it (port nil)
      # @raise [Invalid] if the link has no room for it
      def self.connect(show, letter, port)
        plan = show.boxes[letter]
        raise Invalid.new("There is no box #{letter.to_s.upcase}.", where: "box/#{letter}") unless plan&.profile
        return Settings::Edit.set("Disconnect box #{letter.upcase} from its link", "box/#{letter}/port" => nil) unless port

        Settings::Edit.set("Connect box #{letter.upcase} to port #{port.upcase}", behind(show, letter, show.catalog.fetch("box", plan.profile), port))
      end

      def self.behind(show, letter, box, port)
        chain = show.layout.chain(port).reject { |hung| hung.letter == letter }
        up, down = %i[up down].map { |way| chain.map { |hung| hung[way].max }.max.to_i }
        lanes = show.layout.link_lanes
        if up + box.inputs > lanes || down + box.outputs > lanes
          left = [up, down].map { |used| [lanes - used, 0].max }
          raise Invalid.new("Link #{port.upcase} has #{left.first} lanes up and #{left.last} down left, and #{box.name} needs #{box.inputs} and #{box.outputs}.",
                            where: "box/#{letter}/port")
        end

        { "box/#{letter}/port" => port, "box/#{letter}/place" => [chain.size + 1, Settings::LETTERS.size].min, "box/#{letter}/input_offset" => up, "box/#{letter}/output_offset" => down }
      end
      private_class_method :behind

      # @return [Settings::Edit] removes a box; the boxes after it keep their lanes, so that no other strand moves
      # @raise [Invalid] if there is no such box
      def self.remove(show, letter)
        plan = show.boxes[letter]
        raise Invalid.new("There is no box #{letter.to_s.upcase}.", where: "box/#{letter}") unless plan&.profile

        Settings::Edit.set("Remove box #{letter.upcase}", Settings::BoxPlan.collection.blank_settings(show.profile, letter))
      end
    end
  end
end
