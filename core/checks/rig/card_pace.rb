# frozen_string_literal: true

module Loomshuttle
  module Checks
    # The card runs too fast or too slow by this computer's clock: a wrong rate, or the wrong clock leader.
    class CardPace
      # A part of the rate. Quartz clocks of studio devices are right to 50 parts in a million or better (AES11 calls for 10 of grade 2, from
      # memory); a computer's own is seldom off by more than 100.
      MOST = 0.001

      # @param show [Settings::Show]   @param hertz [Numeric, nil] samples per second as measured, nil if unknown
      # @return [Array<Finding>]
      def self.found(show, hertz)
        return [] unless hertz && off?(show, hertz)

        slow = hertz < show.rate
        off = format("%.2f", (hertz - show.rate).abs * 100.0 / show.rate)
        words = "The card runs at #{hertz.round} Hz by this computer's clock, #{off} % too #{slow ? 'slow' : 'fast'} for #{show.rate / 1000.0} kHz. " \
                "Check the clock leader and the load on this computer."
        [Finding.new(id: "card-pace", check: "card-pace", severity: Finding::LOOK, sentence: words, path: [], at: [], fix: nil)]
      end

      # @return [Boolean] whether the measured rate is outside the tolerance (MOST)
      def self.off?(show, hertz) = (hertz - show.rate).abs > show.rate * MOST
    end
  end
end
