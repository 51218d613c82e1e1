# frozen_string_literal: true

RSpec.describe "The core by itself" do
  it "loads whole in a process that has nothing else, and needs no web, database or socket" do
    script = <<~RUBY
      require "#{Loomshuttle::ROOT}/loader"
      Loomshuttle.load_parts(:core)
      Zeitwerk::Registry.loaders.each(&:eager_load)
      bad = %w[Sinatra Rack Puma Sequel PG Socket UDPSocket].select { |name| Object.const_defined?(name) }
      bad += %w[Recorder Player StandIns Store Web].select { |name| Loomshuttle.const_defined?(name) }
      puts bad.join(",")
    RUBY
    expect(IO.popen([RbConfig.ruby, "-e", script], err: %i[child out], &:read).strip).to eq("")
  end

  # What a process has loaded once all that it may load is loaded: another part, or a closed room of the core, is not even there to be named.
  Loomshuttle::ROOMS.each do |part, rooms|
    it "lets a process of #{part} load #{rooms.join(', ')} of the core, and no other part" do
      namespaces = Dir.children(File.join(Loomshuttle::ROOT, "core")).reject { |entry| entry.end_with?(".rb") }.to_h { |room| [room.split("_").map(&:capitalize).join, room] }
      script = <<~RUBY
        require "#{Loomshuttle::ROOT}/loader"
        Loomshuttle.load_parts(:core, :runtime, :#{part})
        Zeitwerk::Registry.loaders.each(&:eager_load)
        puts (#{namespaces.keys} + %w[Recorder Player StandIns Porter Store Web Supervisor CommandLine]).select { |name| Loomshuttle.const_defined?(name, false) }
      RUBY
      loaded = IO.popen([RbConfig.ruby, "-e", script], err: %i[child out], &:read).split
      expect(loaded.map { |name| namespaces.fetch(name, name) }).to match_array(rooms + [Loomshuttle::PARTS.fetch(part).to_s])
    end
  end

  # design: who may depend on whom. A name counts however it is written: a room that is named alone as well as one behind its part.
  # Within the core the arrows go one way, too: audio, rig < settings < formats < steps, signal < views < checks.
  { "core" => %w[Runtime Recorder Player StandIns Store Web Supervisor CommandLine Porter], "core/songs" => %w[Settings Steps Views Signal Checks Rig],
    "core/audio" => %w[Settings Formats Steps Views Signal Checks Rig],
    "core/rig" => %w[Settings Formats Steps Views Signal Checks], "core/settings" => %w[Formats Steps Views Signal Checks], "core/formats" => %w[Steps Views Signal Checks],
    "core/steps" => %w[Views Signal Checks], "core/signal" => %w[Steps Views Checks], "core/views" => %w[Steps Checks], "core/delivery" => %w[Steps Views Signal Checks],
    "runtime" => %w[Recorder Player StandIns Store Web Supervisor Porter],
    "recorder" => %w[Store Web StandIns Porter], "player" => %w[Store Web StandIns Porter Recorder],
    "store" => %w[Web Recorder StandIns Porter], "command_line" => %w[Store Web Recorder StandIns Porter Settings],
    "stand_ins" => %w[Store Web Recorder Porter], "web" => %w[StandIns Recorder Player Porter Supervisor], "porter" => %w[Recorder StandIns Store Web],
    "supervisor" => %w[Web Recorder Player StandIns Porter] }.each do |folder, strangers|
    it "keeps #{folder} from naming #{strangers.join(', ')}" do
      used = Dir[File.join(Loomshuttle::ROOT, folder, "**", "*.rb")].flat_map do |file|
        code = File.readlines(file).reject { |line| line.strip.start_with?("#") }.join.gsub(/"[^"]*"/, "").gsub(/^ *(module|class) \w+.*$/, "")
        strangers.select { |name| code.match?(/(?<![\w:@])(Loomshuttle::)?#{name}(?=[.:,)\s])/) }.map { |name| "#{file} names #{name}" }
      end
      expect(used).to eq([])
    end
  end
end
