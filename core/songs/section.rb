# frozen_string_literal: true

module Loomshuttle
  module Songs
    # A part of a song.
    #   key     its number in the song, which stays     bar     where it begins, from 1; the first one begins with the song
    #   shift   samples later than its bar              click   whether the click is heard in it
    #   words   what the guide says of it instead of its name, or ""
    Section = Value.define(:key, :name, :dye, :bar, :shift, :click, :words)
  end
end
