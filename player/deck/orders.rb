# frozen_string_literal: true

module Loomshuttle
  module Player
    # Commands in the order of their times.
    class Orders
      # What may wait at once.
      MOST = 100
      # at: sample of the clock   what: name   details: its parameters
      Order = Value.define(:at, :what, :details)

      def initialize
        @waiting = []
        @lock = Mutex.new # held for moments
      end

      # @raise [Invalid] if too many commands are pending
      def add(time, what, details)
        @lock.synchronize do
          raise Invalid.new("#{MOST} commands wait already.", where: "at") if @waiting.size >= MOST

          place = @waiting.index { |one| one.at > time } || @waiting.size
          @waiting.insert(place, Order.new(at: time, what: what, details: details))
        end
      end

      # @return [Integer, nil] time of the next pending command
      def next_at = @lock.synchronize { @waiting.first&.at }

      # @return [Order, nil] removes and returns a command that is due
      def due(time) = @lock.synchronize { @waiting.shift if @waiting.any? && @waiting.first.at <= time }

      # @return [Integer] number of pending commands
      def size = @lock.synchronize { @waiting.size }

      # @param time [Integer] pending commands of that name at or after it are dropped
      def drop(what, time) = @lock.synchronize { @waiting.reject! { |one| one.what == what && one.at >= time } }

      # Shifts all pending commands after a jump of the clock.
      def shift_by(samples) = @lock.synchronize { @waiting.map! { |one| one.with(at: one.at + samples) } }

      def clear = @lock.synchronize { @waiting.clear }
    end
  end
end
