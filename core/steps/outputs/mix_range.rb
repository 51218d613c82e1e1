# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Sets how several channels are mixed in one edit: main, polarity, the tap of their card sends, or a subgroup. A channel that goes into a subgroup
    # on main leaves main itself, so that its fader and the subgroup's both count; one that leaves its last subgroup comes back if that was on main.
    class MixRange
      # Number of a subgroup that is made on the first bus that nobody uses.
      NEW = 0

      # @param show [Settings::Show]   @param channels [Array<Integer>]
      # @param to [Hash{Symbol=>Object}] main: Boolean; polarity: Boolean; tap: a tap, or nil for the show's; subgroup: number of a bus, or NEW; within:
      #   whether they are in that subgroup; name: of a new one
      # @return [Settings::Edit]
      # @raise [Invalid] if there is no such channel or bus, or the desk cannot do it
      def self.edit(show, channels, **to) = new(show, channels).edit(**to)

      def initialize(show, channels)
        @show = show
        @channels = channels.uniq.map { |number| show.channels[number] or raise Invalid.new("There is no channel #{number} on the #{show.profile.name}.", where: "channels") }
        raise Invalid.new("Select channels first.", where: "channels") if @channels.empty?
      end

      # @return [Settings::Edit]
      def edit(**to)
        settings, label = to.key?(:subgroup) ? group(to[:subgroup], to.fetch(:within, true), to[:name].to_s) : plain(to)
        Settings::Edit.set("#{label}: #{words}", BothSides.settings(@show, settings))
      end

      private

      def plain(to)
        what = to.slice(:main, :polarity, :tap).first or raise Invalid.new("Name what to set: main, polarity, tap or a subgroup.", where: "options")
        case what
        in [:main, on] then [all("main", on), on ? "On main" : "Not on main"]
        in [:polarity, on] then [all("polarity", on), on ? "Polarity inverted" : "Polarity not inverted"]
        in [:tap, tap] then [taps(tap), tap ? "Tapped at #{Rig::Label::TAPS.fetch(tap, tap)}" : "Tapped as the show"]
        end
      end

      def all(field, value) = @channels.to_h { |channel| ["channel/#{channel.number}/#{field}", value] }

      def taps(tap)
        numbers = @channels.map(&:number)
        found = @show.sends.values.select { |send| numbers.include?(@show.channel_at(send.source)&.number) }
        raise Invalid.new("No card send carries #{words}, so there is no tap to set.", where: "channels") if found.empty?

        found.to_h { |send| ["send/#{send.lane}/tap", tap] }
      end

      def group(number, within, name)
        raise Invalid.new("The #{@show.profile.name} has no subgroups.", where: "subgroup") unless @show.profile.mixing.subgroups
        return [leaving(number), "Out of #{@show.label(bus(number).point)}"] unless within

        made = number == NEW ? fresh(name) : kept(bus(number))
        number = unused.number if number == NEW
        [made.merge(members(number, on_main?(number, made))), "Into subgroup #{[number, made["bus/#{number}/name"] || @show.buses[number].name].join(' ').strip}"]
      end

      def bus(number) = @show.buses[number] || raise(Invalid.new("There is no bus #{number} on the #{@show.profile.name}.", where: "subgroup"))

      # A bus without a name that nothing carries on, and no half of a pair.
      def unused
        @unused ||= @show.buses.values.find { |one| one.name.empty? && one.mode == "mix" && !busy.include?(one.number) } or
          raise Invalid.new("Every bus is in use: empty one, or choose a subgroup that exists.", where: "subgroup")
      end

      def busy
        carried = [@show.outputs, @show.personal_lanes, @show.sends].flat_map { |items| items.values.filter_map(&:source) }.select { |point| point.kind == "bus" }.map(&:number)
        pairs = @show.buses.values.select(&:paired).flat_map { |one| [one.number, one.number + 1] }
        (carried + pairs).to_set
      end

      def fresh(name)
        at = "bus/#{unused.number}"
        { "#{at}/mode" => "subgroup", "#{at}/name" => name.strip.empty? ? stem : name.strip }.merge(@show.profile.mixing.bus_to_main ? { "#{at}/main" => true } : {})
      end

      # A bus that is mixed for somebody stays a mix.
      def kept(one)
        return {} if one.mode == "subgroup"

        raise Invalid.new("#{@show.label(one.point)} is a mix, not a subgroup; choose a subgroup or a new one.", where: "subgroup")
      end

      # What the names have in common at their beginning, as words, or its number.
      def stem
        names = @channels.map { |channel| channel.name.split }
        common = names.first.take_while.with_index { |word, at| names.all? { |words| words[at] == word } }
        common.empty? ? "Group #{unused.number}" : common.join(" ")[0, 40]
      end

      def on_main?(number, made) = made.fetch("bus/#{number}/main") { @show.buses[number].main }

      def members(number, on_main)
        @channels.reduce({}) do |settings, channel|
          at = "channel/#{channel.number}"
          settings.merge({ "#{at}/groups" => (channel.groups | [number]).sort }, on_main ? { "#{at}/main" => false } : {})
        end
      end

      # Only what was on main through it comes back to main: a click in a subgroup for the stage must not.
      def leaving(number)
        @channels.select { |channel| channel.groups.include?(number) }.reduce({}) do |settings, channel|
          left = channel.groups - [number]
          settings.merge({ "channel/#{channel.number}/groups" => left }, left.empty? && bus(number).main ? { "channel/#{channel.number}/main" => true } : {})
        end
      end

      def words = @channels.size == 1 ? @channels.first.title : "#{@channels.size} channels"
    end
  end
end
