# frozen_string_literal: true

require "open3"

# bin/demo itself, without any option, from places that once stopped it: closed folders, names with spaces and umlauts, longer than a
# socket's path may be, a terminal that knows only ASCII, ports that are taken, and two clones side by side.
RSpec.describe "bin/demo, wherever it is cloned", :folder, :own_application do
  # What is installed and built is shared: that is not part of a clone.
  let(:shared) { %w[vendor ui/node_modules ui/dist] }

  def clone(name)
    folder = File.join(@folder, "closed", "Bühne #{name} [2026] {neu} mit einem Namen, der in keinen Socket passt", "klon")
    Dir.chdir(Loomshuttle::ROOT) do
      `git ls-files -z --cached --others --exclude-standard`.split("\0").select { |file| File.exist?(file) }.group_by { |file| File.dirname(file) }.each do |below, files|
        FileUtils.mkdir_p(File.join(folder, below))
        FileUtils.cp(files, File.join(folder, below))
      end
    end
    shared.each { |one| File.symlink(File.join(Loomshuttle::ROOT, one), File.join(folder, one)) }
    folder
  end

  def start(folder)
    environment = Bundler.unbundled_env.merge("LC_ALL" => "C", "LANG" => "C", "LOOMSHUTTLE_DEMO_SONGS" => "0")
    log = File.join(folder, "said.log")
    pid = Process.spawn(environment, [File.join(folder, "bin/demo"), "demo"], chdir: "/", out: log, err: %i[child out], pgroup: true, unsetenv_others: true)
    (@running ||= {})[pid] = folder
    Tools.wait_until(120, -> { File.read(log) }) { File.read(log).include?("Loomshuttle is at") || Process.wait(pid, Process::WNOHANG)&.then { raise File.read(log) } }
    [pid, File.read(log)[%r{http://127.0.0.1:(\d+)/}, 1].to_i]
  end

  def stop(pid)
    Process.kill(:TERM, pid)
    Process.wait(pid)
    @running.delete(pid)
  end

  def command(folder, *words)
    Open3.capture2e(Bundler.unbundled_env.merge("LC_ALL" => "C"), File.join(folder, "bin/loomshuttle"), *words, chdir: "/", unsetenv_others: true)
  end

  def show_name(port) = JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{port}/api/show"))).dig("channels", 0, "name")

  def rename(port, name)
    Net::HTTP.post(URI("http://127.0.0.1:#{port}/api/edits"), JSON.generate("settings" => { "channel/1/name" => name }), "content-type" => "application/json")
  end

  before do
    FileUtils.mkdir_p(File.join(@folder, "closed"), mode: 0o700)
    @taken = begin
      TCPServer.new("127.0.0.1", 4040)
    rescue Errno::EADDRINUSE
      nil # by somebody else
    end
  end

  after do
    @taken&.close
    @running.to_h.dup.each_key { |pid| stop(pid) }
    Dir.glob(File.join(@folder, "closed/*/klon/var", Loomshuttle::Supervisor::ClusterFolder::NOTE)).each { |note| FileUtils.rm_rf(File.read(note).strip) }
  end

  it "starts two clones side by side, and finds each one's shows and ports again" do
    left, right = clone("links"), clone("rechts")
    first, port = start(left)
    _, other = start(right)
    expect([4040, port, other].uniq.size).to eq(3)
    rename(port, "Große Tuba")
    expect([show_name(port), show_name(other)]).to match(["Große Tuba", a_string_matching(/\A(?!Große)/)])
    expect(command(left, "status").last).to be_success
    stop(first)
    expect(command(left, "status")).to match([/Nothing answers on port #{port}/, satisfy { |status| !status.success? }])
    _, again = start(left)
    expect([again, show_name(again)]).to eq([port, "Große Tuba"])
  end
end
