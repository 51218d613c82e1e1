# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The marks of channels on the strand sheet, by desk type; the same for every show.
    module SheetMarks
      # base: point of one lane; side: 0, or 1 for the right of a stereo channel; text: "17L"; words: "ch 17 L"; block: bracket
      # that it stands in, or nil
      Mark = Value.define(:base, :number, :side, :text, :words, :block)

      # @param desk [Rig::Desk]
      # @return [Array<Mark>] one per channel lane, in order
      def self.of(desk) = desk.memo(:sheet_marks) { desk.strips.flat_map { |strip| marks(desk, strip.number) }.freeze }

      def self.marks(desk, number)
        block = desk.stage_block == 1 ? nil : ((number - 1) / desk.stage_block) + 1
        desk.channel_points(number).map.with_index do |base, side|
          letter = base.side&.upcase
          Mark.new(base: base, number: number, side: side, text: "#{number}#{letter}", words: ["ch", number, letter].compact.join(" "), block: block)
        end
      end
      private_class_method :marks
    end
  end
end
