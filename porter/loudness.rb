# frozen_string_literal: true

module Loomshuttle
  module Porter
    # Integrated loudness (EBU R 128, ITU-R BS.1770) of stems together, by ffmpeg.
    module Loudness
      SECONDS = 600

      # @param paths [Array<String>]
      # @return [Float, nil] LUFS; nil for silence, or if ffmpeg gives no figure
      def self.of(paths)
        return if paths.empty?

        inputs = paths.flat_map { |path| ["-i", path] }
        mix = paths.each_index.map { |nth| "[#{nth}:a:0]aformat=channel_layouts=stereo[s#{nth}]" }.join(";")
        all = "#{mix};#{paths.each_index.map { |nth| "[s#{nth}]" }.join}amix=inputs=#{paths.size}:normalize=0,ebur128=framelog=verbose"
        text, well = Runtime::Programs.run("ffmpeg", "-nostdin", "-hide_banner", "-nostats", *inputs, "-filter_complex", all, "-f", "null", "-", seconds: SECONDS, both: true)
        told = text.scan(/Integrated loudness:\s+I:\s+(-?\d+(?:\.\d+)?) LUFS/).flatten.last if well # a summary before the first sample comes, too
        told.to_f if told && told.to_f > -70
      rescue SystemCallError
        nil
      end
    end
  end
end
