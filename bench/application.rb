# frozen_string_literal: true

require_relative "support"
require "net/http"

module Bench
  # One application as bin/demo starts it, in a home of its own.
  class Application
    PORT = 14_040

    # @param home [String] an empty folder that the database's user may walk into
    def initialize(home)
      log = File.join(home, "log")
      script = File.join(Loomshuttle::ROOT, "processes", "demo.rb")
      @pid = Process.spawn(RbConfig.ruby, script, "--port", PORT.to_s, "--home", home, out: log, err: %i[child out], pgroup: true)
      sleep(0.2) until File.read(log).include?("Loomshuttle is at")
    end

    # The demo's songs are made once it is there, which takes both cores a while. Waits until they are.
    def wait_for_songs
      sleep(0.5) until JSON.parse(get("/api/player"))["player"]&.fetch("items")&.any?
      sleep(0.5) while system("pgrep", "-f", "processes/demo_songs", out: File::NULL)
    end

    def url = "http://127.0.0.1:#{PORT}"

    # @return [String] JSON
    def get(path) = Net::HTTP.get(URI("#{url}#{path}"))

    def post(path, data = {})
      answer = Net::HTTP.post(URI("#{url}#{path}"), JSON.generate(data), "content-type" => "application/json")
      raise answer.body unless answer.is_a?(Net::HTTPSuccess)
    end

    def stop
      Process.kill(:TERM, @pid)
      Process.wait(@pid)
    end
  end
end
