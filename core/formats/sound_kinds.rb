# frozen_string_literal: true

module Loomshuttle
  module Formats
    # The formats that an imported file may have.
    module SoundKinds
      # Containers that ffmpeg may take a file for, whatever it is called: none that names other files or places, as playlists and scripts do.
      FFMPEG = %w[wav w64 aiff caf flac mp3 mov aac ogg asf].join(",").freeze
      # Options before an input file.
      OPTIONS = ["-protocol_whitelist", "file", "-format_whitelist", FFMPEG].freeze
    end
  end
end
