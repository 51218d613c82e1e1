# frozen_string_literal: true

module Loomshuttle
  module Rig
    # How many lanes a stage link carries each way. AES50-2011 (high-resolution multichannel audio interconnection):
    # 48 channels each way at 44.1 and 48 kHz, 24 at 88.2 and 96 kHz. Figures from memory of the standard's abstract and
    # of data sheets that quote it.
    module Aes50
      BASE_RATES = [44_100, 48_000].freeze
      LANES = 48

      # @param rate [Integer] samples a second
      # @return [Integer] lanes each way; 0 at a rate the link does not support
      def self.lanes(rate)
        fold = BASE_RATES.map { |base| rate / base.to_f }.find { |times| [1, 2].include?(times) }
        fold ? (LANES / fold).to_i : 0
      end
    end
  end
end
