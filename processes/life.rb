# frozen_string_literal: true

require_relative "../loader"

# What every process does the same: it ends on TERM and INT, and when whoever started it has gone, so that nothing is
# left over after a crash. What it makes belongs to its user alone; what it has to say goes to its log in the home folder.
module Life
  # @param name [String] of the process   @param home [String] folder of this instance
  # @param parts [Array<Symbol>] what it may know
  # @yieldparam cautious [Boolean] whether it is to start without what it may have died of
  # @yieldreturn [#run, #stop]
  def self.lead(name, home, *parts)
    Loomshuttle.load_parts(:core, :runtime, *parts)
    prepare(name, home)
    server = yield(ENV["LOOMSHUTTLE_CAUTIOUS"] == "1")
    %w[TERM INT].each { |signal| trap(signal) { server.stop } }
    end_with_parent(server)
    server.run
    Loomshuttle::Runtime::Log.now.info("ended")
  rescue Loomshuttle::Invalid => e
    Loomshuttle::Runtime::Log.now.fatal(e.message)
    abort(e.message)
  rescue StandardError => e
    Loomshuttle::Runtime::Log.surprise(e, "it ended")
    raise
  end

  def self.prepare(name, home)
    Loomshuttle::Runtime::Files.private!
    $stdout.sync = true
    logs = File.join(home, "logs")
    FileUtils.mkdir_p(logs)
    Loomshuttle::Runtime::Log.open(logs, name)
    Loomshuttle::Runtime::Log.now.info("starts")
  end

  def self.end_with_parent(server)
    parent = Process.ppid
    Loomshuttle::Runtime::Task.start("watches the supervisor") do
      sleep(0.5) while Process.ppid == parent
      server.stop
    end
  end
  private_class_method :prepare, :end_with_parent
end
