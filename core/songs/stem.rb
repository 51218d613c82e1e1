# frozen_string_literal: true

module Loomshuttle
  module Songs
    # A file of a song.
    #   id      its number in the song, which stays     role    what it is, which has its output ("Strings")
    #   file    name in the song's folder               lanes   1: mono, 2: stereo       frames   length in samples
    #   gain_db, mute                                   sum     SHA-256 of the file      source  name of the file it came from
    #   mono_db  what it loses when its sides are added up (dB), or nil
    Stem = Value.define(:id, :name, :role, :file, :lanes, :frames, :gain_db, :mute, :sum, :source, :mono_db)
  end
end
