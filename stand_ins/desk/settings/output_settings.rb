# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Settings of the outputs: their sources, their sockets, and personal-mix lanes.
      module OutputSettings
        private

        def add_outputs
          (1..@model.mix_outputs).each { |output| add_output("output/#{output}") }
          (1..@model.mix.personal).each { |lane| add_source("personal/#{lane}") }
          @model.outlets.each do |outlets|
            (1..(outlets.count / outlets.block.to_f).ceil).each do |block|
              first = ((block - 1) * outlets.block) + 1
              start = first <= @model.mix_outputs ? first : 0
              add("outlet/#{outlets.id}/#{block}/first", start) { |value| outlet_start(value, outlets.block) }
            end
          end
        end

        def add_output(at)
          mix = @model.mix
          add_source(at)
          add("#{at}/delay", 0) { |value| whole(value, 0..mix.longest_delay) } if mix.longest_delay.positive?
          decibels("#{at}/trim", 0.0, -mix.trim..mix.trim) if mix.trim.positive?
          switch("#{at}/polarity") if mix.polarity
          switch("#{at}/mute")
        end

        # A tap that does not fit its source becomes post-fader.
        def add_source(at)
          taps = (@model.mix.mix_taps | @model.mix.channel_taps)
          add("#{at}/from", "") { |value| output_source(value) }
          add("#{at}/tap", "post-fader") { |value| one_of(value, taps) } if taps.size > 1
        end

        def outlet_start(value, size)
          fits = value.is_a?(Integer) && (value.zero? || (value.between?(1, @model.mix_outputs) && value % size == 1 % size))
          raise Settings::Refused, "an outlet block of #{size} starts at output 1, #{size + 1} and so on, or 0 for none" unless fits

          value
        end

        def output_source(value)
          return value if value == ""
          raise Settings::Refused, "there is no #{value.inspect[0, 60]} to put out" unless value.is_a?(String) && known_source?(value)

          kind = value[/\A[a-z]+/]
          raise Settings::Refused, "an output of this desk carries #{@model.mix.sources.join(', ')}, and no #{kind}" unless @model.mix.sources.include?(kind)

          value
        end

        def known_source?(value) = known_mix?(value) || known_channel?(value) || (value.match?(%r{\Acard/\d{1,4}\z}) && value[/\d+/].to_i.between?(1, @model.returns))

        def whole(value, range)
          raise Settings::Refused, "a whole number from #{range.min} to #{range.max} is needed" unless value.is_a?(Integer) && range.cover?(value)

          value
        end
      end
    end
  end
end
