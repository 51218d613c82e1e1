# frozen_string_literal: true

require "socket"

# A line to a TCP port of this computer that can be cut, as a cable is, and mended.
class CuttableLink
  attr_reader :port

  # @param to [Integer] port
  def initialize(to)
    @to = to
    @server = TCPServer.new("127.0.0.1", 0)
    @port = @server.addr[1]
    @lines, @whole = [], true
    @thread = Thread.new { loop { join(@server.accept) } }
  end

  # What is under way ends, and nobody gets through.
  def cut
    @whole = false
    @lines.each { |line| line.close unless line.closed? }.clear
  end

  def mend = @whole = true

  def close
    @thread.kill
    cut
    @server.close
  end

  private

  def join(here)
    return here.close unless @whole

    there = TCPSocket.new("127.0.0.1", @to)
    @lines.push(here, there)
    [[here, there], [there, here]].each { |from, to| Thread.new { pass(from, to) } }
  end

  def pass(from, to)
    IO.copy_stream(from, to)
  rescue IOError, SystemCallError
    nil # it was cut
  ensure
    to.close unless to.closed?
  end
end
