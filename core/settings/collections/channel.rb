# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What the engineer sets of one input channel.
    #   stage     Rig::Point that it hears on stage (a socket of the desk, a lane of a link, a card return), or nil; a stereo channel
    #             hears it and its neighbour
    #   take      card return that it hears on take, or nil; likewise
    #   position  "stage" or "take"
    #   gain      preamp gain in dB        phantom  48 V at its socket; both are the same for all channels that hear it (SharedPreamp)
    #   trim      dB behind channel in, for this channel alone
    #   colour    one of DYES              mic, stand  words for the stage    notes  for people, printed on the stage sheets
    #   spot      where the source stands: left, centre, right or nil
    #   paired    whether it is the left of a stereo pair with the next channel
    #   fixed     whether auto-patch must leave it where it is
    #   main      whether it is on main left and right       polarity  whether it is turned over, behind channel in
    #   groups    buses that are subgroups and take it       send_taps number of a bus, as text => tap of the send to it, where it is not the bus' own
    Channel = declare("channel", :channels, :desk, key: :number, keys: ->(desk) { 1..desk.strips.size },
                                                   words: ->(show, key) { ["Channel #{key}", show.channels[key]&.name].reject { |one| one.to_s.empty? }.join(" ") }) do
      setting :name, Kinds.text(NAME), blank: "", part: "names", desk: "strip/%s/label"
      setting :short, Kinds.text(SHORT), blank: "", words: "short name", part: "names", desk: "strip/%s/label/short"
      setting :colour, Kinds.one_of(*DYES), blank: "iron", words: "dye", part: "names", desk: "strip/%s/dye"
      setting :stage, ChannelKinds.source(:stage_points), blank: nil, words: "stage source", part: "inputs", capture: :way
      setting :take, ChannelKinds.source(:return_points), blank: nil, words: "take source", part: "returns"
      setting :position, Kinds.one_of(*POSITIONS), blank: "stage", words: "position", part: "returns", capture: :to_take
      setting :gain, ChannelKinds.level(:preamp), blank: ->(desk, number) { [desk.strip(number).preamp.min_db, 0].max }, words: "preamp gain", unit: "dB", part: "inputs",
                                                  desk: "strip/%s/gain"
      setting :phantom, Kinds.boolean, blank: false, words: "48 V", part: "inputs", capture: :way, desk: "strip/%s/phantom"
      setting :trim, ChannelKinds.level(:trim), blank: 0, unit: "dB", part: "inputs", desk: "strip/%s/trim", on: ->(desk, number) { !desk.strip(number).trim.nil? }
      setting :mic, Kinds.text(WORDS), blank: "", words: "microphone", part: "inputs"
      setting :stand, Kinds.text(WORDS), blank: "", part: "inputs"
      setting :notes, Kinds.text(NOTES), blank: "", part: "inputs"
      setting :spot, Kinds.one_of(*SPOTS).or_none, blank: nil, words: "stage position", part: "inputs"
      setting :paired, ChannelKinds.paired, blank: false, words: "paired with next", part: "inputs"
      setting :fixed, Kinds.boolean, blank: false, part: "inputs", words: "locked for auto-patch"
      setting :main, Kinds.boolean, blank: true, words: "on main", part: "mix", desk: "strip/%s/main"
      setting :polarity, Kinds.boolean, blank: false, words: "polarity inverted", part: "mix", desk: "strip/%s/polarity"
      setting :groups, MixKinds.buses, blank: [].freeze, words: "subgroups", part: "mix"
      setting :send_taps, MixKinds.send_taps, blank: {}.freeze, words: "send taps", nothing: "as the buses", part: "mix"
    end

    class Channel
      # @return [String] the name, or its number where it has none
      def title = name.empty? ? "Channel #{number}" : name

      # @return [Rig::Point] of a mono channel; for stereo channels ask Rig::Desk#channel_points
      def point = Rig::Point.desk("ch", number)

      # @return [Rig::Point, nil] its present source, depending on its position
      def hears = position == "take" ? take : stage

      # @return [Boolean] whether its stage source is the computer (a card return, so no preamp)
      def card_fed? = !stage.nil? && stage.card?

      # @return [Boolean] whether anything is planned for it
      def used? = !name.empty? || !stage.nil? || !take.nil?
    end
  end
end
