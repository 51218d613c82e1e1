# frozen_string_literal: true

require "digest"
require "fileutils"
require "numo/narray"

module Loomshuttle
  module Player
    # Speaks text by espeak-ng at the song's rate, with leading and trailing silence removed. The result is saved beside the song. A recording by a
    # singer, own/WORDS.wav in the song's folder, is preferred.
    class Voice
      # It has so long for a few words (seconds); softer than this is silence.
      SECONDS, SILENCE = 10, 0.01

      # @param folder [String] of the song   @param plan [Songs::GuidePlan]   @param rate [Integer]
      def initialize(folder, plan, rate)
        @folder, @plan, @rate = folder, plan, rate
        @said = {}
      end

      # @return [String, nil] why words are missing
      attr_reader :problem

      # @param words [String]
      # @return [Numo::SFloat, nil] nil if the words cannot be spoken
      def say(words) = @said.fetch(words) { @said[words] = trimmed(own(words) || spoken(words)) }

      private

      def own(words)
        path = File.join(@folder, "own", "#{words.downcase.gsub(/[^[:alnum:] -]+/, '_')}.wav")
        decode(path) if File.file?(path)
      end

      def spoken(words)
        kept = File.join(@folder, "voice", "#{Digest::SHA256.hexdigest([words, @plan.voice, @plan.speed, @rate].join('|'))[0, 32]}.f32")
        return Numo::SFloat.from_binary(File.binread(kept)) if File.file?(kept)

        FileUtils.mkdir_p(File.dirname(kept))
        wav = "#{kept}.wav"
        # Words are one argument behind the end of options, whatever they begin with.
        _, well = Runtime::Programs.run("espeak-ng", "-v", @plan.voice, "-s", @plan.speed.to_s, "-w", wav, "--", words, seconds: SECONDS)
        raise Invalid.new("There is no voice #{@plan.voice}.", where: "guide") unless well && File.file?(wav)

        decode(wav).tap { |sound| Runtime::Files.replace(kept, sound.to_binary) }
      rescue SystemCallError, Invalid => e
        @problem = "The guide cannot speak: #{Text.readable(e.message, most: 200)}"
        nil
      ensure
        FileUtils.rm_f(wav) if wav
      end

      def decode(path)
        bytes, well = Runtime::Programs.run("ffmpeg", "-v", "error", "-nostdin", "-protocol_whitelist", "file,pipe", "-i", path, "-ac", "1", "-ar", @rate.to_s, "-f", "f32le", "-",
                                            seconds: SECONDS, most: 32 << 20)
        raise Invalid.new("#{File.basename(path)} cannot be read as sound.", where: path) unless well

        Numo::SFloat.from_binary(bytes.byteslice(0, bytes.bytesize / 4 * 4))
      end

      def trimmed(sound)
        return if sound.nil? || sound.empty?

        loud = sound.abs.gt(SILENCE).where
        loud.empty? ? nil : sound[loud[0]..loud[-1]]
      end
    end
  end
end
