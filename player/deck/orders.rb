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

      # @raise [Invalid] when too much waits
      def add(time, what, details)
        @lock.synchronize do
          raise Invalid.new("#{MOST} commands wait already.", where: "at") if @waiting.size >= MOST

          place = @waiting.index { |one| one.at > time } || @waiting.size
          @waiting.insert(place, Order.new(at: time, what: what, details: details))
        end
      end

      # @return [Integer, nil] time of the next
      def next_at = @lock.synchronize { @waiting.first&.at }

      # @return [Order, nil] one whose time has come, taken out
      def due(time) = @lock.synchronize { @waiting.shift if @waiting.any? && @waiting.first.at <= time }

      # @return [Integer] commands whose time has not come
      def size = @lock.synchronize { @waiting.size }

      # @param time [Integer] commands of that name are not done from then on
      def drop(what, time) = @lock.synchronize { @waiting.reject! { |one| one.what == what && one.at >= time } }

      # The clock jumps: everything keeps its distance.
      def shift_by(samples) = @lock.synchronize { @waiting.map! { |one| one.with(at: one.at + samples) } }

      def clear = @lock.synchronize { @waiting.clear }
    end
  end
end
