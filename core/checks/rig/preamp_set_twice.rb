# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Channels on one socket share its preamp, so a plan with two settings for it (as in shows of older versions) cannot be right. Until somebody
    # decides, the lowest channel applies.
    module PreampSetTwice
      def self.findings(context)
        show = context.show
        Settings::SharedPreamp.groups(show).filter_map do |list|
          ways = list.group_by { |channel| [channel.gain, channel.phantom] }
          finding(show, list, ways) if ways.size > 1 && SAME.call(show, list)
        end
      end

      # A channel whose preamp has another range (a line input) is none of the same.
      SAME = ->(show, list) { list.map { |channel| show.profile.strip(channel.number).preamp }.uniq.size == 1 }
      private_constant :SAME

      class << self
        private

        def finding(show, list, ways)
          first = list.first
          socket = show.layout.socket_of(first.stage)
          said = ways.map { |(gain, phantom), channels| "#{words(gain, phantom)} for #{channels.map { |one| "channel #{one.number} #{one.name}".strip }.join(' and ')}" }
          points = list.map { |channel| show.profile.channel_points(channel.number).first }
          Finding.new(id: "preamp-set-twice/#{socket.dotted}", check: "preamp-set-twice", severity: Finding::LOOK,
                      sentence: "#{Rig::Label.for(socket)} has one preamp with #{ways.size} conflicting settings: #{said.join('; ')}. The first applies.",
                      path: [socket, points.first.at("preamp")].uniq, at: [first.stage, *points],
                      fix: Settings::Edit.set("Set the preamp at #{Rig::Label.for(socket)} to #{words(first.gain, first.phantom)}", one_way(list, first)))
        end

        def one_way(list, first)
          list.drop(1).flat_map { |one| Settings::SharedPreamp::FIELDS.map { |field| ["channel/#{one.number}/#{field}", first[field]] } }.to_h
        end

        def words(gain, phantom) = "#{Text.decibels(gain)}#{' with 48 V' if phantom}"
      end
    end
  end
end
