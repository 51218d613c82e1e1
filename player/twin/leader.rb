# frozen_string_literal: true

require "json"
require "socket"

module Loomshuttle
  module Player
    # Lets players that know the pairing code follow this one. Its threads:
    #   leads     accepts
    #   of each follower one that tells him, and one that hears whether he is still there
    class Leader
      # Followers at once; letters that may wait for one; seconds that he has to say hello, and to take a line.
      MOST, WAITING, HELLO, PATIENCE = 2, 200, 3, 2
      # Connections at once that have not said who they are.
      UNKNOWN = 4
      # After a wrong code nobody's is looked at for so long (seconds): at first, and at most, the longer the more were wrong.
      WRONG, LONGEST = 0.5, 5

      # @param host [String]   @param port [Integer]   @param code [Proc] returns the code   @param digest [Proc] returns the checksums of what must match
      def initialize(host, port, code:, digest:)
        @code, @digest = code, digest
        @server = TCPServer.new(host, port)
        @followers = []
        @unknown = @wrong = 0
        @lock = Mutex.new # held for moments
        @guessing = Mutex.new # held while a code is looked at, and for a while after a wrong one
      rescue Errno::EADDRINUSE
        raise Invalid.new("TCP port #{port} is in use; another player may run there.", where: "port #{port}")
      end

      def start
        @worker = Runtime::Worker.start("leads") { serve(@server.accept) if @server.wait_readable(0.5) }
      end

      def close
        @worker&.stop
        @lock.synchronize { @followers.dup }.each { |follower| follower[:line].close }
        @server.close
      end

      # @return [Integer] number of followers
      def count = @lock.synchronize { @followers.size }

      # @return [Array<Hash>] for each follower, "differs": names of what differs
      def told = @lock.synchronize { @followers.map { |one| { "differs" => Twin.differences(one[:digest], @digest.call) } } }

      # Never waits.
      def tell(word, **details)
        line = Twin.say(word, **details)
        @lock.synchronize { @followers.each { |one| one[:letters] << line } }
      end

      private

      def serve(socket)
        return socket.close unless @lock.synchronize { @followers.size < MOST && @unknown < UNKNOWN && @unknown += 1 }

        Runtime::Task.start("tells a follower") { follow(Runtime::LineSocket.new(socket, most: Twin::LINE)) }
      end

      def follow(line)
        hello = identified(line) or return refuse(line)
        letters = Runtime::Mailbox.new(most: WAITING)
        follower = { line: line, letters: letters, digest: hello["digest"] }
        @lock.synchronize { @followers.size < MOST && (@followers << follower) } or return
        line.puts(Twin.say("welcome", digest: @digest.call), PATIENCE)
        deliver(line, letters)
      rescue SystemCallError, IOError, Runtime::LineSocket::Late, Invalid, JSON::ParserError
        nil # he has gone, or is none
      rescue StandardError => e
        Runtime::Health.trouble(e, "telling a follower")
      ensure
        @lock.synchronize { @followers.delete(follower) } if follower
        line.close
      end

      def deliver(line, letters)
        loop do
          letter = letters.pop(Twin::SILENT) or next
          raise IOError, "it missed something" if letters.missed.positive?

          line.puts(letter, PATIENCE)
        end
      end

      # @return [Hash, nil] what he says; nil where he does not know the code
      def identified(line)
        hello = Twin::HELLO.check(JSON.parse(line.gets(HELLO).to_s, max_nesting: 4), "hello")
        hello if @guessing.synchronize { known?(hello["code"]) }
      ensure
        @lock.synchronize { @unknown -= 1 }
      end

      # Guessing takes its time, on however many connections.
      def known?(code)
        if secure?(code)
          @wrong = 0
          return true
        end

        sleep([WRONG * (2**@wrong), LONGEST].min)
        @wrong = [@wrong + 1, 10].min
        false
      end

      def refuse(line)
        line.puts(Twin.say("refused", why: "Wrong pairing code."), PATIENCE)
      end

      def secure?(code) = code.bytesize == @code.call.bytesize && code.bytes.zip(@code.call.bytes).sum { |one, other| one ^ other }.zero?
    end
  end
end
