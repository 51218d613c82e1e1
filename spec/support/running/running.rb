# frozen_string_literal: true

require "json"
require "socket"
require "tmpdir"

# Real processes for tests, each with its own folder and ports.
class RunningDesk
  attr_reader :osc_port, :home, :sends, :returns

  def self.with
    Dir.mktmpdir do |home|
      desk = new(home)
      desk.start
      yield desk
    ensure
      desk&.stop
    end
  end

  def initialize(home)
    @home = home
    @osc_port = Tools.free_udp_ports
    @sends = Tools.free_udp_ports(7) # the largest desk has seven streams each way
    @returns = Tools.free_udp_ports(7)
    @socket = UDPSocket.new
    @socket.connect("127.0.0.1", @osc_port)
  end

  def start
    @pid = RunningProcess.spawn("desk", @osc_port, @sends, @returns, @home)
    Tools.wait_until(60, "the desk") { ask("/get", "name") || RunningProcess.still("desk", @pid) }
  end

  def stop = RunningProcess.stop(@pid)

  # Waits until the desk has ended on its own, as it does to start again.
  def ended = Tools.wait_until(60, "the desk to end") { Process.wait(@pid, Process::WNOHANG) }

  # @return [Object, nil] the reply's last argument; nil when none came
  def ask(verb, *arguments)
    number = @number = @number.to_i + 1
    @socket.send(Loomshuttle::Formats::Osc.pack(verb, number, *arguments), 0)
    while @socket.wait_readable(0.3)
      message = Loomshuttle::Formats::Osc.unpack(@socket.recv(65_536)).first
      return message.arguments.last if message.arguments.first == number
    end
  rescue Errno::ECONNREFUSED
    sleep(0.05)
    nil
  end
end

# A recorder process that listens to session descriptions in its folder.
class RunningRecorder
  attr_reader :home, :pid

  def initialize(home) = @home = home

  # @param disks [Hash{String=>Integer}] folders that only it sees as disks of their own, and their MiB
  def start(disks = {})
    @pid = RunningProcess.spawn("recorder", @home, disks: disks)
    Tools.wait_until(60, "the recorder") { call("status") || RunningProcess.still("recorder", @pid) }
  end

  # Describes a card of eight lanes.
  # @param port [Integer] where it listens; it plays to the next one
  # @return [RunningRecorder]
  def on_card(port)
    { "sends" => port, "returns" => port + 1 }.each do |which, at|
      stream = Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: at, lanes: 8, first: 1, rate: 48_000, payload_type: 97)
      File.write(File.join(@home, "card-#{which}.sdp"), Loomshuttle::Formats::Sdp.write("test", [stream], session: 1))
    end
    self
  end

  # @return [String] the path to what it sees there, also on disks that only it sees
  def seen(path) = "/proc/#{@pid}/root#{path}"

  def kill
    Process.kill(:KILL, @pid)
    Process.wait(@pid)
  end

  def stop = RunningProcess.stop(@pid)

  # @return [Object, nil] result; nil when it does not answer
  def call(method, **params) = raw({ jsonrpc: "2.0", id: 1, method: method, params: params })&.then { |answer| answer["result"] || answer["error"] }

  def raw(request)
    socket = Loomshuttle::Runtime::UnixSockets.connect(File.join(@home, "recorder.sock"))
    socket.puts(request.is_a?(String) ? request : JSON.generate(request))
    socket.gets&.then { |answer| JSON.parse(answer) }
  rescue SystemCallError
    nil
  ensure
    socket&.close
  end

  # Waits for a take that is over.
  def finished_take(number = 1)
    Tools.wait_until(120, "take #{number}") do
      folder, manifest = Loomshuttle::Recorder::Manifest.all(seen(File.join(@home, "takes"))).find { |_, one| one["number"] == number && one["state"] != "capturing" }
      folder && [folder, manifest]
    end
  end
end

# Starts and ends the scripts in processes/.
module RunningProcess
  # @param disks [Hash{String=>Integer}] folders and MiB, mounted in memory for this process alone
  def self.spawn(name, *arguments, disks: {})
    script = File.join(Loomshuttle::ROOT, "processes", "#{name}.rb")
    Process.spawn(Loomshuttle::Runtime::GemPaths.environment, *apart(disks), RbConfig.ruby, script, *arguments.map(&:to_s), out: [log(name), "a"], err: %i[child out], pgroup: true)
  end

  def self.log(name) = File.join(Dir.tmpdir, "loomshuttle-test-#{Process.uid}-#{name}.log")

  # Nobody waits for what has ended.
  # @return [nil] while it runs
  def self.still(name, pid)
    raise "The #{name} ended: #{File.readlines(log(name)).last}" if Process.wait(pid, Process::WNOHANG)
  end

  def self.apart(disks)
    return [] if disks.empty?

    disks.each_key { |folder| FileUtils.mkdir_p(folder) }
    mounts = disks.map { |folder, size| "mount -t tmpfs -o size=#{size}m none '#{folder}' && " }
    ["unshare", "--map-root-user", "--mount", "sh", "-c", "#{mounts.join}exec \"$0\" \"$@\""]
  end

  # @param pid [Integer, nil]
  def self.stop(pid)
    return unless pid

    Process.kill(:TERM, pid)
    Process.wait(pid)
  rescue Errno::ESRCH, Errno::ECHILD
    nil
  end
end
