# frozen_string_literal: true

# A private PostgreSQL cluster for the tests, started when the first one asks, as the application starts its own.
module TestDatabase
  module_function

  def postgres
    @postgres ||= begin
      home = open_folder
      cluster = Loomshuttle::Supervisor::Postgres.new(home, Tools.free_tcp_port)
      cluster.start
      Loomshuttle::Store::Database.migrate(Loomshuttle::Store::Database.connect(cluster.url))
      at_exit do
        cluster.stop
        FileUtils.rm_rf(home)
      end
      cluster
    end
  end

  # The postgres user must be able to walk into it.
  def open_folder = Dir.mktmpdir("loomshuttle-test").tap { |home| File.chmod(0o755, home) }

  # @return [Sequel::Database] with empty tables
  def empty
    @connection ||= Loomshuttle::Store::Database.connect(postgres.url)
    @connection[:shows].truncate(cascade: true, restart: true)
    %i[takes presets profiles desk_copies].each { |table| @connection[table].truncate }
    @connection
  end
end

module Tools
  module_function

  def free_tcp_port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
end
