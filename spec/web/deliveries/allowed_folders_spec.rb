# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::AllowedFolders, :folder do
  let(:media) { File.join(@folder, "media") }
  let(:mounts) { File.join(@folder, "mounts") }
  let(:folders) { described_class.new([media], mounts: mounts) }

  before { FileUtils.mkdir_p(File.join(media, "usb stick", "inside")) }

  # As proc(5) has it: blanks are written as octal numbers.
  it "offers the disks that are mounted below them, with what is free" do
    lines = ["/dev/sda1 / ext4 rw 0 0", "proc /proc proc rw 0 0", "/dev/sdb1 #{media}/usb\\040stick exfat rw 0 0", "/dev/sdc1 #{media}/gone vfat rw 0 0", "x"]
    File.write(mounts, lines.join("\n"))
    expect(folders.disks).to match([{ folder: File.join(media, "usb stick"), name: "usb stick", free_bytes: be_positive }])
    expect(described_class.new([media], mounts: "/nowhere").disks).to eq([])
  end

  it "takes what is below them and can be written to, links followed" do
    expect(folders.writable(File.join(media, "usb stick", "inside"))).to eq(File.realpath(File.join(media, "usb stick", "inside")))
    File.symlink("/etc", File.join(media, "etc"))
    others = ["/etc", File.join(media, "etc"), File.join(media, "..")].to_h { |path| [path, /not below/] }
    File.symlink("/nowhere/at/all", File.join(media, "gone"))
    others.merge(["/nowhere", "/root/nothing", "usb", "a\0b", File.join(media, "etc", "nothing"), File.join(media, "gone")].to_h do |path|
      [path, /not below/]
    end, File.join(media, "nowhere") => /no folder/)
      .each { |path, words| expect { folders.writable(path) }.to raise_error(Loomshuttle::Invalid, words) }
  end

  it "says so where nothing can be written" do
    allow(File).to receive(:writable?).and_return(false)
    expect { folders.writable(media) }.to raise_error(Loomshuttle::Invalid, /whether the disk is protected/)
  end
end
