# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # Gives the verdict on a source.
    class Judge
      # By need: what spoils the recording first.
      WORDS = ["clipped", "hum", "hot", "low", "not heard yet", "good"].freeze
      # Microphones that make no sound without 48 V (common practice, no published source).
      NEEDS_PHANTOM = /condenser|boundary|clip-on|active/i

      # @return [Verdict]
      def self.on(source, measure, hum, alignment) = new(source, measure, hum, alignment).verdict

      def initialize(source, measure, hum, alignment)
        @source, @measure, @alignment = source, measure, alignment
        @loud = measure.loud
        @hum = hum.found(@loud)
      end

      def verdict
        return on_take unless @source.meter
        return not_heard unless @measure.heard?

        @advice = Advice.for(@measure, alignment: @alignment, gain: @source.gain, preamp: @source.preamp)
        return turned("clipped", clip_words) if @measure.clips.positive?
        return humming if @hum
        return turned("hot", level_words) if @advice.needed < -Alignment::TOLERANCE_DB
        return turned("low", level_words) if @advice.needed > Alignment::TOLERANCE_DB

        Verdict.new(word: "good", reason: "loud passages at #{db(@loud)} dBFS, peaks at #{db(@measure.peak)}", advice: nil, settings: {})
      end

      private

      def on_take = Verdict.new(word: "not heard yet", reason: "on take, with no preamp-tapped send to meter", advice: "Return it to the stage", settings: {})

      def not_heard
        reason = @measure.sounded_at ? "heard for less than a second" : "nothing above #{db(Measure::SOUNDS_DB)} dBFS yet"
        return Verdict.new(word: "not heard yet", reason: reason, advice: ask, settings: {}) unless dead?

        Verdict.new(word: "not heard yet", reason: "#{reason}; #{@source.mic}, but 48 V is off", advice: "Turn 48 V on", settings: { "channel/#{@source.number}/phantom" => true })
      end

      def ask = @source.preamp ? "Ask for signal; check cable and mute" : "Play something on #{Rig::Label.for(@source.stage)}"

      def dead? = @source.preamp && !@source.phantom && @source.mic.match?(NEEDS_PHANTOM)

      def clip_words
        times = @measure.clips
        "clipped #{times == 1 ? 'once' : "#{times} times"}; size of the overload unknown"
      end

      def level_words
        by_peak = Alignment::CEILING_DB - @measure.peak < @alignment - @loud
        return "peaks at #{db(@measure.peak)} dBFS, and #{db(Alignment::CEILING_DB)} leaves room for the show" if by_peak && @advice.needed.negative?

        off = @loud - @alignment
        "loud passages at #{db(@loud)} dBFS, #{figure(off.abs)} dB #{off.negative? ? 'under' : 'over'}"
      end

      def humming
        Verdict.new(word: "hum", reason: "#{@hum.lines.join(', ')} Hz are steady at #{db(@hum.level)} dBFS; loud passages at #{db(@loud)}",
                    advice: "Swap the cable or lift the DI ground, then check again", settings: {})
      end

      # What turning the preamp mends, and what it cannot.
      def turned(word, reason)
        change, missing = @advice.change, @advice.missing
        settings = change.zero? ? {} : { "channel/#{@source.number}/gain" => @advice.to }
        turn = "#{change.positive? ? 'Raise' : 'Lower'} the preamp by #{figure(change.abs)} dB" unless change.zero?
        words = [turn, lack(missing)].compact
        Verdict.new(word: word, reason: reason, advice: words.empty? ? nil : words.join("; "), settings: settings)
      end

      def lack(missing)
        return if missing.abs < 0.5

        how, limit = missing.positive? ? %w[louder maximum] : %w[quieter minimum]
        by = "#{figure(missing.abs)} dB #{how}"
        @source.preamp ? "preamp at #{limit}; make the source #{by}" : "no preamp: make it #{by} at the source"
      end

      def db(level) = figure(level)
      def figure(number) = format("%.1f", number).delete_suffix(".0").sub("-", "−")
    end
  end
end
