# frozen_string_literal: true

# Adds places with names to a WAV file, as the standard says (Microsoft and IBM, Multimedia Programming Interface and Data Specifications 1.0, 1991, chapter 3).
module CueFile
  def self.mark(path, places)
    points = places.each_with_index.map { |(frame, _), nth| [nth + 1, frame, "data", 0, 0, frame].pack("VVa4VVV") }
    cue = [places.size].pack("V") + points.join
    labels = places.each_with_index.map { |(_, name), nth| chunk("labl", [nth + 1, name].pack("VZ*")) }
    bytes = File.binread(path) + chunk("cue ", cue) + chunk("LIST", "adtl".b + labels.join)
    bytes[4, 4] = [bytes.bytesize - 8].pack("V")
    File.binwrite(path, bytes)
  end

  def self.chunk(id, data) = [id, data.bytesize].pack("a4V") + data + (data.bytesize.odd? ? "\0" : "")
end
