# frozen_string_literal: true

module Loomshuttle
  module Settings
    # One of the desk's outputs: the mix that feeds it ("desk/main/l") or nil, taken post-fader, and the socket where the
    # engineer counts on it ("box-b/out/7") or nil.
    MixOutput = declare("output", :outputs, :desk, key: :number, keys: ->(desk) { 1..desk.mix_outputs }, words: ->(_, key) { "Output #{key}" }) do
      expected = ValueKind.new({ "type" => %w[string null] }, sort: :point) do |value, _|
        fits = value.nil? || (value.is_a?(String) && value.match?(%r{\A(desk|box-[a-h])/[a-z]+/\d+\z}))
        fits ? value : Kinds.refuse("an expected socket reads like box-b/out/7")
      end

      setting :source, Kinds.point { |at| at.show.profile.mix_points }.or_none, blank: nil, words: "carries", part: "outputs", desk: "output/%s/from"
      setting :expected, expected, blank: nil, words: "expected at", part: "outputs"
    end

    class MixOutput
      # @return [String, nil]
      def point = source && "#{source}@post-fader"
    end
  end
end
