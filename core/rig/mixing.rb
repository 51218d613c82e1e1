# frozen_string_literal: true

module Loomshuttle
  module Rig
    # What a kind of desk can do with its mixes, beyond how many it has; a profile that does not say so mixes plainly.
    #   pan_power      a side of a mono channel has the cosine (right: the sine) of the pan's angle to this power
    #   mute_at        tap from which on a muted channel is silent
    #   send_taps      taps at which sends to buses can be taken      subgroups, pairs, bus_to_main   whether buses can be so
    #   sources        kinds of points that outputs carry: "bus", "main", "matrix", "ch", "card"
    #   mix_taps, channel_taps   taps at which outputs take a mix or a channel
    #   delay_ms       longest delay of an output      trim_db   of an output, plus and minus      polarity   whether outputs turn it
    Mixing = Value.define(:pan_power, :mute_at, :send_taps, :subgroups, :pairs, :bus_to_main, :sources, :mix_taps, :channel_taps, :delay_ms, :trim_db, :polarity) do
      # @param mix [Hash] "mix" of a profile, which its schema has accepted   @param taps [Array<String>] of the desk
      # @return [Mixing]
      def self.read(mix, taps)
        outputs = mix.fetch("outputs", {})
        new(pan_power: self::LAWS.fetch(mix.fetch("pan_law", "constant power")), mute_at: mix.fetch("mute_at", "post-fader"),
            send_taps: mix.fetch("send_taps", %w[pre-fader]) & taps, subgroups: mix.fetch("subgroups", false),
            pairs: mix.fetch("bus_pairs", false), bus_to_main: mix.fetch("bus_to_main", false),
            sources: outputs.fetch("sources", %w[bus main matrix]), mix_taps: outputs.fetch("taps", %w[post-fader]),
            channel_taps: outputs.fetch("channel_taps", %w[post-fader]) & taps, delay_ms: outputs.fetch("delay_ms", 0), trim_db: outputs.fetch("trim_db", 0),
            polarity: outputs.fetch("polarity", false))
      end

      # @return [String] tap of a send that does not name one
      def usual_send_tap = send_taps.include?("pre-fader") ? "pre-fader" : send_taps.first

      # @param base [Point] carried by an output
      # @return [Array<String>] taps at which an output can take it; none for a card return, which bypasses the mixer
      def taps_of(base)
        return [] if base.card?

        base.channel? ? channel_taps : mix_taps
      end

      # @return [Array<String>] all taps that outputs offer, in signal order
      def output_taps = Label::TAPS.keys & (mix_taps | channel_taps)

      # @param rate [Integer] samples a second
      # @return [Integer] longest delay of an output, in samples
      def longest_delay(rate) = (delay_ms * rate / 1000).floor
    end

    class Mixing
      # By their names in profiles: 3.01, 4.5 and 6.02 dB less in the middle (common practice, no published source; constant power is cos² + sin² = 1).
      LAWS = { "constant power" => 1, "between" => 1.5, "constant sum" => 2 }.freeze
    end
  end
end
