# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A channel in use that is patched to a socket or lane that the rig does not have. Unnamed channels only came along with their block.
    module MissingSocket
      def self.findings(context)
        show = context.show
        show.channels.values.select { |channel| channel.stage && !channel.name.empty? && show.layout.source(channel.stage).missing }
          .map { |channel| finding(show, channel) }
      end

      class << self
        private

        def finding(show, channel)
          source = show.layout.source(channel.stage)
          base = show.profile.channel_points(channel.number).first
          Finding.new(id: "missing-socket/#{channel.number}", check: "missing-socket", severity: Finding::BLOCKS,
                      sentence: "#{channel.title} (channel #{channel.number}) is patched to #{Rig::Label.for(channel.stage)}, but #{source.missing}.",
                      path: [channel.stage, base.at("preamp")], at: [channel.stage, base], fix: FreeSocket.fix(show, channel))
        end
      end
    end
  end
end
