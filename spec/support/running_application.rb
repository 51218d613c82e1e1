# frozen_string_literal: true

require "net/http"

# The whole application as bin/demo starts it, on ports and a home of its own. Started once for all tests that want it
# as it is; those that do harm to it start their own.
class RunningApplication
  attr_reader :port, :home

  def self.shared
    @shared ||= new.tap do |one|
      one.start
      at_exit { one.stop && one.remove }
    end
  end

  def initialize(home: nil)
    @home = home || TestDatabase.open_folder
    @port = free_range
  end

  def start
    @log = File.join(@home, "supervisor.log")
    script = File.join(Loomshuttle::ROOT, "processes", "demo.rb")
    @pid = Process.spawn(RbConfig.ruby, script, "--port", @port.to_s, "--home", @home, out: [@log, "w"], err: %i[child out], pgroup: true)
    Tools.wait_until(60, "the application: #{@log}") { File.read(@log).include?("Loomshuttle is at") || raise_if_ended }
    self
  end

  # @return [Integer] exit code
  def stop(signal = :TERM)
    Process.kill(signal, @pid)
    Process.wait(@pid)
    $?.exitstatus # rubocop:disable Style/SpecialGlobalVars
  rescue Errno::ESRCH, Errno::ECHILD
    nil
  end

  def remove = FileUtils.rm_rf(@home)
  def log = File.read(@log)
  def url = "http://127.0.0.1:#{@port}"

  def get(path) = JSON.parse(Net::HTTP.get(URI("#{url}#{path}")))

  def post(path, data = {}) = JSON.parse(Net::HTTP.post(URI("#{url}#{path}"), JSON.generate(data), "content-type" => "application/json").body)

  # Process ids of a part, e.g. "recorder" or "postgres", of this instance.
  def pids(part)
    # Puma gives its process a title of its own.
    pattern = { "postgres" => "#{@home}/postgres/data", "web" => "puma .*127.0.0.1:#{@port}\\b" }.fetch(part, "processes/#{part}.rb.*#{@home}")
    IO.popen(["pgrep", "-f", pattern], &:read).split.map(&:to_i)
  end

  def command(*arguments)
    out, err, status = Open3.capture3(RbConfig.ruby, File.join(Loomshuttle::ROOT, "bin", "loomshuttle"), *arguments, "--port", @port.to_s)
    [out, err, status.exitstatus]
  end

  # @return [Hash] the take, once it is over and in the database
  def take(id) = Tools.wait_until(30, "take #{id}") { get("/api/takes").then { |list| list.is_a?(Array) && list.find { |one| one["id"] == id && one["state"] != "capturing" } } }

  def on_stage = post("/api/flip", "to" => "stage")

  private

  def raise_if_ended
    raise "The application ended: #{File.read(@log)}" if Process.wait(@pid, Process::WNOHANG)
  end

  def free_range
    loop do
      port = 10_000 + (40 * rand(200))
      Loomshuttle::Supervisor::PortCheck.run(Loomshuttle::Supervisor::Ports.new(web: port))
      return port
    rescue Loomshuttle::Supervisor::Failed
      next
    end
  end
end
