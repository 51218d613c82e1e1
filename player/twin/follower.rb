# frozen_string_literal: true

require "ipaddr"
require "json"
require "socket"

module Loomshuttle
  module Player
    # Follows another player: does the same at the same samples of their common clock. If the connection is lost it continues alone, and reconnects.
    # Its thread:
    #   follows   hears the leader
    class Follower
      AGAIN = 0.5

      # @param unit [Unit]   @param digest [Proc] returns the checksums of what must match (Twin.digest)
      def initialize(unit, digest:)
        @unit, @digest = unit, digest
        @lock = Mutex.new # held for moments
      end

      # @param to [Hash, nil] "host", "port" and "code" of the leader; nil stops following
      def follow(to)
        @lock.synchronize { @to = to }
        @worker ||= Runtime::Worker.start("follows") { |worker| turn(worker) }
        line = @line
        line&.close unless @hears.equal?(to) # the worker may already be connected to the new one
      end

      def stop
        @to = nil
        @line&.close
        @worker&.stop
      end

      # @return [Hash, nil] host, port, connected, problem, differs (names) and apart (samples, if both play); nil if it follows nobody
      def status
        to = @to or return
        told = @told if @hears.equal?(to) # of the one before nothing counts
        { "host" => to["host"], "port" => to["port"], "connected" => !told.nil?, "problem" => @problem, "differs" => told ? Twin.differences(@digest.call, told["digest"]) : [],
          "apart" => told && @apart }
      end

      private

      def turn(worker)
        to = @to or return worker.rest(AGAIN)
        hear(to, worker)
      rescue SystemCallError, IOError, Runtime::LineSocket::Late
        @problem ||= "The other computer does not answer."
        worker.rest(AGAIN)
      rescue Invalid => e
        @problem = e.message
        worker.rest(AGAIN * 4)
      ensure
        @line&.close
        @told = @apart = @behind = nil
      end

      def hear(to, worker)
        @hears = to
        socket = near(to).connect(timeout: 2)
        @line = Runtime::LineSocket.new(socket, most: Twin::LINE)
        @line.puts(JSON.generate({ code: to["code"], digest: @digest.call }), 2)
        until worker.stopped? || !@to.equal?(to)
          text = @line.gets(@told ? Twin::SILENT : Twin::WELCOME) or raise IOError, "it has gone"
          take(*Twin.read(text))
        end
      end

      # Only what stands beside us is given a code: a network of our own, never a computer out in the world.
      # @raise [Invalid] @raise [SystemCallError]
      def near(to)
        found = Addrinfo.getaddrinfo(to["host"], to["port"], nil, :STREAM, timeout: 2)
        found.find { |one| own?(IPAddr.new(one.ip_address.sub(/%.*/, ""))) } or raise Invalid.new("#{to['host']} is not on a network of our own.", where: "host")
      rescue SocketError
        raise Invalid.new("There is no computer #{to['host']}.", where: "host")
      end

      # RFC 1918, RFC 3927, RFC 4193 and RFC 4291.
      def own?(address) = address.loopback? || address.private? || address.link_local?

      def take(word, details)
        case word
        when "welcome" then @problem = nil
        when "refused" then raise Invalid.new(details["why"], where: "code")
        when "load" then @unit.follow_load(details["song"])
        when "do" then obey(details["what"], details["at"]&.then { |at| Twin.near(@unit.place["time"], at) }, details["with"])
        when "state" then state(details.merge("time" => Twin.near(@unit.place["time"], details["time"])))
        end
      rescue Invalid => e
        raise if word == "refused"

        @problem = e.message # what cannot be done here hinders nothing else
      end

      def obey(what, at, with)
        @behind = nil
        @told_until = at || (@unit.place["time"] + Twin::AHEAD)
        @unit.follow_command(what, at, with)
      end

      def state(told)
        @told = told
        mine = @unit.place
        both = told["playing"] && mine["playing"] && told["song"] == mine["song"] && told["position"]
        @apart = both ? (mine["position"] - mine["time"]) - (told["position"] - told["time"]) : nil
        behind = told["playing"] && !mine["playing"] && told["song"] && told["position"]
        behind ? fall_in(told, mine) : @behind = nil
      end

      # A letter that crossed a command on its way, or the end of the song, is not believed; the next one is, when it says the same.
      def fall_in(told, mine)
        return if @told_until && (@told_until - told["time"]).between?(0, Twin::AHEAD * 2)

        @behind ? catch_up(told, mine) : @behind = true
      end

      # A song that plays already when this one comes: from a sample on that both reach.
      def catch_up(told, mine)
        return if @catching && (@catching - mine["time"]).between?(0, Twin::AHEAD * 5) # it is about to

        @unit.follow_load(told["song"]) unless mine["song"] == told["song"]
        @catching = mine["time"] + (Twin::AHEAD * 4)
        # It lands there behind its crossfade from silence.
        sample = told["position"] + (@catching - told["time"]) + (Songs::Walk::FADE * @unit.rate).round
        @unit.obey("play", @catching, { "sample" => sample }) if sample.positive?
      end
    end
  end
end
