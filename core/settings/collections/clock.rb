# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Which device leads the clock. Exactly one must; all others follow.
    module Clock
      # @param show [Show]
      # @return [Hash{String=>String}] device of the rig ("desk", "recorder", "box-a") => path of its clock setting
      def self.devices(show)
        boxes = show.boxes.values.select(&:profile).to_h { |box| ["box-#{box.letter}", "box/#{box.letter}/clock"] }
        { "desk" => "rig/desk_clock", "recorder" => "rig/recorder_clock", **boxes }
      end

      # @return [Array<String>] devices set to lead; exactly one is right
      def self.leaders(show) = devices(show).select { |_, path| show.get(path) == "leads" }.keys

      # @return [String] a device in words: "the desk", "Box A"
      def self.name(device) = device.start_with?("box-") ? "Box #{device.delete_prefix('box-').upcase}" : "the #{device}"

      # @return [String] e.g. "the desk leads the clock"
      def self.words(show)
        names = leaders(show).map { |device| name(device) }
        case names.size
        when 0 then "no clock leader"
        when 1 then "#{names.first} leads the clock"
        else "#{names.size} devices lead the clock"
        end
      end

      # @param leader [String] a device
      # @return [Edit] makes it the only leader
      # @raise [Invalid] if the rig has no such device
      def self.lead(show, leader)
        paths = devices(show)
        raise Invalid.new("There is no device #{leader} to lead the clock.", where: "leader") unless paths.key?(leader)

        Edit.set("Make #{name(leader)} clock leader", paths.to_h { |device, path| [path, device == leader ? "leads" : "follows"] })
      end
    end
  end
end
