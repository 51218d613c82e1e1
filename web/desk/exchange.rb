# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Questions to the desk over UDP, and their answers by number. A question is sent again while its answer is missing. Any thread may ask.
      class Exchange
        # The desk refused a setting, or did not answer.
        class Failed < StandardError; end

        # A single question is sent so often, and waits so long (seconds) for each answer.
        TRIES, WAIT = 6, 0.25
        # Requests on their way at once.
        WINDOW = 200
        # One of many requests is sent again after this time (seconds); a desk answers at its next step, within about 10 ms.
        AGAIN = 0.08
        # Many requests are given up when nothing at all has come back for this long: time for a desk to restart.
        PATIENCE = 15
        # One of many on its way: when it was sent last, in seconds.
        Request = Struct.new(:address, :bytes, :sent)

        # @param socket [UDPSocket] connected to the desk; its reader passes answers to `answer`
        def initialize(socket)
          @socket = socket
          @waiting = {}
          @number = 0
          @lock = Mutex.new # held for moments, never while an answer is waited for
        end

        # Ends all waiting.
        def stop = @stopped = true

        # @param message [Formats::Osc::Message] "/value" or "/refused", with the number of its request as the first argument
        def answer(message) = @lock.synchronize { @waiting[message.arguments.first] }&.<<(message)

        # Sends one request and waits for its answer.
        # @param verb [String] such as "/get"
        # @return [Object] the value in the answer
        # @raise [Failed]
        def request(verb, address, *rest)
          number = @lock.synchronize { @number += 1 }
          queue = Runtime::Mailbox.new(most: 4)
          @lock.synchronize { @waiting[number] = queue }
          bytes = Formats::Osc.pack(verb, number, address, *rest)
          answer = nil
          TRIES.times do
            say(bytes)
            break if (answer = queue.pop(WAIT)) || @stopped
          end
          raise Failed, "The desk does not answer (#{address})." unless answer
          raise Failed, "The desk refuses #{address}: #{answer.arguments.last}." if answer.address == "/refused"

          answer.arguments.last
        ensure
          @lock.synchronize { @waiting.delete(number) }
        end

        # Sends many requests at once; survives lost packets and a restart of the desk.
        # @param list [Hash{String=>Object}] address => value to send, or nil
        # @yield each address and the value in its answer
        # @return [Hash{String=>String}] address => why it was refused or not answered
        def ask_many(verb, list)
          inbox, failed, open, left = Runtime::Mailbox.new(most: 4 * WINDOW), {}, {}, list.to_a
          heard = Runtime::Clock.now
          until (left.empty? && open.empty?) || @stopped || Runtime::Clock.now - heard > PATIENCE
            launch(verb, left, open, inbox)
            answer = inbox.pop(AGAIN)
            address = answer && settle(open, answer) or next

            heard = Runtime::Clock.now
            answer.address == "/refused" ? failed[address] = "The desk refuses #{address}: #{answer.arguments.last}." : yield(address, answer.arguments.last)
          end
          (left.map(&:first) + open.values.map(&:address)).each { |address| failed[address] = "The desk does not answer (#{address})." }
          failed
        ensure
          @lock.synchronize { @waiting.delete_if { |_, queue| queue.equal?(inbox) } }
        end

        private

        # Fills the window, and sends again what has waited too long.
        def launch(verb, left, open, inbox)
          until left.empty? || open.size >= WINDOW
            address, value = left.shift
            number = @lock.synchronize { (@number += 1).tap { |one| @waiting[one] = inbox } }
            send_one(open, number, Request.new(address, Formats::Osc.pack(verb, number, address, *[value].compact)))
          end
          late = Runtime::Clock.now - AGAIN
          send_one(open, *open.shift) while !open.empty? && open.first.last.sent <= late
        end

        # Those that were sent last stand last, so that nobody looks through all of them for the ones that are late.
        def send_one(open, number, request)
          request.sent = Runtime::Clock.now
          open[number] = request
          say(request.bytes)
        end

        # @return [String, nil] the address that an answer settles; nil for one that came twice
        def settle(open, answer) = open.delete(answer.arguments.first)&.address

        def say(bytes)
          @socket.send(bytes, 0)
        rescue SystemCallError
          nil # the desk is not there; the missing answer tells
        end
      end
    end
  end
end
