# frozen_string_literal: true

require "json"

# Good documents, and the same damaged in many ways: by what people, disks and other programs do to files and messages.
module Damage
  TAKE = { "format" => "loomshuttle-take/1", "id" => "0b9e7a52-4a53-4c0e-9f0e-0d6f0f1d2c3b", "number" => 1, "name" => "Good", "state" => "complete", "note" => nil,
           "rate" => 48_000, "bits" => 24, "frames" => 48_000, "started_at" => "2026-06-13T20:30:00Z", "gaps" => [], "breaks" => [],
           "markers" => [{ "at" => 10, "frames" => 0, "name" => "M" }],
           "overview" => { "file" => "overview.u8", "frames" => 2400 },
           "tracks" => [{ "number" => 1, "name" => "Tuba", "inputs" => [1], "outputs" => [1], "file" => "one.wav", "frames" => 48_000, "peak_dbfs" => -3.0, "rms_dbfs" => -20.0,
                          "clips" => 0, "rests" => [[0, 100]] }] }.freeze
  VALUES = [nil, true, false, -1, 0, 1, 1.5, 2**31, 2**53, 2**63, 2**64, 1e300, "", "1", "x", "x" * 300, "a\u0000b", "../../etc/passwd", "e\u0301", "日本", "\u202E", [], [1], [[]],
            {}, { "a" => 1 }].freeze

  module_function

  # @return [String] of a JSON value, perhaps damaged in its bytes, too
  def text(value, random)
    text = JSON.generate(value)
    case random.rand(6)
    when 0 then text[0, random.rand(text.size)]
    when 1 then text.b.tap { |bytes| bytes.setbyte(random.rand(bytes.bytesize), random.rand(256)) unless bytes.empty? }
    when 2 then text.sub(/"[a-z]+"/, "\"\\\\ud800\"")
    else text
    end
  end

  # @return [Object] the value with one place changed
  def value(value, random)
    return VALUES.sample(random: random) if random.rand < 0.2

    case value
    when Hash
      return value.except(value.keys.sample(random: random)) if value.any? && random.rand < 0.3
      return value.merge("zz" => VALUES.sample(random: random)) if value.empty? || random.rand < 0.1

      key = value.keys.sample(random: random)
      value.merge(key => value(value[key], random))
    when Array
      return value + [VALUES.sample(random: random)] if value.empty? || random.rand < 0.3

      at = random.rand(value.size)
      value.each_with_index.map { |one, index| index == at ? value(one, random) : one }
    else VALUES.sample(random: random)
    end
  end
end
