# frozen_string_literal: true

require "json"

module Loomshuttle
  module StandIns
    module Desk
      # The desk's settings in a file, written at most once a second, to survive a power cut.
      class Memory
        EVERY = 1.0
        VALUES = Shape.map(Shape.any_of(Shape.number(-1e9..1e9), Shape.text(most: 1000)), most: 100_000)

        attr_reader :path

        # @param path [String] of the file  @param first [String, nil] settings file for a new desk
        # @param aside [Runtime::Aside, nil] takes an unreadable file
        def initialize(path, settings, first: nil, aside: nil)
          @path = path
          @settings = settings
          aside&.read(path) { |data| VALUES.check(data, File.basename(path)) }
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
          Runtime::Files.replace(@path, JSON.pretty_generate(@settings.addresses.to_h { |address| [address, @settings.get(address)] }), sync: false)
          @kept = @settings.revision
        rescue SystemCallError
          @kept = nil # again later
        end

        private

        def recall(file)
          return unless file

          VALUES.check(Runtime::Files.read_json(file), File.basename(file)).each do |address, value|
            @settings.set(address, value)
          rescue Settings::Refused => e
            Runtime::Log.now.warn("Left out of #{file}: #{address}, #{e.message}")
          end
        rescue Invalid, SystemCallError => e
          Runtime::Log.now.warn("The desk starts empty: #{e.message}")
        end
      end
    end
  end
end
