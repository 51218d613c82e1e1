# frozen_string_literal: true

module Loomshuttle
  module Web
    # A list of records as JSON texts. Records that also stand in the previous list keep their text.
    class RecordList
      # @return [Array<Hash, Value>] the records
      attr_reader :records
      # @return [Hash{String=>JsonText}] their texts by name, in order
      attr_reader :texts

      # @param records [Array<Hash, Value>]   @param fields [Array<Symbol>] that together identify a record
      # @param before [RecordList, nil]
      def initialize(records, fields, before: nil)
        @records, @fields = records, fields
        @texts = if before.nil? then apart(records.map { |record| write(record) })
                 elsif records == before.records then before.texts
                 else apart(beside(before.records, before.texts.to_a))
                 end
      end

      # @return [JsonText] the whole list
      def text = JsonText.list(@texts.values)

      private

      # Keeps all records even if two have the same name.
      def apart(written)
        texts = written.to_h
        texts.size == written.size ? texts : written.each_with_index.to_h { |(name, text), at| ["#{name} #{at}", text] }
      end

      def write(record) = [record.to_h.values_at(*@fields).join(" "), JsonText.of(record.to_h)]

      # A record usually keeps its place, or moves by one where another was added or removed.
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
