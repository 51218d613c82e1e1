# frozen_string_literal: true

RSpec.describe Loomshuttle::Rig::Point do
  def read(name) = described_class.read(name)

  it "reads every kind of name there is" do
    parts = %i[device letter kind number side tap]
    { "box-b/in/3" => ["box", "b", "in", 3, nil, nil], "desk/line/2" => ["desk", nil, "line", 2, nil, nil], "link/a/up/19" => ["link", "a", "up", 19, nil, nil],
      "desk/ch/17/l@pre-eq" => ["desk", nil, "ch", 17, "l", "pre-eq"], "desk/main/c" => ["desk", nil, "main", nil, "c", nil],
      "desk/bus/4@post-fader" => ["desk", nil, "bus", 4, nil, "post-fader"], "card/send/7" => ["card", nil, "send", 7, nil, nil],
      "track/12/out/r" => ["track", nil, "out", 12, "r", nil], "recorder/mix/l" => ["recorder", nil, "mix", nil, "l", nil] }.each do |name, expected|
      expect(parts.map { |part| read(name).public_send(part) }).to eq(expected), name
      expect([read(name).name, JSON.generate([read(name)])]).to eq([name, JSON.generate([name])])
    end
  end

  it "makes each by its parts as its name reads" do
    made = [described_class.box("a", "out", 2), described_class.desk("ch", 7), described_class.desk("ch", 17, "r"), described_class.main("l"), described_class.link("b", "down", 4),
            described_class.card_send(1), described_class.card_return(2), described_class.track(3, "in"), described_class.track(3, "out", "l"), described_class.own_mix("r")]
    expect(named(made)).to eq(%w[box-a/out/2 desk/ch/7 desk/ch/17/r desk/main/l link/b/down/4 card/send/1 card/return/2 track/3/in track/3/out/l recorder/mix/r])
  end

  it "matches no other text, and no text at all" do
    ["", "desk", "desk/ch", "desk/ch/", "desk/ch/x", "desk/ch/1@loud", "desk/ch/1/m", "box-i/in/1", "box-/in/1", "card/in/1", "card/send/-1", "card/send/1@preamp", "link/ab/up/1",
     "track/1", "recorder/mix", "desk/in/1\n", "desk/in/#{'9' * 10}", " desk/in/1", 7, nil, ["desk/in/1"]].each { |text| expect(read(text)).to be_nil, text.inspect }
    expect { described_class.of("nowhere\n") }.to raise_error(Loomshuttle::Invalid, "There is no point nowhere  in this rig.")
  end

  it "is equal by its name, however many others were read in between" do
    before = read("desk/in/3")
    (1..21_000).each { |number| read("card/return/#{number}") }
    expect(read("desk/in/3")).to eq(before)
    expect({ before => 1 }[read("desk/in/3")]).to eq(1)
    expect(before).not_to eq("desk/in/3")
    expect([read("desk/in/3"), before].uniq.size).to eq(1)
  end

  it "knows its neighbours, its taps, and those that differ by number alone" do
    side = read("desk/ch/17/l@pre-eq")
    expect(named([side.base, side.at("preamp"), side.beside(2), side.beside(-16), side.beside(-17), side.beside(0)])).to eq(
      ["desk/ch/17/l", "desk/ch/17/l@preamp", "desk/ch/19/l@pre-eq", "desk/ch/1/l@pre-eq", nil, "desk/ch/17/l@pre-eq"]
    )
    expect(read("track/9/in/r").beside(1).name).to eq("track/10/in/r")
    expect([read("link/a/up/9").kin?(read("link/a/up/1")), read("link/a/up/9").kin?(read("link/b/up/9")), side.kin?(side.base)]).to eq([true, false, false])
  end
end
