# frozen_string_literal: true

require "open3"

# What both start commands install with, on a machine that has nothing: the programs that fetch are stood in for, and tell what they were asked.
RSpec.describe "bin/lib/install.sh", :folder do
  let(:told) { File.join(@folder, "told").then { |path| File.exist?(path) ? File.readlines(path, chomp: true) : [] } }

  before do
    FileUtils.mkdir_p(%w[bin ui programs].map { |name| File.join(@folder, name) })
    FileUtils.cp_r(File.join(Loomshuttle::ROOT, "bin/lib"), File.join(@folder, "bin"))
    FileUtils.cp_r(File.join(Loomshuttle::ROOT, "ext"), @folder)
    File.write(File.join(@folder, "ui/package-lock.json"), "{}")
    program("dpkg-query", 'shift 2; for package; do echo "$package install ok installed"; done')
    program("node", "echo v22.1.0")
    program("npm", 'echo "npm $*" >>../told; mkdir -p node_modules')
    bundle("echo 'Installing base64 0.3.0'; echo 'Using rack 3.2.8'; echo 'Installing puma 8.0.2 with native extensions'")
  end

  def program(name, body)
    File.write(File.join(@folder, "programs", name), "#!/bin/sh\n#{body}\n", perm: 0o755)
  end

  def bundle(body)
    program("bundle", "case $1 in check) exit 1 ;; esac\necho \"bundle $* without=$BUNDLE_WITHOUT\" >>told\n#{body}")
  end

  # As the start command does, which ends at any error.
  def install(kind)
    environment = { "PATH" => "#{@folder}/programs:#{ENV.fetch('PATH')}", "BUNDLE_WITHOUT" => nil }
    Open3.capture2e(environment, "bash", "-euo", "pipefail", "-c", ". bin/lib/install.sh; install_all #{kind}; echo all there", chdir: @folder)
  end

  it "goes through to the end with nothing there, with what running needs and no more, and tells how far it is" do
    words, status = install("run")
    expect(words.lines(chomp: true)).to include("   gem 1: base64 0.3.0", "   gem 2: puma 8.0.2 with native extensions", "all there")
    expect(status).to be_success
    expect(Dir[File.join(@folder, "vendor/ext/*/packets.so")].size).to eq(1)
    expect(told).to contain_exactly(/\Abundle install .*without=test\z/, /\Anpm ci .*--omit=dev\z/)
  end

  it "builds the packet reader once, again when it has changed, and goes on without it where it cannot be built" do
    install("run")
    expect(install("run").first).not_to include("packet reader")
    File.write(File.join(@folder, "ext/packets/packets.c"), "no C")
    words, status = install("run")
    expect([words, status.success?]).to match([/Building the packet reader.*packets are read in Ruby, which takes more of the processor; see .*build.log\..*all there/m, true])
    expect(Dir[File.join(@folder, "vendor/ext/*/packets.so")]).to eq([])
  end

  it "fetches once what is there for tests, which serves to run, too" do
    expect(install("test").last).to be_success
    expect(install("run").last).to be_success
    expect(told.grep(/npm/)).to match([/\Anpm ci (?!.*--omit)/])
    expect(told.grep(/bundle/).first).to end_with("without=")
  end

  it "asks Bundler again only when a list, Ruby or what is there has changed" do
    gems = File.join(@folder, "vendor/bundle/ruby/3.1.0/specifications").tap { |path| FileUtils.mkdir_p(path) }
    program("bundle", "echo \"bundle $*\" >>told")
    asked = lambda do |kind = "run"|
      FileUtils.rm_f(File.join(@folder, "told"))
      install(kind)
      File.exist?(File.join(@folder, "told")) && File.read(File.join(@folder, "told")).include?("bundle check")
    end
    expect([asked.call, asked.call, asked.call("test"), asked.call("run"), asked.call("test")]).to eq([true, false, true, false, false])
    File.write(File.join(gems, "rack.gemspec"), "")
    expect([asked.call, asked.call]).to eq([true, false])
    File.write(File.join(@folder, "Gemfile.lock"), "another")
    expect([asked.call, asked.call]).to eq([true, false])
  end

  describe "with packages that Debian does not have installed" do
    def without(*packages, fails: nil)
      program("dpkg-query", "shift 2; for package; do case $package in #{packages.join('|')}) ;; *) echo \"$package install ok installed\" ;; esac; done; " \
                            "echo \"#{packages.first} deinstall ok config-files\"")
      program("apt-get", "echo \"apt-get $*\" >>told; case \"$*\" in *#{fails || 'never'}*) echo 'No space left'; exit 100 ;; esac")
      program("sudo", 'exec "$@"')
    end

    it "installs those and nothing else" do
      without("ffmpeg")
      install("run")
      expect(told.grep(/install -y/)).to match([/ ffmpeg\s*\z/])
    end

    it "has what gems are built with before it builds any, and asks for Debian's lists once" do
      without("ruby-dev", "ffmpeg", "chromium")
      expect(install("test").last).to be_success
      expect(told.grep(/update/).size).to eq(1)
      expect(told.grep(/install -y/)).to contain_exactly(/ruby-dev\z/, /ffmpeg chromium\z/)
      expect(told.index { |line| line.end_with?("ruby-dev") }).to be < told.index { |line| line.start_with?("bundle install") }
    end

    it "ends with what went wrong, also beside the gems" do
      without("ffmpeg", fails: "ffmpeg")
      words, status = install("run")
      expect(words).to include("Debian packages could not be installed; see above. Missing: ffmpeg")
      expect([words.include?("all there"), status.exitstatus]).to eq([false, 1])
    end
  end

  it "says what went wrong" do
    bundle("echo 'Could not reach the host'; exit 7")
    words, status = install("run")
    expect(words).to include("Could not reach the host", "Ruby gems could not be installed; see above")
    expect(status.exitstatus).to eq(1)
    bundle("echo 'Using rack 3.2.8'")
    program("npm", "echo 'No space left'; exit 3")
    FileUtils.rm_rf(File.join(@folder, "ui/node_modules"))
    words, status = install("run")
    expect(words).to include("No space left", "npm packages could not be installed; see above")
    expect([words.include?("all there"), status.exitstatus]).to eq([false, 1])
  end

  it "builds gems elsewhere when the folder's own name has what make splits at, and leads there" do
    odd = File.join(@folder, "Bühne links").tap { |path| FileUtils.mkdir_p(path) }
    FileUtils.mv(%w[bin ui ext].map { |name| File.join(@folder, name) }, odd)
    program("bundle", "case $1 in check) exit 1 ;; esac\necho \"path=$BUNDLE_PATH\" >>../told")
    environment = { "PATH" => "#{@folder}/programs:#{ENV.fetch('PATH')}", "XDG_DATA_HOME" => File.join(@folder, "data"), "BUNDLE_PATH" => nil }
    words, status = Open3.capture2e(environment, "bash", "-euo", "pipefail", "-c", "id() { echo 1234; }; . bin/lib/install.sh; install_all run", chdir: odd)
    expect([words, status.success?]).to match([a_string_including("Ruby gems (into #{@folder}/data/loomshuttle/gems)"), true])
    expect(told.grep(/path=/)).to eq(["path=#{@folder}/data/loomshuttle/gems"])
    expect(File.realpath(File.join(odd, "vendor/bundle"))).to eq(File.join(@folder, "data/loomshuttle/gems"))
  end

  describe "the command line, where only what running needs is installed" do
    # All gems that there are but the test ones, as another bundle.
    def bundle_to_run
      path = File.join(@folder, "ruby", Gem.ruby_api_version)
      FileUtils.mkdir_p(File.join(path, "specifications"))
      %w[gems extensions].each { |name| FileUtils.ln_s(File.join(Bundler.bundle_path, name), path) }
      specs = Dir.glob(File.join(Bundler.bundle_path, "specifications/*.gemspec")).reject { |file| File.basename(file).start_with?("rspec", "capybara", "selenium") }
      FileUtils.ln_s(specs, File.join(path, "specifications"))
    end

    it "answers" do
      bundle_to_run
      File.write(File.join(@folder, "config"), "---\nBUNDLE_PATH: #{@folder}\n")
      environment = Bundler.unbundled_env.merge("BUNDLE_APP_CONFIG" => @folder)
      { "loomshuttle" => "help", "desk" => "help" }.each do |name, argument|
        words, = Open3.capture2e(environment, File.join(Loomshuttle::ROOT, "bin", name), argument, chdir: @folder, unsetenv_others: true)
        expect(words).to match(/\ACommands:|\AA hand at the stand-in desk/)
      end
    end
  end
end
