# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A digital socket has no preamp, so 48 V cannot be turned on there (AES3-2009 carries no power).
    module PhantomOnDigital
      def self.findings(context)
        show = context.show
        show.channels.values.select { |channel| channel.phantom && show.profile.digital?(channel.stage) }.map do |channel|
          point = show.profile.channel_points(channel.number).first
          Finding.new(id: "phantom-on-digital/#{channel.number}", check: "phantom-on-digital", severity: Finding::LOOK,
                      sentence: "#{channel.title} (channel #{channel.number}) has 48 V on, but #{Rig::Label.for(channel.stage)} is digital and has no 48 V.",
                      path: [channel.stage, point.at("preamp")], at: [channel.stage, point],
                      fix: Steps::Completed.edit(show, "Turn 48 V off for #{channel.title}", "channel/#{channel.number}/phantom" => false))
        end
      end
    end
  end
end
