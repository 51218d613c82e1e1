# frozen_string_literal: true

module Loomshuttle
  module Checks
    # All devices run at one rate. A device that cannot is silent or noisy.
    module RateDiffers
      def self.findings(context)
        show = context.show
        unable = devices(show).reject { |_, rates| rates.include?(show.rate) }.keys
        return [] if unable.empty?

        sentence = "#{unable.join(' and ')} cannot run at #{kilohertz(show.rate)}, the rate of this rig."
        [Finding.new(id: "rate-differs", check: "rate-differs", severity: Finding::BLOCKS, sentence: sentence, path: [], at: [], fix: fix(show))]
      end

      class << self
        private

        def devices(show)
          found = { show.profile.name => show.profile.rates }
          show.layout.hung.each { |hung| found[hung.title] = hung.box.rates }
          interface = show.rig.interface && show.catalog.fetch("interface", show.rig.interface)
          found[interface.name] = interface.rates if interface
          found
        end

        def fix(show)
          rate = devices(show).values.reduce(:&).first or return
          Settings::Edit.set("Run the rig at #{kilohertz(rate)}", "rig/rate" => rate)
        end

        def kilohertz(rate) = "#{(rate / 1000.0).to_s.delete_suffix('.0')} kHz"
      end
    end
  end
end
