# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::LiveEars do
  # A recorder that answers when it is let.
  let(:recorder) do
    Class.new do
      attr_reader :asked, :busy, :most

      def initialize
        @asked, @busy, @most, @lock, @gate = [], 0, 0, Mutex.new, Queue.new
      end

      def open(count = 100) = count.times { @gate << true }

      def call(method, **params)
        @lock.synchronize do
          @asked << [method, params]
          @busy += 1
          @most = [@most, @busy].max
        end
        @gate.pop
        { "position" => 0, "frames" => 0, "rate" => 48_000, "sound" => "" }
      ensure
        @lock.synchronize { @busy -= 1 }
      end
    end.new
  end
  let(:show) { HearingHelp.show("send/4/source" => "desk/ch/1", "send/5/source" => "desk/ch/2") }
  let(:hears) { Struct.new(:now).new(Struct.new(:survey).new(HearingHelp.survey(show, "channel/1/send/1" => -20, "channel/2/send/1" => -90))) }
  let(:ears) { described_class.new(hears, recorder) }

  it "asks the recorder for what is heard, both ears, by the ways that carry something" do
    recorder.open
    expect(ears.read(2, 77)).to include("by" => "channels")
    wanted = [0, 1].map { |side| { "lane" => 4, "side" => side, "late" => 0, "amplitude" => 0.1 } }
    expect(recorder.asked).to match([["ears.mix", { ways: match_array(wanted), from: 77 }]])
  end

  it "has the recorder mix for two at once at most, and for the others when it is their turn" do
    readers = Array.new(5) { Thread.new { ears.read(2, nil) } }
    Tools.wait_until(10, "two at work") { recorder.busy == 2 }
    recorder.open
    expect(readers.map(&:value).size).to eq(5)
    expect(recorder.most).to be <= 2
  end
end
