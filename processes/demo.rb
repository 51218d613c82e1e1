# frozen_string_literal: true

# The supervisor of bin/demo: demo.rb [--port N] [--home DIR]
require_relative "../loader"

$stdout.sync = true
Loomshuttle.load_parts(:core, :runtime, :store, :supervisor)
exit Loomshuttle::Supervisor::Demo.main(ARGV)
