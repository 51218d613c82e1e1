# frozen_string_literal: true

require "digest"

module Loomshuttle
  module Runtime
    # The sound cards that ALSA knows, and what each can do, as alsa-utils report it. People choose one by its id in this list. Names in alsa-lib
    # can run programs, so only listed names without arguments ever reach it.
    module SoundDevices
      # What a device can do: name for ALSA, words for people, lanes each way, rates in Hz (lowest and highest), and how its samples
      # are asked for.
      Device = Value.define(:name, :words, :inputs, :outputs, :rates, :format)
      # Formats that hold 24 bits, the shorter first.
      FORMATS = %w[S24_3LE S32_LE].freeze
      # What every system lists, and is not a card.
      PLUGINS = %w[null default sysdefault pulse pipewire jack oss lavrate samplerate speexrate upmix vdownmix].freeze
      # Nothing that claims more is a sound card, but a plugin that takes anything.
      MOST_LANES = 64
      # Samples a second that a device can have; plugins claim more.
      HIGHEST = 768_000
      # Cards that are listed at most.
      MOST = 64
      # A card's device, or a word that somebody has defined in ALSA's configuration: nothing with arguments, quotes or blanks.
      NAME = /\A(hw:[A-Za-z0-9_-]{1,32},\d{1,2}|[A-Za-z_][A-Za-z0-9_-]{0,40})\z/

      # What is kept of one, field by field.
      FIELDS = { "name" => Shape.text(most: 50, pattern: NAME), "words" => Shape.text(most: 200), "inputs" => Shape.whole(0..MOST_LANES),
                 "outputs" => Shape.whole(0..MOST_LANES), "rates" => Shape.list(Shape.whole(1..HIGHEST), most: 2, least: 2), "format" => Shape.one_of(*FORMATS) }.freeze

      # @param program ["arecord", "aplay"] lists devices that record, or devices that play
      # @return [Array<Hash>] id, name and words of each: hardware first, then devices defined in ALSA's configuration
      def self.list(program = "arecord")
        cards = run(program, "-l").scan(/^card (\d+): (\S+) \[(.*?)\], device (\d+): .*? \[(.*?)\]/).map do |_, id, card, device, part|
          { "name" => "hw:#{id},#{device}", "words" => Text.readable([card, part].uniq.join(", "), most: 80) }
        end
        all = cards + defined(program).map { |name| { "name" => name, "words" => name } }
        all.select { |one| one["name"].match?(NAME) }.first(MOST).map { |one| { "id" => id_of(one["name"]), **one } }
      end

      # @return [String] id of a device name
      def self.id_of(name) = Digest::SHA256.hexdigest(name)[0, 12]

      # @return [Boolean] whether ALSA lists it now
      def self.listed?(name, program = "arecord") = name.match?(NAME) && list(program).any? { |one| one["name"] == name }

      # @param id [String] of a listed device
      # @return [Device]
      # @raise [Invalid] if it is not listed, is busy, or does not support 24 bits
      def self.look(id)
        found = list.find { |one| one["id"] == id } or raise Invalid.new("There is no such sound device now; look at the list again.", where: "device")
        name = found["name"]
        inputs, rates, format = params("arecord", name)
        outputs, = params("aplay", name)
        Device.new(name: name, words: found["words"], inputs: inputs, outputs: outputs, rates: rates, format: format)
      end

      # @param id [String] of a listed playback device
      # @return [Device] for playback only
      # @raise [Invalid] as look
      def self.look_out(id)
        found = list("aplay").find { |one| one["id"] == id } or raise Invalid.new("There is no such sound device now; look at the list again.", where: "device")
        outputs, rates, format = params("aplay", found["name"])
        Device.new(name: found["name"], words: found["words"], inputs: 0, outputs: outputs, rates: rates, format: format)
      end

      class << self
        private

        # Names that a person has defined: what stands in the list without being a card's or a plugin of the system.
        def defined(program)
          run(program, "-L").lines.grep(/\A\S/).map(&:strip).reject do |name|
            name.include?(":") || PLUGINS.include?(name)
          end
        end

        # @return [Array] lanes, rates and format
        def params(program, name)
          text = run(program, "-D", name, "--dump-hw-params", "-d", "1", "-t", "raw", "-f", FORMATS.first, "-c", "2", "-r", "48000", File::NULL)
          raise Invalid.new(trouble(text, name), where: "device") unless text.include?("HW Params")

          format = FORMATS.find { |one| text[/^FORMAT:(.*)$/, 1].to_s.split.include?(one) } or raise Invalid.new("#{name} holds no 24 bits.", where: "device")
          [highest(text, "CHANNELS").clamp(1, MOST_LANES), range(text, "RATE").map { |rate| rate.clamp(1, HIGHEST) }, format]
        end

        def trouble(text, name)
          return "#{name} is busy: another program uses it." if text.match?(/busy/i)

          "There is no sound device #{name}."
        end

        def highest(text, field) = range(text, field).last

        # "CHANNELS: 2", "CHANNELS: [1 32]"
        def range(text, field) = text[/^#{field}: *(.*)$/, 1].to_s.scan(/\d+/).map(&:to_i).then { |found| found.empty? ? [0, 0] : [found.first, found.last] }

        def run(*command) = Runtime::Programs.run(*command, both: true, environment: { "LC_ALL" => "C" }).first.force_encoding(Encoding::UTF_8).scrub("?")
      end
    end
  end
end
