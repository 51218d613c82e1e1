# frozen_string_literal: true

require "net/http"

# The whole application as bin/demo starts it, on ports and a home of its own, with the clean show open and the desk in step
# with it. Started once for all tests that want it as it is; those that do harm to it start their own.
class RunningApplication
  FAULTY = 1
  CLEAN = 2

  attr_reader :port, :home

  def self.shared
    @shared ||= new.tap do |one|
      at_exit { one.stop && one.remove }
      one.start.open_show(CLEAN)
    end
  end

  # @param songs [Boolean] whether the demo's songs are made   @param arguments [Array<String>] more for the command line
  def initialize(home: nil, songs: false, arguments: [])
    @home = home || TestDatabase.open_folder
    @songs, @arguments = songs, arguments
    @port = free_range
  end

  def start
    @log = File.join(@home, "supervisor.log")
    script = File.join(Loomshuttle::ROOT, "processes", "demo.rb")
    # Deliveries of tests lie in its home.
    environment = { "LOOMSHUTTLE_DELIVERIES" => @home, "LOOMSHUTTLE_DEMO_SONGS" => @songs ? "1" : "0" }
    @pid = Process.spawn(environment, RbConfig.ruby, script, "--port", @port.to_s, "--home", @home, *@arguments, out: [@log, "w"], err: %i[child out], pgroup: true)
    Tools.wait_until(60, "the application: #{@log}") { File.read(@log).include?("Loomshuttle is at") || raise_if_ended }
    self
  end

  # A show of its own for a test, open and with the desk in step.
  # @param file [String] in demo/
  # @return [Integer] its id
  def fresh(file = "clean.json")
    show = JSON.parse(File.read(File.join(Loomshuttle::ROOT, "demo", file)))
    made = post("/api/shows", file: show, about: show["about"], open: true, on_take: "stage") # by the same name each time
    made.fetch("id").tap { |id| open_show(id) }
  end

  # Opens a show and brings the desk into step with it.
  def open_show(show)
    post("/api/shows/#{show}/open", on_take: "stage")
    problems = post("/api/desk/send", on_take: "stage").fetch("problems")
    raise problems.join(" ") unless problems.empty?

    self
  end

  # @return [Integer] exit code
  def stop(signal = :TERM)
    return unless @pid

    Process.kill(signal, @pid)
    Process.wait(@pid)
    $?.exitstatus # rubocop:disable Style/SpecialGlobalVars
  rescue Errno::ESRCH, Errno::ECHILD
    nil
  end

  def remove = FileUtils.rm_rf(@home)
  def log = File.read(@log)
  def url = "http://127.0.0.1:#{@port}"

  # @return [Boolean] also while its interface is on its way
  def well?
    get("/api/health")["ok"]
  rescue SystemCallError, EOFError
    false
  end

  def get(path) = JSON.parse(Net::HTTP.get(URI("#{url}#{path}")))

  def post(path, data = {}) = JSON.parse(Net::HTTP.post(URI("#{url}#{path}"), JSON.generate(data), "content-type" => "application/json").body)

  # Once samples arrive: on a busy machine the stand-in desk may be silent for longer than the recorder waits.
  # @return [String] id of the take that begins
  def capture(options)
    answer = Tools.wait_until(60, "samples from the desk") { post("/api/capture", options).then { |one| one unless one.dig("error", "where") == "clock" } }
    answer["id"] || raise(answer.to_s)
  end

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

  # What the stand-in desk itself says of one of its settings, asked past the application.
  def desk_fact(address)
    socket = UDPSocket.new.tap { |one| one.connect("127.0.0.1", @port + 2) }
    socket.send(Loomshuttle::Formats::Osc.pack("/get", 1, address), 0)
    Loomshuttle::Formats::Osc.unpack(socket.recv(2000)).first.arguments.last
  ensure
    socket&.close
  end

  # @return [Hash] the take, once it is over and in the database
  def take(id) = Tools.wait_until(90, "take #{id}") { get("/api/takes").then { |list| list.is_a?(Array) && list.find { |one| one["id"] == id && one["state"] != "capturing" } } }

  def on_stage = post("/api/flip", "to" => "stage")

  private

  def raise_if_ended
    raise "The application ended: #{File.read(@log)}" if Process.wait(@pid, Process::WNOHANG)
  end

  def free_range
    loop do
      port = 10_000 + (40 * rand(200))
      next unless Tools.ours?(port)

      Loomshuttle::Supervisor::PortCheck.run(Loomshuttle::Supervisor::Ports.new(web: port))
      return port
    rescue Loomshuttle::Supervisor::Failed
      next
    end
  end
end
