# frozen_string_literal: true

require "json"
require "socket"

# Datagrams and lines as nobody should send them, seeded.
module HostilePackets
  VERBS = %w[/get /set /subscribe /list /workshop /nonsense /].freeze
  # Nothing of these is a value that a setting accepts and does not have, so that a desk stays as it is.
  ADDRESSES = ["strip/1/gain", "strip/4/label", "card/send/1/from", "card/send/1/tap", "output/1/from", "changes", "meters", "rig", "loss", "stage", "", "x", "revision",
               "strip/1/", "../x"].freeze
  ARGUMENTS = [-1, (2**31) - 1, 2**40, 1e30, Float::NAN, Float::INFINITY, true, nil, "\xFF\xFE".dup.force_encoding("UTF-8"), "x" * 3000, "[]", "{\"desk\":1}", "{",
               "blob".b, "bus/99", "bus/x", "ch/999/l", "main/", 91.5].freeze
  # What a capture does not survive is none of an attack's business, and what changes the plan's recorder would be put right by the plan.
  METHODS = (Loomshuttle::Recorder::Requests::ALL.keys - %w[capture.stop bin.empty device.choose configure arm take.discard stop capture.start capture.rest]).freeze

  module_function

  def osc(random)
    case random.rand(5)
    when 0 then random.bytes(random.rand(0..300))
    when 1 then message(random).then { |bytes| bytes[0, random.rand(bytes.bytesize)] }
    when 2 then bundle(message(random), random.rand(1..60))
    when 3 then message(random).tap { |bytes| bytes.setbyte(random.rand(bytes.bytesize), random.rand(256)) }
    else message(random)
    end
  end

  def message(random)
    arguments = Array.new(random.rand(0..3)) { ARGUMENTS.sample(random: random) }
    number = random.rand < 0.8 ? [random.rand(1000), ADDRESSES.sample(random: random)] : []
    Loomshuttle::Formats::Osc.pack(VERBS.sample(random: random), *number, *arguments)
  end

  def bundle(inside, depth) = (1..depth).reduce(inside) { |bytes, _| "#bundle\0".b + ("\0" * 8) + [bytes.bytesize].pack("N") + bytes }

  def rtp(random)
    payload = "\1" * (24 * [0, 1, 48, 48, 48, 60].sample(random: random))
    case random.rand(4)
    when 0 then random.bytes(random.rand(0..1500))
    when 1 then [0x80 | random.rand(64), 97, random.rand(65_536), random.rand(1 << 32), random.rand(1 << 32)].pack("CCnNN") + payload
    when 2 then Loomshuttle::Formats::Rtp.pack(sequence: random.rand(20), timestamp: random.rand(20) * 48, source: 7, payload: payload)
    else Loomshuttle::Formats::Rtp.pack(sequence: random.rand(65_536), timestamp: random.rand(1 << 32), source: random.rand(1 << 32), payload: payload)
    end
  end

  def line(random)
    method = METHODS.sample(random: random)
    names = Loomshuttle::Recorder::Requests::ALL[method].keys.map(&:to_s)
    params = names.select { random.rand < 0.8 }.to_h { |name| [name, Damage::VALUES.reject { |one| one.equal?(true) }.sample(random: random)] }
    request = { "jsonrpc" => "2.0", "id" => random.rand(100), "method" => random.rand < 0.9 ? method : "x" * 500, "params" => params }
    request = Damage.value(request, random) if random.rand < 0.3
    request = [request] * random.rand(1..5) if random.rand < 0.05
    text = Damage.text(request, random)
    text.b.delete("\n")
  rescue JSON::GeneratorError, EncodingError
    "{"
  end

  # @return [Object, nil] nil when it is not answered, as a notification is not
  def ask(path, line)
    socket = Loomshuttle::Runtime::UnixSockets.connect(path)
    socket.write("#{"#{line}\n".b}{\"jsonrpc\":\"2.0\",\"id\":\"end\",\"method\":\"nothing\"}\n")
    raise "no answer within 30 s" unless socket.wait_readable(30)

    answer = JSON.parse(socket.gets.to_s)
    answer.is_a?(Hash) && answer["id"] == "end" ? nil : answer
  rescue JSON::ParserError, Errno::EPIPE, Errno::ECONNRESET
    nil
  ensure
    socket&.close
  end
end
