# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::MixRange do
  def after(show, channels, **to) = described_class.edit(show, channels, **to).apply(show).first

  let(:show) do
    brass = (1..4).to_h { |n| ["channel/#{n}/name", "Brass #{n}"] }
    set(CoreHelp.blank("alder-40"), brass.merge("channel/5/name" => "Piano L", "channel/6/name" => "Piano R", "channel/5/paired" => true, "bus/1/name" => "Ear Ada",
                                                "output/1/source" => "desk/bus/2", "send/1/source" => "desk/ch/1", "send/3/source" => "desk/ch/2", "bus/3/paired" => true,
                                                "bus/9/mode" => "subgroup", "bus/9/name" => "Choir"))
  end

  it "makes a subgroup of a range on the first bus that is free, on main, with its members off main" do
    edit = described_class.edit(show, [1, 2, 3, 4], subgroup: 0)
    made = edit.apply(show).first
    expect(edit.label).to eq("Into subgroup 5 Brass: 4 channels")
    expect(made.buses[5]).to have_attributes(mode: "subgroup", name: "Brass", main: true)
    expect((1..4).map { |n| made.channels[n].then { |one| [one.groups, one.main] } }.uniq).to eq([[[5], false]])
    expect(findings(made).map(&:check)).not_to include("twice-on-main", "group-nowhere")
    back = after(made, [1, 2], subgroup: 5, within: false)
    expect([1, 2, 3].map { |n| back.channels[n].then { |one| [one.groups, one.main] } }).to eq([[[], true], [[], true], [[5], false]])
  end

  it "takes the other side of a pair along, and leaves main alone where the subgroup is not on it" do
    grouped = after(show, [5], subgroup: 9)
    expect([5, 6].map { |n| grouped.channels[n].then { |one| [one.groups, one.main] } }).to eq([[[9], true], [[9], true]])
    click = set(grouped, "channel/1/main" => false, "channel/1/groups" => [9])
    expect(after(click, [1], subgroup: 9, within: false).channels[1]).to have_attributes(groups: [], main: false)
    named = after(show, [1], subgroup: 0, name: " Horns ")
    expect(named.buses[5].name).to eq("Horns")
    expect(after(show, [1, 5], subgroup: 0).buses[5].name).to eq("Group 5")
  end

  it "sets main, polarity and the taps of the range's sends" do
    expect([1, 2, 3].map { |n| after(show, [1, 2], main: false).channels[n].main }).to eq([false, false, true])
    expect([1, 2, 3].map { |n| after(show, [1, 2], polarity: true).channels[n].polarity }).to eq([true, true, false])
    tapped = after(show, [1, 2], tap: "post-eq")
    expect([1, 2, 3].map { |lane| tapped.sends[lane].tap }).to eq(["post-eq", nil, "post-eq"])
    expect(after(tapped, [1, 2], tap: nil).sends[3].tap).to be_nil
  end

  it "refuses with what is wrong" do
    { [[99], { main: true }] => /no channel 99/, [[], { main: true }] => /Select channels first/, [[1], { subgroup: 1 }] => /Ear Ada is a mix, not a subgroup/,
      [[1], { subgroup: 77 }] => /no bus 77/, [[3], { tap: "pre-eq" }] => /No card send carries Brass 3/, [[1], {}] => /Name what to set/ }.each do |(channels, to), message|
      expect { after(show, channels, **to) }.to raise_error(Loomshuttle::Invalid, message)
    end
    full = set(show, (1..14).reject { |bus| bus == 9 }.to_h { |bus| ["bus/#{bus}/name", "Mix #{bus}"] })
    expect { after(full, [1], subgroup: 0) }.to raise_error(Loomshuttle::Invalid, /Every bus is in use/)
  end
end
