# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # Words in the names of files (common practice, no published source).
    module NameWords
      # Those that say nothing about the source.
      EMPTY = %w[audio track trk take ch channel wav aif aiff flac mp3 mono stereo final master raw rec recording bounce export file input in line edit mix
                 the a of and].freeze
      # What sources are called for short, and their full words.
      SHORT = { "vox" => "voice", "voc" => "voice", "vocal" => "voice", "vocals" => "voice", "vcl" => "voice", "gtr" => "guitar", "git" => "guitar", "bs" => "bass",
                "acc" => "accordion", "dr" => "drum", "bd" => "bass drum", "kick" => "bass drum", "kik" => "bass drum", "snare" => "side drum", "sd" => "side drum",
                "sn" => "side drum", "cym" => "cymbals", "oh" => "overhead", "tpt" => "trumpet", "tbn" => "trombone", "trb" => "trombone", "crn" => "cornet",
                "vln" => "fiddle", "violin" => "fiddle", "vla" => "viola", "amb" => "ambience", "pno" => "piano", "keys" => "keyboard", "perc" => "percussion" }.freeze
      SIDES = { "l" => :left, "left" => :left, "lt" => :left, "r" => :right, "right" => :right, "rt" => :right }.freeze
    end
  end
end
