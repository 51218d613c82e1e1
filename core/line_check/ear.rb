# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # Listens to the meters and to what the recorder finds in the lanes, keeps the last ten seconds of each source, and gives the line check. Time
    # is counted in frames of the meters.
    class Ear
      # A line of the roll call. also: what else was noticed, as sentences. was: the word of the verdict with which somebody checked it, where it is
      # another one now; else nil
      Line = Value.define(:source, :verdict, :loud, :peak, :floor, :clips, :also, :was)
      # Frames of the meters in a second.
      FRAMES_IN = 20
      # Frames after a change that may still show the old setting.
      SETTLING = 4
      # How long one who made a noise stays lit, in frames (three seconds): somebody has to look up from the stage first.
      LIT = 60
      # The light moves at once, but at most this many times in this many frames (a second). With a whole band playing it would flicker otherwise.
      MOVES, MOVES_IN = 2, 20
      Heard = Struct.new(:source, :measure, :hum, :settling)

      # @return [Integer, nil] number of the source that made a noise just now: of several the one that rose most
      attr_reader :noise

      def initialize
        @heard = {}
        @frames = Hash.new(0)
        @pairs, @moves = [], []
        @checked = {}
      end

      # @param sources [Array<Source>] to listen to from now on; unchanged ones keep what was measured
      def follow(sources)
        @heard = sources.to_h do |source|
          known = @heard[source.number]
          next [source.number, known.tap { known.source = source }] if known && known.source.setting == source.setting

          [source.number, Heard.new(source, Measure.new, Hum.new, known ? SETTLING : 0)]
        end
      end

      # @param meter ["desk", "lanes"]  @param peaks [Array<Float>] dBFS  @param rms [Array<Float>] dBFS by AES17
      def meters(meter, peaks, rms)
        @frames[meter] += 1
        @heard.each_value { |one| add(one, peaks, rms) if one.source.meter == meter }
        light(@frames[meter]) if meter == "desk"
      end

      # @param lines [Array<Array<Float>>] for each lane, the amplitudes at Hum::FREQUENCIES over the last second
      # @param pairs [Array<Array(Integer, Integer, Float)>] lanes that carry the same sound (Likeness.pairs)
      def second(lines, pairs)
        @pairs = pairs
        @heard.each_value do |one|
          lane = one.source.lanes.first
          one.hum.add(lines[lane]) if lane && lines[lane] && one.settling.zero?
        end
      end

      # Forgets the measurements of one source, or of all.
      def forget(number = nil)
        @heard.values.select { |one| number.nil? || one.source.number == number }.each do |one|
          one.measure.reset
          one.hum.reset
        end
      end

      # @param alignment [Integer] target level for loud passages in dBFS
      # @return [Array<Line>] in patch order
      def roll(alignment)
        alike = likenesses
        @heard.values.map do |one|
          measure, number, verdict = one.measure, one.source.number, judge(one, alignment)
          was = @checked[key(one.source)]
          Line.new(source: one.source, verdict: verdict, loud: measure.loud, peak: measure.peak, floor: measure.noise_floor, clips: measure.clips,
                   also: alike.fetch(number, []), was: (was unless was == verdict.word))
        end
      end

      # Remembers the verdict of a source as somebody checks it, or forgets it.
      # @param number [Integer] channel   @param on [Boolean]   @param alignment [Integer] dBFS
      def check(number, on, alignment)
        one = @heard[number] or return
        on ? @checked[key(one.source)] = judge(one, alignment).word : @checked.delete(key(one.source))
      end

      # Forgets what was checked.
      def uncheck = @checked.clear

      # @return [Array<Line>] what changed since it was checked first, then the most urgent; equals by how far off they are
      def self.by_need(lines)
        lines.sort_by { |line| [line.was ? 0 : 1, line.also.empty? || line.verdict.word != "good" ? Judge::WORDS.index(line.verdict.word) : Judge::WORDS.size - 1.5, line.source.number] }
      end

      private

      def judge(one, alignment)
        frame = @frames[one.source.meter]
        Judge.on(one.source, one.measure, one.hum, alignment, quiet: (frame - (one.measure.sounded_at || frame)).clamp(0..) / FRAMES_IN)
      end

      # What another show has at that channel was never checked.
      def key(source) = [source.number, source.name]

      def light(frame)
        rising = @heard.values.select { |one| one.measure.rose? }.max_by { |one| one.measure.rise }&.source&.number
        return put_out(frame) if rising.nil? || (rising != @noise && !moves?(frame))

        @noise, @lit_at = rising, frame
      end

      def moves?(frame)
        @moves = @moves.select { |at| frame - at < MOVES_IN }
        return false if @moves.size >= MOVES

        @moves << frame
      end

      def put_out(frame)
        @noise = nil if @noise && frame - @lit_at > LIT
      end

      def add(one, peaks, rms)
        return one.settling -= 1 if one.settling.positive?

        at = one.source.at.select { |index| peaks[index] }
        one.measure.add(@frames[one.source.meter], at.map { |index| peaks[index] }.max, at.map { |index| rms[index] }.max) unless at.empty?
      end

      # Sentences by source. A patch that doubles one socket on purpose is not news.
      def likenesses
        owner = @heard.values.flat_map { |one| one.source.lanes.map { |lane| [lane, one.source] } }.to_h
        @pairs.each_with_object({}) do |(first, second, r), found|
          one, other = owner[first], owner[second]
          tell(found, one, other, r) unless one.nil? || other.nil? || meant?(one, other)
        end
      end

      # One socket on two channels, or one mono channel on two sends.
      def meant?(one, other) = one.number == other.number ? one.at.size < 2 : one.stage == other.stage

      def tell(found, one, other, figure)
        r = format("%.3f", figure).sub("-", "−")
        (found[other.number] ||= []) << "#{likeness(one, other, figure)} (correlation #{r})"
        (found[one.number] ||= []) << "#{likeness(other, one, figure)} (correlation #{r})" unless one.number == other.number
      end

      def likeness(one, other, figure)
        return figure.positive? ? "both sides carry the same signal" : "one side has inverted polarity" if one.number == other.number

        figure.positive? ? "the same signal as #{one.title}" : "out of polarity with #{one.title}: invert one"
      end
    end
  end
end
