# frozen_string_literal: true

# The web: web.rb PORT DESK-OSC-PORT HOME, the database's address in DATABASE_URL. LOOMSHUTTLE_BIND and
# LOOMSHUTTLE_HOSTS (comma separated) open it to a network.
require_relative "life"

Loomshuttle.load_parts(:core, :store, :web)
port, desk_port, home = ARGV
Life.lead do
  Loomshuttle::Web::Server.new(url: ENV.fetch("DATABASE_URL"), home: home, port: port.to_i, desk_port: desk_port.to_i,
                               bind: ENV.fetch("LOOMSHUTTLE_BIND", "127.0.0.1"),
                               hosts: ENV.fetch("LOOMSHUTTLE_HOSTS", "").split(","))
end
