# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Numbers of takes, as their folders tell them.
    module TakeFiles
      # @param folder [String] where takes are kept
      # @return [Integer] number of the next take: one more than any that is there, or in its bin
      def self.next_number(folder)
        folders = [folder, File.join(folder, TakeChange::BIN)].select { |one| Dir.exist?(one) }
        numbers = folders.flat_map { |one| Dir.children(one).filter_map { |entry| entry[/\A(\d+) /, 1]&.to_i } }
        (numbers.max || 0) + 1
      end
    end
  end
end
