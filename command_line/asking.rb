# frozen_string_literal: true

require "json"

module Loomshuttle
  module CommandLine
    # What all commands share: they ask the application, and print words or JSON.
    module Asking
      private

      # What stands before and behind the name of a group of commands is read by the one above it.
      def common = parent_options || options

      def client = @client ||= Client.new(common[:port])

      def show(data) = puts(common[:json] ? JSON.pretty_generate(data) : yield(data))
    end
  end
end
