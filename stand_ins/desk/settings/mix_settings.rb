# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Settings of the mix: channels to mixes, buses, main and matrices.
      module MixSettings
        private

        # @param at [String] address of a channel
        def add_into_mixes(at)
          decibels("#{at}/fader", -6.0)
          switch("#{at}/mute")
          decibels("#{at}/pan", 0.0, -1..1)
          switch("#{at}/polarity")
          switch("#{at}/main", 1)
          (1..@model.buses).each { |bus| add_send_to("#{at}/bus/#{bus}") }
        end

        def add_send_to(at)
          taps = @model.mix.send_taps
          decibels(at, -90.0)
          add("#{at}/tap", usual_tap(taps)) { |value| one_of(value, taps) } if taps.size > 1
          switch("#{at}/on") if @model.mix.subgroups
        end

        def usual_tap(taps) = taps.include?("pre-fader") ? "pre-fader" : taps.first

        def add_mix
          (1..@model.buses).each { |bus| add_bus("bus/#{bus}", bus) }
          add_master("main")
          (1..@model.matrices).each do |matrix|
            add_master("matrix/#{matrix}")
            (1..@model.buses).each { |bus| decibels("matrix/#{matrix}/bus/#{bus}", -90.0) }
            @model.mains.each { |side| decibels("matrix/#{matrix}/main/#{side}", side == "c" ? -90.0 : -3.0) }
          end
        end

        def add_bus(at, number)
          add("#{at}/label", "") { |value| text(value, 40) }
          add("#{at}/mode", "mix") { |value| one_of(value, %w[mix subgroup]) } if @model.mix.subgroups
          switch("#{at}/pair") if @model.mix.pairs && number.odd? && number < @model.buses
          if @model.mix.bus_to_main
            switch("#{at}/main")
            decibels("#{at}/pan", 0.0, -1..1)
          end
          add_master(at)
        end

        def add_master(at)
          decibels("#{at}/fader", 0.0)
          switch("#{at}/mute")
          decibels("#{at}/tilt", 0.0, -0.9..0.9)
        end
      end
    end
  end
end
