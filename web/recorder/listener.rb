# frozen_string_literal: true

module Loomshuttle
  module Web
    # Feeds the line check of the open show with meters of desk and recorder, and gives its result. Reports when a source makes a noise.
    class Listener
      # @param on_noise [Proc] called with the channel that just started to sound, or nil after it
      def initialize(on_noise:)
        @ear = LineCheck::Ear.new
        @lock = Mutex.new
        @on_noise = on_noise
      end

      # @param show [Settings::Show]
      # @param differences [Array<Desk::Sync::Difference>, nil] between plan and desk
      def follow(show, differences)
        sources = LineCheck::Sources.of(show, differences.to_a.to_h { |one| [one.path, one.desk] })
        @lock.synchronize { @ear.follow(sources) }
      end

      # @param meter ["desk", "lanes"]
      def meters(meter, peaks, rms)
        noise = @lock.synchronize do
          @ear.meters(meter, peaks, rms)
          @ear.noise
        end
        return if noise == @noise

        @noise = noise
        @on_noise.call(noise)
      end

      def second(lines, pairs) = @lock.synchronize { @ear.second(lines, pairs) }
      def forget(channel = nil) = @lock.synchronize { @ear.forget(channel) }

      # Remembers how a source was when somebody checked it.
      def check(channel, on, alignment) = @lock.synchronize { @ear.check(channel, on, alignment) }
      def uncheck = @lock.synchronize { @ear.uncheck }

      # @param alignment [Integer] target level for loud passages in dBFS
      # @return [Array<LineCheck::Ear::Line>] in patch order
      def roll(alignment) = @lock.synchronize { @ear.roll(alignment) }
    end
  end
end
