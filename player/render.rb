# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Player
    # Renders a song to a file for each output in use, with the same deck as in the show, as fast as possible.
    class Render
      # @param song [Songs::Song]   @param folder [String] of the song   @param roles [Array<Songs::Role>]
      # @param tonight [Songs::Tonight]   @param pilot [Pilot::Tone, nil]
      # @param timecode [Timecode, nil] the player's; nil for 25 frames per second from hour 1
      def initialize(song, folder, roles, tonight: Songs::Tonight.plain, pilot: nil, timecode: nil)
        @song, @roles = song, roles
        @block = Stock::PIECE * song.rate # frames at once: as they lie in memory, so that nothing is joined
        @stock = Stock.new(song, folder)
        voice = song.guide.on ? Voice.new(folder, song.guide, song.rate) : nil
        material = Material.new(song, @stock, roles, voice: voice, timecode: timecode || Timecode.new(song.rate, 25, 1))
        @pilot = pilot && Pilot.new(song.rate, pilot)
        @outputs = [*material.feeds.values.flatten.map(&:output), *pilot&.outputs].uniq.sort
        @deck = Deck.new(rate: song.rate, outputs: @outputs.max || 1)
        @levels, @samples = Levels.new(@outputs.max || 1), Audio::LimitedWav.new
        @deck.load(Loaded.new(item: nil, material: material, tonight: tonight))
      end

      # @param out [String] folder, created if missing
      # @return [Array<String>] paths of the files
      # @raise [Invalid] if no part of the song has an output
      def run(out)
        raise Invalid.new("No part of #{@song.name} has an output.", where: "roles") if @outputs.empty?

        FileUtils.mkdir_p(out)
        files = @outputs.to_h { |output| [output, writer(out, output)] }
        @deck.command("play")
        write(files) while @deck.playing?
        files.each_value(&:close)
        files.values.map(&:path)
      end

      # @return [Array<Hash>] as Levels#told_limited
      def limited = @levels.told_limited

      private

      def write(files)
        nil while @stock.fill
        left = @deck.left
        time = @deck.time
        block = @deck.render([@block, left].min)
        @pilot&.add(block, time)
        files.each { |output, file| file.write(@samples.bytes(block[output - 1, true]) { |where| @levels.limited(output, where) }) }
      end

      def writer(out, output)
        titles = Formats::FileNames.safe(@roles.select { |role| role.outputs.include?(output) }.map(&:name).join(" and "), most: 100)
        bext = Formats::Bext.new(description: "#{@song.name}: output #{output}", originator: "Loomshuttle", reference: @song.id.delete("-"), date: Time.now.strftime("%Y-%m-%d"),
                                 time: Time.now.strftime("%H:%M:%S"), time_reference: 0, history: "A=PCM,F=#{@song.rate},W=24,M=mono,T=Loomshuttle")
        Formats::Wav::Writer.new(File.join(out, "output #{format('%02d', output)} #{titles}.wav"), bext: bext, rate: @song.rate)
      end
    end
  end
end
