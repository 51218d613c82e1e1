# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # The mixing abilities of this desk, from its profile, with plain defaults.
      #   pan_power      how far the law of its pan is from constant amplitude: a side has cos(angle) to this power
      #   mute_at        tap from which on a muted channel is silent          send_taps   where sends to buses can be taken
      #   sources        kinds that an output can carry                       mix_taps, channel_taps   where it takes them
      #   longest_delay  of an output, in samples                             trim        of an output, plus and minus, in dB
      Abilities = Value.define(:pan_power, :mute_at, :send_taps, :subgroups, :pairs, :bus_to_main, :sources, :mix_taps, :channel_taps, :longest_delay, :trim, :polarity,
                               :personal)

      class Abilities
        LAWS = { "constant power" => 1, "between" => 1.5, "constant sum" => 2 }.freeze

        # @param data [Hash] a profile   @param rate [Integer]
        def self.read(data, taps, rate)
          mix = data.fetch("mix", {})
          outputs = mix.fetch("outputs", {})
          new(pan_power: LAWS.fetch(mix.fetch("pan_law", "constant power"), 1), mute_at: mix.fetch("mute_at", "post-fader"),
              send_taps: mix.fetch("send_taps", %w[pre-fader]) & taps, subgroups: mix.fetch("subgroups", false), pairs: mix.fetch("bus_pairs", false),
              bus_to_main: mix.fetch("bus_to_main", false), sources: outputs.fetch("sources", %w[bus main matrix]), mix_taps: outputs.fetch("taps", %w[post-fader]),
              channel_taps: outputs.fetch("channel_taps", %w[post-fader]) & taps, longest_delay: (outputs.fetch("delay_ms", 0) * rate / 1000).floor,
              trim: outputs.fetch("trim_db", 0), polarity: outputs.fetch("polarity", false), personal: data.fetch("personal_lanes", 0))
        end
      end
    end
  end
end
