# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # The stems of a song in memory, second by second: what plays now, what comes next, and where sections begin, so that playing never waits for a
    # disk. `fill` reads and may run on its own thread; `read` never waits. An unreadable stem is silent and reported.
    class Stock
      # Pieces are so long, so much is read ahead of what plays, and so much from where a section begins (seconds).
      PIECE, AHEAD, HEAD = 1, 6, 1
      # Bytes of all pieces together.
      MOST = 256 << 20
      # Pieces below which nothing could be played: two that sound, one that comes next, and one elsewhere.
      LEAST = 4

      # @return [Hash{Integer=>String}] ids of stems that are silent, and why
      attr_reader :troubles
      # @return [Integer] frames of a piece
      attr_reader :size

      # @param song [Songs::Song]   @param folder [String] of its files
      # @param open [Proc] called with a path, returns an object with `bytes(from, count, into)` (Formats::Wav::Reader)
      def initialize(song, folder, open: Formats::Wav::Reader.method(:new))
        @song, @size = song, PIECE * song.rate
        @lock = Mutex.new # held for moments, never while a disk is waited for
        @pieces, @troubles = {}, {}
        @read = "".b # what was read last: one thread at a time fills, and keeps none of it
        @stems = song.stems.to_h { |stem| [stem.id, stem] }
        @files = @stems.transform_values { |stem| opened(stem, File.join(folder, stem.file), open) }.compact
        @most = [MOST / (@size * 4 * [@stems.values.sum(&:lanes), 1].max), LEAST].max
        @ahead = [AHEAD, (@most - 2) * 2 / 3].min # with many stems less is read ahead, rather than more kept
        # Never more than can stay in memory, or pieces would be dropped and read over and over.
        @lead = (Songs::Walk::FADE * song.rate).ceil # a crossfade begins so long before
        @heads = song.parts.flat_map { |section| seconds(song.begins(section) - @lead, HEAD) }.uniq.first([@most - (@ahead + (@ahead / 2) + 2), 0].max)
        @wanted = [seconds(0, @ahead), []]
      end

      # Tells what plays now, so that what follows is read.
      # @param position [Integer] sample of the song   @param after [Integer, nil] sample at which it continues after this section
      def play_from(position, after = nil)
        wanted = [seconds(position, @ahead), after ? seconds(after - @lead, @ahead / 2) : []]
        @lock.synchronize { @wanted = wanted } unless wanted == @wanted
      end

      # Reads one second of all stems. @return [Boolean] whether there was anything to do
      def fill
        at = @lock.synchronize { [*@wanted.flatten, *@heads].find { |second| !@pieces.key?(second) } } or return false
        piece = @files.to_h { |id, file| [id, part(id, file, at)] }.compact
        @lock.synchronize do
          @pieces[at] = piece
          make_room
        end
        true
      end

      # @param ahead [Integer] seconds from where the song is   @param behind [Integer] seconds from where it continues after this section
      # @return [Array<Integer>] names of pieces
      def soon(ahead, behind) = @lock.synchronize { @wanted }.zip([ahead, behind]).flat_map { |seconds, most| seconds.first(most) }.uniq

      # @param second [Integer]
      # @return [Hash{Integer=>Numo::SFloat}, nil] [frames, lanes] by stem id, without stems that end earlier; nil if not in memory
      def piece(second) = @lock.synchronize { @pieces[second] }

      # @param id [Integer] of a stem
      # @return [Numo::SFloat, nil] [frames, lanes] full scale 1.0; nil for silence
      # @yield if a piece is missing
      def read(id, from, frames)
        first, last = [from, 0].max, [from + frames, @stems[id].frames].min
        return if first >= last || !@files.key?(id)

        parts = ((first / @size)..((last - 1) / @size)).map { |second| cut(second, id, first, last) { yield } } # rubocop:disable Style/ExplicitBlockArgument
        return if parts.none?
        return parts.first if parts.size == 1 && parts.first.shape[0] == frames

        joined(parts, id, from, frames, first, last)
      end

      def close = @files.each_value(&:close)

      private

      # Names of pieces, by their second.
      def seconds(from, count)
        first = [from, 0].max / @size
        (first..[first + count, [@song.frames - 1, 0].max / @size].min).to_a
      end

      def opened(stem, path, open)
        file = open.call(path)
        raise Invalid.new("#{stem.file} has #{file.lanes} lanes at #{file.rate} Hz.", where: path) unless file.lanes == stem.lanes && file.rate == @song.rate && file.bits == 32

        file
      rescue SystemCallError, Invalid => e
        trouble(stem.id, e)
      end

      def part(id, file, second)
        bytes = file.bytes(second * @size, @size, @read)
        bytes.empty? ? nil : Numo::SFloat.from_binary(bytes, [bytes.bytesize / (4 * @stems[id].lanes), @stems[id].lanes])
      rescue SystemCallError, IOError => e
        trouble(id, e)
      end

      def trouble(id, error)
        @troubles[id] = "#{@stems[id].name}: #{Text.readable(error.message, most: 200)}"
        nil
      end

      # What is wanted stays; of the rest the oldest goes.
      def make_room
        over = @pieces.size - @most
        (@pieces.keys - @wanted.flatten - @heads).first(over).each { |second| @pieces.delete(second) } if over.positive?
      end

      def cut(second, id, first, last)
        piece = piece(second)
        return yield && nil unless piece

        whole = piece[id] or return
        start = second * @size
        from, to = [first - start, 0].max, [last - start, whole.shape[0]].min
        from < to ? whole[from...to, true] : nil
      end

      def joined(parts, id, from, frames, first, last)
        block = Numo::SFloat.zeros(frames, @stems[id].lanes)
        at = first - from
        ((first / @size)..((last - 1) / @size)).each_with_index do |second, nth|
          wide = [[(second + 1) * @size, last].min - [second * @size, first].max, 0].max
          part = parts[nth]
          block[at...(at + part.shape[0]), true] = part if part
          at += wide
        end
        block
      end
    end
  end
end
