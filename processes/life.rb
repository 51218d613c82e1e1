# frozen_string_literal: true

require_relative "../loader"

# What every process does the same: it ends on TERM and INT, and when whoever started it has gone, so that nothing is
# left over after a crash.
module Life
  # @yieldreturn [#run, #stop]
  def self.lead
    parent = Process.ppid
    $stdout.sync = true
    server = yield
    %w[TERM INT].each { |signal| trap(signal) { server.stop } }
    Thread.new do
      sleep(0.5) while Process.ppid == parent
      server.stop
    end
    server.run
  rescue Loomshuttle::Invalid => e
    abort(e.message)
  end
end
