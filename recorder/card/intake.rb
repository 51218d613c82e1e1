# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Puts one stream's packets back into order by their timestamps. Positions are samples on the engine's time line.
    # Packets that come twice are dropped, late ones counted, and what never came is silence with a note of where.
    class Intake
      # Most packets that wait; further ones are dropped and counted.
      MOST = 4000
      # A stretch that did not arrive: position and frames.
      Gap = Struct.new(:at, :frames)

      attr_reader :lanes, :newest, :counts

      # @param lanes [Integer]
      def initialize(lanes)
        @lanes = lanes
        @frame_bytes = lanes * Audio::Pcm24::BYTES
        @waiting = {}
        @taken = 0
        @newest = 0
        @run = 0
        @counts = { packets: 0, late: 0, repeated: 0, reordered: 0, crowded: 0, lost_frames: 0 }
      end

      # @param position [Integer] of the first frame
      # @param payload [String] whole frames
      # @param packets [Integer] consecutive packets in the payload; more than one only if goes_on?
      def push(position, payload, packets = 1)
        frames = payload.bytesize / @frame_bytes
        @counts[:packets] += packets
        return @counts[:late] += 1 if position + frames <= @taken
        return @counts[:repeated] += 1 if position < @newest && held?(position, frames)
        return @counts[:crowded] += 1 if @waiting.size >= MOST

        @counts[:reordered] += 1 if position < @newest
        @waiting[position] = payload
        @newest = position + frames if position + frames > @newest
        @run = position + frames if position == @run
      end

      # @return [Boolean] whether the position is exactly the next one, and there is room
      def goes_on?(position) = position == @newest && position >= @taken && @waiting.size < MOST

      # @return [Boolean] whether everything before the position has arrived
      def complete_to?(position)
        advance_run while @run < position && @waiting.key?(@run)
        @run >= position
      end

      # @return [Integer, nil] position of the oldest waiting packet
      def oldest = @waiting.each_key.min

      # Takes the frames up to a position.
      # @return [Array(String, Array<Gap>)] interleaved bytes, and the gaps in them
      def take(upto)
        parts = []
        gaps = []
        starts = @waiting.keys.select { |position| position < upto }
        starts.sort! unless ascending?(starts)
        starts.each { |position| add(parts, gaps, position, upto) }
        fill(parts, gaps, upto) if @taken < upto
        @run = upto if @run < upto
        [parts.size == 1 ? parts.first : parts.join, gaps]
      end

      # Skips a stretch of which nothing arrived.
      # @return [Gap]
      def skip(upto)
        gap = Gap.new(@taken, upto - @taken)
        @counts[:lost_frames] += gap.frames
        @taken = upto
        @run = upto if @run < upto
        gap
      end

      # Starts over at a position, after the sender did.
      def restart(position)
        @waiting.clear
        @taken = @newest = @run = position
      end

      private

      # Whether it has come, alone or in a stretch of several.
      def held?(position, frames)
        @waiting.key?(position) || @waiting.any? { |from, payload| from < position && position + frames <= from + (payload.bytesize / @frame_bytes) }
      end

      def advance_run = @run += @waiting[@run].bytesize / @frame_bytes

      def ascending?(list) = list.each_cons(2).all? { |one, two| one < two }

      def add(parts, gaps, position, upto)
        payload = @waiting.delete(position)
        fill(parts, gaps, position) if position > @taken
        skip = @taken - position
        frames = (payload.bytesize / @frame_bytes) - skip
        return if frames <= 0

        keep = [frames, upto - @taken].min
        @waiting[upto] = payload.byteslice(((skip + keep) * @frame_bytes)..) if keep < frames && !@waiting.key?(upto)
        parts << (keep * @frame_bytes == payload.bytesize ? payload : payload.byteslice(skip * @frame_bytes, keep * @frame_bytes))
        @taken += keep
      end

      def fill(parts, gaps, position)
        frames = position - @taken
        gaps << Gap.new(@taken, frames)
        @counts[:lost_frames] += frames
        parts << ("\0".b * (frames * @frame_bytes))
        @taken = position
      end
    end
  end
end
