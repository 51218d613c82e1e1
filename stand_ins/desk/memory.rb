# frozen_string_literal: true

require "json"

module Loomshuttle
  module StandIns
    module Desk
      # The desk keeps its settings over a power cut: in a file, written at most once a second.
      class Memory
        EVERY = 1.0

        attr_reader :path

        # @param path [String] of the file  @param first [String, nil] what a new desk starts with
        def initialize(path, settings, first: nil)
          @path = path
          @settings = settings
          recall([path, first].compact.find { |file| File.exist?(file) })
          @kept = settings.revision
          @at = 0
        end

        # @param now [Float] seconds
        def keep(now)
          return if @kept == @settings.revision || now - @at < EVERY

          save
          @at = now
        end

        def save
          File.write("#{@path}.new", JSON.pretty_generate(@settings.addresses.to_h { |address| [address, @settings.get(address)] }))
          File.rename("#{@path}.new", @path)
          @kept = @settings.revision
        rescue Errno::ENOSPC
          @kept = nil # again later
        end

        private

        def recall(file)
          return unless file

          JSON.parse(File.read(file)).each do |address, value|
            @settings.set(address, value)
          rescue Settings::Refused => e
            warn "Left out of #{file}: #{address}, #{e.message}"
          end
        rescue JSON::ParserError
          warn "#{file} cannot be read; the desk starts empty."
        end
      end
    end
  end
end
