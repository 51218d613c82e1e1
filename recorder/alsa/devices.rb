# frozen_string_literal: true

require "open3"

module Loomshuttle
  module Recorder
    module Alsa
      # The sound cards that ALSA knows, and what each can do, as alsa-utils tell it.
      module Devices
        # What a device can do: name for ALSA, words for people, lanes each way, rates in Hz (lowest and highest), and how its samples
        # are asked for.
        Device = Value.define(:name, :words, :inputs, :outputs, :rates, :format)
        # Formats that hold 24 bits, the shorter first.
        FORMATS = %w[S24_3LE S32_LE].freeze
        # What every system lists, and is no card.
        PLUGINS = %w[null default sysdefault pulse pipewire jack oss lavrate samplerate speexrate upmix vdownmix].freeze
        # Nothing that claims more is a sound card, but a plugin that takes anything.
        MOST_LANES = 64

        # @return [Array<Hash>] name and words of each, hardware first, then what somebody has defined
        def self.list
          cards = run("arecord", "-l").first.scan(/^card (\d+): (\S+) \[(.*?)\], device (\d+): .*? \[(.*?)\]/).map do |_, id, card, device, part|
            { "name" => "hw:#{id},#{device}", "words" => [card, part].uniq.join(", ") }
          end
          cards + defined.map { |name| { "name" => name, "words" => name } }
        end

        # @param name [String]
        # @return [Device]
        # @raise [Invalid] when it is not there, is busy, or holds no 24 bits
        def self.look(name)
          inputs, rates, format = params("arecord", name)
          outputs, = params("aplay", name)
          words = list.find { |one| one["name"] == name }&.fetch("words") || name
          Device.new(name: name, words: words, inputs: inputs, outputs: outputs, rates: rates, format: format)
        end

        class << self
          private

          # Names that a person has defined: what stands in the list without being a card's or a plugin of the system.
          def defined
            run("arecord", "-L").first.lines.grep(/\A\S/).map(&:strip).reject do |name|
              name.include?(":") || PLUGINS.include?(name)
            end
          end

          # @return [Array] lanes, rates and format
          def params(program, name)
            text, = run(program, "-D", name, "--dump-hw-params", "-d", "1", "-t", "raw", "-f", FORMATS.first, "-c", "2", "-r", "48000", File::NULL)
            raise Invalid.new(trouble(text, name), where: "device") unless text.include?("HW Params")

            format = FORMATS.find { |one| text[/^FORMAT:(.*)$/, 1].to_s.split.include?(one) } or raise Invalid.new("#{name} holds no 24 bits.", where: "device")
            [highest(text, "CHANNELS").clamp(1, MOST_LANES), range(text, "RATE"), format]
          end

          def trouble(text, name)
            return "#{name} is busy: another program uses it." if text.match?(/busy/i)

            "There is no sound device #{name}."
          end

          def highest(text, field) = range(text, field).last

          # "CHANNELS: 2", "CHANNELS: [1 32]"
          def range(text, field) = text[/^#{field}: *(.*)$/, 1].to_s.scan(/\d+/).map(&:to_i).then { |found| found.empty? ? [0, 0] : [found.first, found.last] }

          def run(*command) = Open3.capture2e({ "LC_ALL" => "C" }, *command)
        end
      end
    end
  end
end
