# frozen_string_literal: true

require "socket"

# Sends eight lanes to all ports, in real time or slower; every sample is the number of its millisecond, from 1.
class CountingSender
  attr_reader :sent
  # @return [Proc] takes the number of a millisecond and says whether it is lost on the way
  attr_accessor :lose

  # @param ahead [Integer] so many milliseconds are on their way at most, where it is known what was heard: fewer than a socket holds,
  #   and more than a recorder waits for after a burst of lost ones
  # @yieldreturn [Integer, nil] milliseconds that were heard: a machine that is busy with other things makes it slower, and nothing gets
  #   lost but what the test loses
  def initialize(ports, ahead: 150, &heard)
    @heard, @ahead = heard, ahead
    @targets = ports.map { |port| Socket.sockaddr_in(port, "127.0.0.1") }
    @socket = UDPSocket.new
    @sent = 0
  end

  # @param source [Integer] another one is a sender that started again   @param time [Integer] its first timestamp
  def start(source: 1, time: 0)
    @source, @time, @stopped = source, time, false
    @from = @sent
    @thread = Thread.new do
      began = now
      until @stopped
        10.times { send_one }
        wait_for_hearer
        ahead = began + ((@sent - @from) / 1000.0) - now
        sleep(ahead) if ahead.positive?
      end
    end
    self
  end

  def stop
    @stopped = true
    @thread&.join
  end

  private

  def wait_for_hearer
    return unless @heard && @sent > (@limit ||= @ahead)

    sleep(0.005) until @stopped || ((heard = @heard.call) && (@limit = heard + @ahead) >= @sent)
  end

  def send_one
    number = @sent + 1
    payload = [number].pack("N").byteslice(1, 3) * (48 * 8)
    bytes = Loomshuttle::Formats::Rtp.pack(sequence: @sent % 65_536, timestamp: @time + ((@sent - @from) * 48), source: @source, payload: payload)
    @lose&.call(number) || @targets.each do |target|
      @socket.send(bytes, 0, target)
    rescue Errno::ECONNREFUSED
      next # killed already
    end
    @sent += 1
  end

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
end
