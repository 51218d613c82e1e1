# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::CaptureGuard do
  include CoreHelp

  let(:take) { { "number" => 2, "name" => "Set" } }
  let(:guard) { described_class.new(-> { @captured }, now: -> { @now }) }
  let(:show) { straight(8, from: chained) }

  before { @now = 100.0 }

  def changes(settings) = Loomshuttle::Settings::Edit.set("", settings).apply(show).last
  def try(settings) = guard.edit(show, changes(settings))

  it "lets everything through while nothing is captured" do
    expect { try("send/3/source" => nil) && guard.whole("opening another show") }.not_to raise_error
    expect(guard).not_to be_closed
  end

  context "with a take under way" do
    before { @captured = take }

    it "stops what would harm it, says what, and how to go on" do
      expect { try("send/3/source" => nil) }.to raise_error(Loomshuttle::Invalid, /Blocked during take 2: changing "Card send 3, source" would damage it. Unlock edits/)
      expect { guard.whole("opening another show") }.to raise_error(Loomshuttle::Invalid, /opening another show/)
    end

    it "lets through what does not" do
      expect { try("channel/3/name" => "Guest", "channel/3/gain" => 12, "track/3/armed" => false, "send/30/source" => "desk/ch/30") }.not_to raise_error
    end

    it "is open for a while when it was opened, and closed when somebody closes it" do
      guard.open
      expect([guard.closed?, try("send/3/source" => nil)]).to eq([false, nil])
      guard.close
      expect(guard).to be_closed
      guard.open
      @now += described_class::OPEN - 0.1
      expect(guard).not_to be_closed
      @now += 0.1
      expect { try("send/3/source" => nil) }.to raise_error(Loomshuttle::Invalid, /would damage it/)
    end
  end
end
