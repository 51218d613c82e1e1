# frozen_string_literal: true

# Four tracks on the virtual clock, and a look at what was captured of them. Wants :folder.
RSpec.shared_context "with a virtual capture" do
  let(:rig) { VirtualRig.new(home: @folder).patch_straight(4) }
  let(:recorder) { rig.recorder }

  def takes = Loomshuttle::Recorder::Manifest.all(recorder.takes)
  def manifest = takes.last.last
  def path(track, root = takes.last.first) = File.join(root, manifest["tracks"][track - 1]["file"])
  def samples(track) = Loomshuttle::Formats::Wav::Reader.new(path(track)).read[true, 0]
  def sent = @sent ||= [].tap { |list| rig.disturb = ->(stream, bytes) { [bytes.tap { list << Loomshuttle::Formats::Rtp.unpack(bytes).payload if stream.zero? }] } }
  def lane(number) = Loomshuttle::Audio::Pcm24.from_network(sent.join, 8)[true, number - 1]
end
