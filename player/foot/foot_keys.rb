# frozen_string_literal: true

module Loomshuttle
  module Player
    # Actions of a foot switch. Go, repeat and leave act on press. Stop has to be held or pressed twice, so that it never happens by accident.
    class FootKeys
      WORDS = %w[go around leave stop].freeze
      # Seconds: so long it is held, or so soon it comes again.
      HELD, TWICE = 0.8, 1.5

      # @param word [String] of WORDS   @param down [Boolean] pressed or released   @param now [Numeric] seconds
      # @return [String, nil] the command to run now
      def press(word, down, now)
        return (word if down) unless word == "stop"
        return @down_at = nil unless down

        again = @last && now - @last <= TWICE
        @down_at, @last = now, again ? nil : now
        return unless again

        @down_at = nil
        "stop"
      end

      # Called often, to notice long presses.
      # @return [String, nil] the command of a key held long enough
      def look(now)
        return unless @down_at && now - @down_at >= HELD

        @down_at = @last = nil
        "stop"
      end
    end
  end
end
