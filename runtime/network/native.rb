# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # The C file in ext/packets, where it could be built (bin/lib/install.sh): it reads packets in a fraction of the time. Everything works
    # without it, and LOOMSHUTTLE_NATIVE=0 leaves it out.
    module Native
      # Each Ruby has its own build.
      PLACE = File.join(ROOT, "vendor", "ext", "#{RUBY_PLATFORM}-#{RbConfig::CONFIG['ruby_version']}", "packets.so")

      class << self
        # @return [Module, nil] Loomshuttle::Packets
        def packets
          return @packets if defined?(@packets)

          @packets = load
        end

        private

        def load
          return if ENV["LOOMSHUTTLE_NATIVE"] == "0" || !File.file?(PLACE)

          require PLACE
          Audio::Pcm24.unpack_with(Packets)
          Packets
        rescue LoadError => e
          Log.now.warn("#{PLACE} cannot be loaded, so packets are read in Ruby: #{e.message}")
          nil
        end
      end
    end
  end
end
