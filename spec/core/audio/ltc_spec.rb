# frozen_string_literal: true

require "fiddle"

# Read back by libltc (Debian's libltc11), which knows nothing of ours.
RSpec.describe Loomshuttle::Audio::Ltc do
  # What the decoder understands, as [hours, minutes, seconds, frames], with whether a frame came reversed.
  def decoded(samples, rate, fps)
    library = Fiddle.dlopen("libltc.so.11")
    function = ->(name, *arguments, returns: Fiddle::TYPE_INT) { Fiddle::Function.new(library[name], arguments, returns) }
    decoder = function.call("ltc_decoder_create", Fiddle::TYPE_INT, Fiddle::TYPE_INT, returns: Fiddle::TYPE_VOIDP).call(rate / fps, 64)
    write = function.call("ltc_decoder_write_float", Fiddle::TYPE_VOIDP, Fiddle::TYPE_VOIDP, Fiddle::TYPE_SIZE_T, Fiddle::TYPE_LONG_LONG, returns: Fiddle::TYPE_VOID)
    read = function.call("ltc_decoder_read", Fiddle::TYPE_VOIDP, Fiddle::TYPE_VOIDP)
    frame = Fiddle::Pointer.malloc(1024, Fiddle::RUBY_FREE)
    found = []
    samples.each_slice(1024).with_index do |slice, at|
      write.call(decoder, slice.pack("f*"), slice.size, at * 1024)
      found << figures(frame[0, 10].unpack("C10")) while read.call(decoder, frame) == 1
    end
    found
  end

  # LTCFrame's first eight bytes are the word's 64 bits, lowest first.
  def figures(bytes)
    digit = ->(byte, mask) { bytes[byte] & mask }
    [[6, 3], [4, 7], [2, 7], [0, 3]].map { |byte, tens| digit.call(byte, 15) + (digit.call(byte + 1, tens) * 10) }
  end

  [[48_000, 24], [48_000, 25], [48_000, 30], [44_100, 25], [44_100, 30], [96_000, 25]].each do |rate, fps|
    it "says the time at #{fps} frames and #{rate} Hz as libltc reads it, across a minute" do
      first = ((((1 * 60) + 23) * 60) + 58) * fps
      found = decoded(described_class.new(rate, fps).read(0, rate * 4, first).to_a, rate, fps)
      expected = (0...(4 * fps)).map { |n| (first + n).divmod(fps).then { |seconds, frame| [seconds / 3600, seconds / 60 % 60, seconds % 60, frame] } }
      expect(found.size).to be >= (4 * fps) - 3
      expect(expected.each_cons(found.size).to_a).to include(found)
    end
  end

  it "is the same whatever the blocks, before the beginning as well" do
    ltc = described_class.new(48_000, 25)
    whole = ltc.read(-1000, 9600, 90_000)
    pieces = (-1000...8600).step(480).map { |at| described_class.new(48_000, 25).read(at, 480, 90_000) }
    expect(pieces.reduce { |one, other| one.concatenate(other) }).to eq(whole)
  end
end
