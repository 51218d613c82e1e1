# frozen_string_literal: true

require_relative "../../demo/demo_show"

RSpec.describe DemoShow do
  def file(name) = JSON.parse(File.read(File.join(DemoShow::FOLDER, name)))
  def plain(data) = JSON.parse(JSON.generate(data))

  let(:clean) { described_class.clean }
  let(:faulty) { described_class.faulty }

  it "is what its files say" do
    shipped = DemoShow::CATALOG.all.map(&:id)
    expect(file("clean.json")).to eq(plain(Loomshuttle::Formats::ShowFile.write(clean, shipped: shipped)))
    expect(file("show.json")).to eq(plain(Loomshuttle::Formats::ShowFile.write(faulty, shipped: shipped)))
    expect(file("desk.json")).to eq(plain(described_class.desk(faulty)))
  end

  it "has a clean show of 30 inputs, two backing tracks and five channels of songs, on two chained boxes" do
    expect(findings(clean)).to eq([])
    expect(clean.channels.values.count { |channel| !channel.name.empty? }).to eq(37)
    expect(clean.layout.chain("a").map { |hung| [hung.up.first, hung.down.first] }).to eq([[1, 1], [17, 9]])
  end

  it "has one fault of each common kind, and each is found" do
    found = findings(faulty).group_by(&:check).transform_values(&:size)
    expect(found.keys).to match_array(%w[clock-leader missing-socket shared-lane preamp-on-card-fed channel-without-socket foreign-return own-mix-on-tracks
                                         main-sockets not-at-preamp stereo-lanes track-names slow-monitoring bus-without-socket twice-on-main monitor-post-fader
                                         delay-geometry hears-nothing role-without-output not-captured])
  end

  it "is mended by the fixes of its findings, and no fix brings another finding" do
    show = faulty
    until (now = findings(show)).empty?
      later = set(show, now.first.fix.settings)
      expect(findings(later).map(&:id) - now.map(&:id)).to eq([]), now.first.id
      expect(findings(later).map(&:id)).not_to include(now.first.id)
      show = later
    end
    expect(show.channels[30].stage).to eq(point("link/a/up/30"))
  end
end
