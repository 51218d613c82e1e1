# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # A recording for one track. pieces: its parts in order; each is a list of one source, or of left and right. names: what it may be called.
    Recording = Value.define(:pieces, :names) do
      # @param sounds [Array<Sound>] parts in order
      def self.of(sounds)
        name = sounds.first.name
        name = name.whole if sounds.size > 1
        new(pieces: sounds.map { |sound| [Source.new(sound: sound, lane: nil)] }, names: [name, *inside(sounds.first)])
      end

      # A recording put together by hand.
      # @param pieces [Array<Array<Source>>]
      def self.arranged(pieces)
        first = pieces.first.first
        names = of(pieces.map { |piece| piece.first.sound }).names
        called = first.lane && (first.sound.called[first.lane]&.then { |name| Name.of(name) } || names.first.beside(first.lane, first.sound.lanes))
        one = new(pieces: pieces, names: called ? [called] : names)
        pieces.first.size > 1 ? one.with(names: one.names.map(&:without_side)) : one
      end

      # The name that a single-source file carries inside.
      def self.inside(sound)
        called = sound.called.map { |one| Name.of(one) }
        return [] unless called.size == sound.lanes && called.map(&:words).uniq.size == 1

        called.size == 1 ? called : [called.first.without_side]
      end
      private_class_method :inside

      # @return [Array<Sound>] all its files, each once
      def sounds = pieces.flatten(1).map(&:sound).uniq

      # @return [Sound]
      def first = pieces.first.first.sound

      # @return [Integer] lanes of the resulting track: 1 or 2
      def lanes = pieces.map { |piece| piece.sum(&:lanes) }.max.clamp(1, 2)

      # @param rate [Integer] samples per second   @return [Integer] length in frames at that rate; the longer side counts
      def frames(rate) = pieces.sum { |piece| piece.map { |source| source.sound.then { |sound| (sound.frames * rate / sound.rate.to_f).round } }.max }

      # @return [Integer, nil] samples since midnight at that rate (BWF time reference); nil if the file has none
      def begins(rate) = first.time_reference&.then { |samples| (samples * rate / first.rate.to_f).round }

      # @return [Recording] one lane of this one under the given name
      def lane(number, name) = with(pieces: pieces.map { |piece| [piece.first.with(lane: number)] }, names: [name])

      # @return [String] shown to people
      def title = names.last.text
    end
  end
end
