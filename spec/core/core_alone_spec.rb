# frozen_string_literal: true

RSpec.describe "The core by itself" do
  it "loads whole in a process that has nothing else, and needs no web, database or socket" do
    script = <<~RUBY
      require "#{Loomshuttle::ROOT}/loader"
      Loomshuttle.load_parts(:core)
      Zeitwerk::Registry.loaders.each(&:eager_load)
      bad = %w[Sinatra Rack Puma Sequel PG Socket UDPSocket].select { |name| Object.const_defined?(name) }
      bad += %w[Recorder StandIns Store Web].select { |name| Loomshuttle.const_defined?(name) }
      puts bad.join(",")
    RUBY
    expect(IO.popen([RbConfig.ruby, "-e", script], err: %i[child out], &:read).strip).to eq("")
  end

  # design: who may depend on whom
  { "core" => %w[Recorder StandIns Store Web Supervisor CommandLine], "recorder" => %w[Store Web StandIns], "store" => %w[Web Recorder StandIns],
    "stand_ins" => %w[Steps Views Signal Checks Rig Store Web Recorder],
    "web" => %w[StandIns Recorder Porter], "porter" => %w[Recorder StandIns Store Web] }.each do |part, strangers|
    it "keeps #{part} from naming #{strangers.join(', ')}" do
      used = Dir[File.join(Loomshuttle::ROOT, part, "**", "*.rb")].flat_map do |file|
        code = File.readlines(file).reject { |line| line.strip.start_with?("#") }.join
        strangers.select { |name| code.match?(%r{(?<![\w:"'/])#{name}::}) }.map { |name| "#{file} names #{name}" }
      end
      expect(used).to eq([])
    end
  end
end
