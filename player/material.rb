# frozen_string_literal: true

module Loomshuttle
  module Player
    # Everything of a song that sounds: its stems, and what is computed from it.
    class Material
      attr_reader :song, :stock, :feeds

      # @param song [Songs::Song]   @param stock [Stock]   @param roles [Array<Songs::Role>]
      def initialize(song, stock, roles)
        @song, @stock = song, stock
        sounds = %w[accent beat between].to_h { |kind| [kind, Numo::SFloat.cast(Audio::ClickSounds.of(song.click.sound, kind, song.rate))] }
        @made = { "click" => Events.new(Songs::Strokes.of(song).map { |stroke| [stroke.sample, sounds.fetch(stroke.kind)] }) }
        @roles = roles.to_h { |role| [role.name, role] }
        self.roles = roles
      end

      # Sends everything elsewhere from now on.
      # @param roles [Array<Songs::Role>]
      def roles=(roles)
        @feeds = Songs::Feed.of(@song, roles).reject { |feed| feed.source == "pilot" }.group_by(&:source).freeze
      end

      # @param source [Integer, String] as Songs::Feed has it
      # @return [Numo::SFloat, nil] [frames, lanes], or nil for silence
      # @yield when it is not there in time
      def read(source, from, frames, &) = source.is_a?(Integer) ? @stock.read(source, from, frames, &) : @made[source]&.read(from, frames)
    end
  end
end
