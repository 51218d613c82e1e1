# frozen_string_literal: true

# The web: web.rb PORT DESK-OSC-PORT HOME, the database's address in DATABASE_URL. Whoever starts it may say more in the environment:
#   LOOMSHUTTLE_BIND, LOOMSHUTTLE_HOSTS   open it to a network: an address to listen on, and the names it is reached by (comma separated)
#   LOOMSHUTTLE_PROXY                     address of a proxy before it, which alone is believed about the name that was asked for
#   LOOMSHUTTLE_DELIVERIES                folders below which deliveries are looked at (colon separated)
require_relative "life"

port, desk_port, home = ARGV
Life.lead("web", home, :store, :web) do
  Loomshuttle::Web::Server.new(url: ENV.fetch("DATABASE_URL"), home: home, port: port.to_i, desk_port: desk_port.to_i,
                               bind: ENV.fetch("LOOMSHUTTLE_BIND", "127.0.0.1"), hosts: ENV.fetch("LOOMSHUTTLE_HOSTS", "").split(","),
                               proxy: ENV.fetch("LOOMSHUTTLE_PROXY", nil), folders: ENV["LOOMSHUTTLE_DELIVERIES"]&.split(":"))
end
