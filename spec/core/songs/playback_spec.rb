# frozen_string_literal: true

# A small desk with a twin interface of twelve outputs, its first four cabled to sockets 13 to 16, which channels 13 to 16 hear; the
# main mix comes out at outputs 1 and 2.
RSpec.describe "Playback in a show" do
  let(:show) { played(straight(16)) }

  def played(from, **more)
    roles = [["Strings", "parts", [1, 2]], ["Click", "click", [3]], ["Pilot", "pilot", [4]]]
    settings = { "rig/interface" => "fern-12-twin", "role/order" => [1, 2, 3], "listener/order" => [1, 2], "listener/1/name" => "PA", "listener/1/kind" => "area",
                 "listener/1/hears" => ["desk/output/1"], "listener/2/name" => "Ada drums", "listener/2/hears" => ["desk/output/2"] }
    (1..4).each { |n| settings["cable/#{n}/to"] = "desk/in/#{12 + n}" }
    roles.each.with_index(1) { |(name, kind, outputs), n| settings.merge!("role/#{n}/name" => name, "role/#{n}/kind" => kind, "role/#{n}/outputs" => outputs) }
    set(from, settings.merge(more.transform_keys(&:to_s)))
  end

  def findings(show, check) = Loomshuttle::Checks.run(Loomshuttle::Checks::Context.of(show)).select { |one| one.check == check }

  def mended(show, finding) = finding.fix.apply(show).first

  it "shows what is played at the head of its strand, with what plays there" do
    context = Loomshuttle::Checks::Context.of(show)
    strand = context.strands.find { |one| one.channel&.number == 15 }
    hops = Loomshuttle::Signal::Story.new(show, context.graph, context.levels).of_strand(strand)
    told = named(hops.first(3).map { |hop| [hop.point, hop.text] })
    expect(told).to eq([["interface/out/3", "plays Click"], ["desk/in/15", "socket on the desk"], ["desk/ch/15@preamp", "Source 15"]])
  end

  it "knows the sources that carry a role, and a click by what plays there" do
    survey = Loomshuttle::Hearing::Survey.of(show, {})
    expect(Loomshuttle::Hearing::RoleWays.of(survey)).to eq(1 => %w[channel/13 channel/14], 2 => ["channel/15"], 3 => ["channel/16"])
    expect(survey.sources.to_h { |one| [one.id, one.cue] }.compact).to eq("channel/15" => "click", "channel/16" => "pilot")
  end

  it "finds nothing wrong where everything leads somewhere" do
    expect(%w[role-without-output playback-output cue-shares-output].flat_map { |check| findings(show, check) }).to eq([])
  end

  it "finds a role without an output, and sends it where other parts go" do
    lost = set(show, "role/order" => [4, 1, 2, 3], "role/4/name" => "Choir")
    finding = findings(lost, "role-without-output").first
    expect(finding.sentence).to eq("Choir has no playback output: nobody hears it.")
    expect(mended(lost, finding).roles[4].outputs).to eq([1, 2])
  end

  it "finds outputs that an interface does not have at this rate, with those at which it has, and one that can" do
    small = set(show, "rig/interface" => "fern-8", "role/2/outputs" => [8])
    finding = findings(small, "playback-output").first
    expect(finding.sentence).to eq("The Fern 8 has 4 outputs at 48 kHz, so there is no signal at 8. It has 8 at 44.1 kHz with 16 bits.")
    expect(mended(small, finding).rig.interface).to eq("fern-12-twin")
  end

  it "finds outputs without cable, without interface, and two on one socket" do
    words = ->(changes) { findings(set(show, changes), "playback-output").map(&:sentence) }
    expect(words.call("cable/3/to" => nil)).to eq(["Playback output 3 (Click) is not cabled to a socket."])
    expect(words.call("rig/interface" => nil)).to eq(["Songs are played to a playback interface, and the rig has none."])
    expect(words.call("cable/3/to" => "desk/in/13")).to eq(["Playback outputs 1 and 3 are cabled to one socket, In 13."])
  end

  describe "by card returns" do
    let(:by_card) do
      set(show, "playback/returns" => [9], "channel/13/stage" => "card/return/9", "channel/14/stage" => "card/return/10", "channel/15/stage" => "card/return/11",
                **(9..16).to_h { |n| ["track/#{n}/outputs", []] })
    end

    it "leaves by the stream that it has to itself, from its first output on, whatever is cabled" do
      expect((1..9).map { |output| by_card.playback_goes_to(output)&.name }).to eq([*(9..16).map { |lane| "card/return/#{lane}" }, nil])
      context = Loomshuttle::Checks::Context.of(by_card)
      strand = context.strands.find { |one| one.channel&.number == 15 }
      hops = Loomshuttle::Signal::Story.new(by_card, context.graph, context.levels).of_strand(strand)
      expect(hops.first(2).map { |hop| hop.point.name }).to eq(["interface/out/3", "card/return/11"])
      expect(Loomshuttle::Hearing::RoleWays.of(Loomshuttle::Hearing::Survey.of(by_card, {}))[2]).to eq(["channel/15"])
      expect(%w[playback-output playback-returns].flat_map { |check| findings(by_card, check) }).to eq([])
    end

    it "takes whole streams of the card only" do
      [[2], [25], [9, 9], [1, 9, 17], ["9"], 9].each do |value|
        expect { set(show, "playback/returns" => value) }.to raise_error(Loomshuttle::Invalid, /card returns go to playback by whole streams, from lane 1, 9/)
      end
    end

    it "finds a return that nothing hears on stage, but for the pilot's" do
      deaf = set(by_card, "channel/15/stage" => "desk/in/15")
      expect(findings(deaf, "playback-output").map(&:sentence))
        .to eq(["Playback output 3 (Click) uses card return 11, which no channel has as stage source. Assign one in Patch."])
    end

    it "finds what has no return left, and what the recorder would play there" do
      expect(findings(set(by_card, "role/2/outputs" => [9]), "playback-output").map(&:sentence)).to match([start_with("Playback has 8 card returns, so there is no signal at 9.")])
      shared = set(by_card, "track/9/outputs" => [10], "setup/own_mix" => [15, 16])
      found = findings(shared, "playback-returns")
      expect(found.map(&:sentence)).to eq(["Source 9 plays to card return 10, which is reserved for playback.",
                                           "The recorder mix leaves on card return 15 and 16, which is reserved for playback."])
      expect(findings(found.reduce(shared) { |now, finding| mended(now, finding) }, "playback-returns")).to eq([])
    end
  end

  it "finds a click that shares its output with parts, and not one that shares it with the guide" do
    shared = set(show, "role/2/outputs" => [1])
    finding = findings(shared, "cue-shares-output").first
    expect(finding.sentence).to eq("Click and Strings share output 1: whoever hears one hears both.")
    expect(findings(mended(shared, finding), "cue-shares-output")).to eq([])
    band = set(show, "role/order" => [1, 2, 3, 4], "role/4/name" => "Guide", "role/4/kind" => "guide", "role/4/outputs" => [3])
    expect(findings(band, "cue-shares-output")).to eq([])
  end

  it "wishes by one step what is usual" do
    wished = Loomshuttle::Steps::Propose.for(show, "playback_wishes", {}).edit.apply(show).first
    expect(wished.wishes.values.map { |wish| [wish.kind, wish.sources, wish.listeners] })
      .to eq([["never", ["channel/15"], [1]], ["reach", ["channel/15"], [2]], ["never", ["channel/16"], [1, 2]]])
    expect { Loomshuttle::Steps::Propose.for(wished, "playback_wishes", {}) }.to raise_error(Loomshuttle::Invalid, /already have requirements/)
  end

  it "splits two outputs into parts, and click and guide" do
    split = Loomshuttle::Steps::Propose.for(show, "split_playback", {}).edit.apply(show).first
    expect(split.roles.values.map(&:outputs)).to eq([[1], [2], [4]])
  end

  it "cables outputs one behind the other, and refuses sockets that are none" do
    cabled = Loomshuttle::Steps::Propose.for(show, "cable", { "first" => 5, "count" => 3, "socket" => "desk/in/1" }).edit.apply(show).first
    expect((5..7).map { |n| cabled.cables[n].to.name }).to eq(%w[desk/in/1 desk/in/2 desk/in/3])
    expect { Loomshuttle::Steps::Propose.for(show, "cable", { "first" => 1, "count" => 3, "socket" => "desk/in/15" }) }.to raise_error(Loomshuttle::Invalid, /no socket In 17/)
    expect { set(show, "cable/1/to" => "desk/out/1") }.to raise_error(Loomshuttle::Invalid, /is not an input socket/)
  end

  it "puts a song into the running order with the roles that the show lacks, and turns it back" do
    roles = [{ "name" => "Strings", "kind" => "parts", "outputs" => [1] }, { "name" => "Choir", "kind" => "parts", "outputs" => [] }]
    edit = Loomshuttle::Steps::AddSong.edit(show, song: "00000000-0000-4000-8000-000000000001", title: "Tide", roles: roles)
    with, changes = edit.apply(show)
    expect(with.setlist.values.map(&:title)).to eq(["Tide"])
    expect(with.roles.values.map { |role| [role.name, role.outputs] }).to eq([["Strings", [1, 2]], ["Click", [3]], ["Pilot", [4]], ["Choir", []]])
    expect(Loomshuttle::Settings::Edit.set("back", changes.to_h { |one| [one.path, one.from] }).apply(with).first).to eq(show)
  end
end
