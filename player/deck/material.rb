# frozen_string_literal: true

module Loomshuttle
  module Player
    # Everything of a song that sounds: its stems, and the sounds computed from it.
    class Material
      attr_reader :song, :stock, :sums, :feeds

      # @param song [Songs::Song]   @param stock [Stock]   @param roles [Array<Songs::Role>]
      # @param voice [Voice, nil] speaks the guide   @param timecode [Timecode, nil]
      def initialize(song, stock, roles, voice: nil, timecode: nil)
        @song, @stock, @sums = song, stock, Sums.new(stock)
        @made = { "click" => click, "guide" => guide(voice), "timecode" => timecode }.compact
        @troubles = [voice&.problem].compact
        self.roles = roles
      end

      # @return [Array<String>] which parts cannot be heard, and why
      def troubles = @stock.troubles.values + @troubles

      # Changes the routing from now on.
      # @param roles [Array<Songs::Role>]
      def roles=(roles)
        @feeds = Songs::Feed.of(@song, roles).reject { |feed| feed.source == "pilot" }.group_by(&:source).freeze
        @sums.feeds = @feeds
      end

      # Reads ahead and sums what was read. @return [Boolean] whether there was anything to do
      def fill = @stock.fill || @sums.fill

      # @param source [Integer, String] as in Songs::Feed
      # @return [Numo::SFloat, nil] [frames, lanes], or nil for silence
      # @yield if the piece was not read in time
      def read(source, from, frames, &) = source.is_a?(Integer) ? @stock.read(source, from, frames, &) : @made[source]&.read(from, frames)

      private

      def click
        sounds = %w[accent beat between].to_h { |kind| [kind, Audio::ClickSounds.of(@song.click.sound, kind, @song.rate)] }
        Events.new(Songs::Strokes.of(@song).map { |stroke| [stroke.sample, sounds.fetch(stroke.kind)] })
      end

      def guide(voice)
        return unless voice

        said = Songs::Cues.of(@song).filter_map do |cue|
          sound = voice.say(cue.words) or next
          [cue.at || (cue.ends - sound.size), sound]
        end
        Events.new(said.sort_by.with_index { |(at, _), nth| [at, nth] })
      end
    end
  end
end
