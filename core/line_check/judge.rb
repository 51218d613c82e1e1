# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # Gives the verdict on a source.
    class Judge
      # By need: what spoils the recording first.
      WORDS = ["clipped", "hum", "hot", "low", "not heard yet", "silent", "good"].freeze
      # Seconds without sound after which a source counts as silent. The time shown is a multiple of it.
      SILENT = 10
      # Microphones that make no sound without 48 V (common practice, no published source).
      NEEDS_PHANTOM = /condenser|boundary|clip-on|active/i

      # @param quiet [Numeric] seconds since it last sounded
      # @return [Verdict]
      def self.on(source, measure, hum, alignment, quiet: 0) = new(source, measure, hum, alignment, quiet).verdict

      def initialize(source, measure, hum, alignment, quiet)
        @source, @measure, @alignment, @quiet = source, measure, alignment, quiet.to_i / SILENT * SILENT
        @loud = measure.loud
        @hum = hum.found(@loud)
      end

      def verdict
        return on_take unless @source.meter
        return not_heard unless @measure.heard?

        @advice = Advice.for(@measure, alignment: @alignment, gain: @source.gain, preamp: @source.preamp)
        sounding.then { |verdict| @quiet.zero? ? verdict : silent(verdict) }
      end

      private

      def sounding
        return turned("clipped", clip_words) if @measure.clips.positive?
        return humming if @hum
        return turned("hot", level_words) if @advice.needed < -Alignment::TOLERANCE_DB
        return turned("low", level_words) if @advice.needed > Alignment::TOLERANCE_DB

        Verdict.new(word: "good", reason: "loud passages at #{db(@loud)} dBFS, peaks at #{db(@measure.peak)}", advice: nil, settings: {})
      end

      # What was wrong stays to be mended; what was good is not any more.
      def silent(verdict)
        time = "silent for #{@quiet / 60}:#{format('%02d', @quiet % 60)}"
        return verdict.with(reason: "#{verdict.reason}; #{time}") unless verdict.word == "good"

        Verdict.new(word: "silent", reason: "#{time}, was good", advice: nil, settings: {})
      end

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
        least = "at least " if word == "clipped" # nobody knows how far it went beyond
        turn = "#{change.positive? ? 'Raise' : 'Lower'} the preamp by #{least}#{figure(change.abs)} dB" unless change.zero?
        words = [turn, lack(missing, least)].compact
        Verdict.new(word: word, reason: reason, advice: words.empty? ? nil : words.join("; "), settings: settings)
      end

      def lack(missing, least)
        return if missing.abs < 0.5

        how, limit = missing.positive? ? %w[louder maximum] : %w[quieter minimum]
        by = "#{least}#{figure(missing.abs)} dB #{how}"
        @source.preamp ? "preamp at #{limit}; make the source #{by}" : "no preamp: make it #{by} at the source"
      end

      def db(level) = figure(level)
      def figure(number) = format("%.1f", number).delete_suffix(".0").sub("-", "−")
    end
  end
end
