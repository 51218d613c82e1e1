# frozen_string_literal: true

module Loomshuttle
  module Web
    # A list of records, each written as JSON; what stands in the list before as well is taken from there.
    class RecordList
      # @return [Array<Hash, Value>] the records
      attr_reader :records
      # @return [Hash{String=>JsonText}] the same as text, by what tells them apart, in order
      attr_reader :texts

      # @param records [Array<Hash, Value>]   @param fields [Array<Symbol>] that tell them apart
      # @param before [RecordList, nil]
      def initialize(records, fields, before: nil)
        @records, @fields = records, fields
        @texts = if before.nil? then apart(records.map { |record| write(record) })
                 elsif records == before.records then before.texts
                 else apart(beside(before.records, before.texts.to_a))
                 end
      end

      # @return [JsonText] all of it
      def text = JsonText.list(@texts.values)

      private

      # None is left out, even if two should go by one name.
      def apart(written)
        texts = written.to_h
        texts.size == written.size ? texts : written.each_with_index.to_h { |(name, text), at| ["#{name} #{at}", text] }
      end

      def write(record) = [record.to_h.values_at(*@fields).join(" "), JsonText.of(record.to_h)]

      # Mostly a record stands where it stood, or behind one that was taken out or put in.
      def beside(old, written)
        at = 0
        @records.map do |record|
          at += 1 if old[at] != record && old[at + 1] == record
          next write(record) unless at < old.size && old[at] == record

          at += 1
          written[at - 1]
        end
      end
    end
  end
end
