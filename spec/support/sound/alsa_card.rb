# frozen_string_literal: true

# A sound card of ALSA's own plugins: "twelve" gives the samples of one file and keeps what is played in another.
RSpec.shared_context "with an ALSA card" do
  around do |example|
    config = File.join(@folder, "asound.conf")
    File.write(config, <<~CONF)
      </usr/share/alsa/alsa.conf>
      pcm.twelve { type file slave { pcm null } file "#{outfile}" infile "#{infile}" format raw }
    CONF
    File.binwrite(infile, "\0" * 4800)
    before, ENV["ALSA_CONFIG_PATH"] = ENV.fetch("ALSA_CONFIG_PATH", nil), config
    example.run
  ensure
    ENV["ALSA_CONFIG_PATH"] = before
  end

  def infile = File.join(@folder, "in.raw")
  def outfile = File.join(@folder, "out.raw")
end
