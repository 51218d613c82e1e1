# frozen_string_literal: true

require "json"
require "socket"

# Requests from the OpenAPI file, seeded: good ones by its examples of types, and the same damaged.
class HostileRequests
  DOCUMENT = JSON.parse(File.read(Loomshuttle::Web::Contract::PATH))
  # The live feed goes on for good; the desk would really stand in another rig.
  LEFT_OUT = ["/api/live", "/api/desk/stand-in"].freeze
  PATHS = ["%ff", "%00", "..%2f..%2fetc", "1", "0", "-1", "99999999999999999999", "x" * 300, "%E2%80%AE", "a%20b", "%5B%5D", "1%0d%0aX-Evil:1"].freeze
  QUERIES = ["a=1&a[]=2", "from=%ff", "x=%", "from=1e9", "track=-1", "point=x", "point=desk/ch/1", "point[a]=b", "from=99999999999999999999",
             "a=#{'b' * 5000}", "=", "&&&", "points=0", "one=show/99999999999999&other=now", "one=now&other=version/0", "column=send&number=999999999"].freeze
  HEADERS = { "X-Forwarded-Host" => "evil.example", "Forwarded" => "host=evil.example", "X-Loomshuttle-Who" => "%00%ff%zz", "Range" => "bytes=9-1",
              "X-HTTP-Method-Override" => "DELETE" }.freeze
  # W3C Fetch Metadata, as browsers tell it and as none does.
  FETCH = { "Sec-Fetch-Site" => ["same-origin", "same-site", "cross-site", "none", "x", ""], "Sec-Fetch-Mode" => ["navigate", "cors", "no-cors", "websocket", "\xFF"],
            "Sec-Fetch-Dest" => %w[document iframe image empty x] }.freeze

  SETTINGS = { "channel/1/stage" => "desk/in/3", "channel/2/gain" => 20, "setup/bits" => 24, "rig/interface" => nil, "box/a/profile" => "bramble-16",
               "track/1/inputs" => [1], "send/1/tap" => nil, "setup/accepted" => {}, "outlet/a-1/first" => 1, "output/1/source" => "desk/main/l", "rig/rate" => 48_000 }.freeze
  OPTIONS = { "column" => "send", "first" => 1, "count" => 4, "start" => 1, "to" => "stage", "channels" => [1], "profile" => "bramble-16", "port" => "a", "box" => "a",
              "desk" => "alder-40", "leader" => "desk", "channel" => 1, "text" => "name,socket\nTuba,A 1", "finding" => "x", "reason" => "y",
              "version" => 1, "show" => 1, "preset" => 1,
              "only" => ["x"], "settings" => SETTINGS }.freeze

  attr_reader :random

  # @param port [Integer]   @param harmless [Boolean] whether nothing is sent that could be accepted and change something
  def initialize(port, seed)
    @port, @random = port, Random.new(seed)
    @operations = DOCUMENT["paths"].except(*LEFT_OUT).flat_map { |path, methods| methods.map { |method, operation| [method.upcase, path, operation] } }
  end

  # @return [Array(Integer, Hash, String, String)] status, headers, body, and the request in words
  def one
    method, path, operation = @operations.sample(random: random)
    method = "HEAD" if method == "GET" && random.rand < 0.25
    address = path.gsub(/\{[a-z]+\}/) { random.rand < 0.5 ? PATHS.sample(random: random) : "1" }
    address += "?#{query(operation)}" if random.rand < 0.4
    body = %w[POST PUT].include?(method) ? body(operation) : ""
    headers = headers(method, body)
    [*send_raw(method, address, headers, body), "#{method} #{address} #{body.b[0, 300].inspect}"]
  end

  private

  def headers(method, body)
    type = method == "PUT" ? "application/octet-stream" : "application/json"
    type = "text/plain" if random.rand < 0.05
    headers = { "Host" => "127.0.0.1:#{@port}", "Content-Type" => type, "Content-Length" => body.bytesize.to_s, "Connection" => "close" }
    headers.merge!([HEADERS.to_a.sample(random: random)].to_h) if random.rand < 0.2
    headers.merge!(FETCH.select { random.rand < 0.8 }.transform_values { |values| values.sample(random: random) }) if random.rand < 0.2
    headers
  end

  def query(operation)
    return QUERIES.sample(random: random) if random.rand < 0.6

    operation.fetch("parameters", []).select { |one| one["in"] == "query" }.map do |one|
      "#{one['name']}=#{Damage::VALUES.sample(random: random).to_s.b.gsub(/[^a-z0-9]/n) do |char|
        format('%%%02x', char.ord)
      end}"
    end.join("&")
  end

  def body(operation)
    schema = operation.dig("requestBody", "content", "application/json", "schema") or return random.bytes(random.rand(200))
    good = example(schema)
    return Damage.text(good, random) if random.rand < 0.3

    JSON.generate(Damage.value(good, random))
  rescue JSON::GeneratorError, EncodingError
    "{"
  end

  def example(schema)
    return example(DOCUMENT.dig(*schema["$ref"].delete_prefix("#/").split("/"))) if schema["$ref"]
    return schema["enum"].sample(random: random) if schema["enum"]

    case Array(schema["type"]).first
    when "object" then object(schema)
    when "array" then Array.new(random.rand(3)) { example(schema.fetch("items", {})) }
    when "integer" then [1, 2, 5, 40].sample(random: random)
    when "number" then [0, 1.5].sample(random: random)
    when "boolean" then [true, false].sample(random: random)
    when "string" then %w[x desk box-a send a].sample(random: random)
    end
  end

  def object(schema)
    return OPTIONS.to_a.sample(random.rand(1..6), random: random).to_h if schema["additionalProperties"] == true && schema["description"].nil?
    return SETTINGS.to_a.sample(random.rand(1..3), random: random).to_h if schema["additionalProperties"] == true

    schema.fetch("properties", {}).select { |name, _| schema.fetch("required", []).include?(name) || random.rand < 0.6 }.transform_values { |one| example(one) }
  end

  def send_raw(method, address, headers, body)
    socket = Socket.tcp("127.0.0.1", @port, connect_timeout: 20)
    socket.write("#{method} #{address} HTTP/1.1\r\n#{headers.map { |name, value| "#{name}: #{value}\r\n" }.join}\r\n".b + body.b)
    answer = read(socket)
    head, text = answer.split("\r\n\r\n", 2)
    lines = head.to_s.lines(chomp: true)
    [lines.first.to_s[/\AHTTP\S* (\d+)/, 1].to_i, lines.drop(1).to_h { |line| line.split(": ", 2).then { |name, value| [name.to_s.downcase, value] } }, text.to_s]
  ensure
    socket&.close
  end

  def read(socket)
    text, deadline = "".b, Process.clock_gettime(Process::CLOCK_MONOTONIC) + 30
    loop do
      raise "no answer within 30 s" unless socket.wait_readable([deadline - Process.clock_gettime(Process::CLOCK_MONOTONIC), 0].max)

      part = socket.read_nonblock(65_536, exception: false)
      return text if part.nil?

      text << part if part.is_a?(String) && text.bytesize < 1 << 20
    end
  rescue Errno::ECONNRESET
    text
  end
end
