# frozen_string_literal: true

require "fiddle"
require "open3"

# Reference tools from Debian. A missing one fails the test: bin/test installs them all.
module Tools
  module_function

  # @return [String] what the program printed, both ways
  def run(*command)
    text, status = Open3.capture2e(*command.map(&:to_s))
    raise "#{command.first} failed: #{text}" unless status.success?

    text
  end

  # A machine that does a dozen other things takes so many times longer.
  PATIENCE = 3

  # What is waited for longer is looked at less often (seconds), so that asking does not hold up what is asked for.
  LONGEST_PAUSE = 0.2

  # Waits for a condition, never for a time: the seconds are for giving up on a machine that does nothing else.
  # @param what [String, Proc] that is waited for, or how it is instead, for the words of the failure
  def wait_until(seconds = 60, what = "the condition")
    pause = 0.02
    deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + (seconds * PATIENCE)
    until (got = yield)
      raise "Waited #{seconds * PATIENCE} s for #{what.respond_to?(:call) ? what.call : what}" if Process.clock_gettime(Process::CLOCK_MONOTONIC) > deadline

      sleep(pause)
      pause = [pause * 1.25, LONGEST_PAUSE].min
    end
    got
  end

  # Takes what is free on a file's disk in a moment, on the slowest machine too: room is taken and not written, in halves of what fits no
  # more. Less than 64 KiB stay, and nobody takes what others give back afterwards. (Ruby has no fallocate(2).)
  def take_all_room(file)
    whole = Fiddle::TYPE_LONG_LONG
    fallocate = Fiddle::Function.new(Fiddle.dlopen(nil)["fallocate64"], [Fiddle::TYPE_INT, Fiddle::TYPE_INT, whole, whole], Fiddle::TYPE_INT)
    size, at = 1 << 30, 0
    fallocate.call(file.fileno, 0, at, size).zero? ? at += size : size /= 2 while size >= 1 << 16
  end

  # Below those that the kernel gives to sockets that name none, and none twice: whoever asked first may not be bound yet.
  # @return [Integer] a UDP port of which so many, two apart, are free
  def free_udp_ports(count = 1)
    200.times do
      port = 20_000 + (2 * rand(6_000))
      wanted = (0...count).map { |n| port + (2 * n) }
      next if wanted.intersect?(given_ports) || !wanted.all? { |one| ours?(one) }

      wanted.map { |one| UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", one) } }.each(&:close)
      given_ports.concat(wanted)
      return port
    rescue Errno::EADDRINUSE
      next
    end
    raise "no free UDP ports"
  end

  # @param flow [#next_part, #close] that is made while it is sent
  # @return [String] all of it
  def bytes_of(flow)
    parts = []
    while (part = flow.next_part)
      parts << part
    end
    parts.join.b
  ensure
    flow.close
  end

  def given_ports = @given_ports ||= []

  # Other specs may run beside these on the same machine, and ask before this one has bound what it was given.
  # @param port [Integer] the first of some
  # @return [Boolean] whether no other process of specs has taken it; it is this one's from now on
  def ours?(port)
    file = File.open(File.join(Dir.tmpdir, "loomshuttle-specs-#{port}"), File::CREAT | File::RDWR)
    taken = file.flock(File::LOCK_EX | File::LOCK_NB)
    taken ? (@reserved ||= []).push(file) : file.close # held for as long as the file is open
    taken ? true : false
  rescue SystemCallError
    false
  end
end

RSpec.configure { |config| config.include(Tools) }
