# frozen_string_literal: true

# Twenty messages a second to a viewer that never reads, who comes again whenever he is ended.
class LongViewer
  def initialize(_folder)
    @hub = L::Web::LiveHub.new.tap(&:start)
  end

  def hour(_number)
    72_000.times do |n|
      come_again if @hub.size.zero? # rubocop:disable Style/ZeroLengthPredicate -- a hub is not a list
      @hub.tell("meters", { "levels" => [n] * 64 })
      Thread.pass if (n % 50).zero?
    end
  end

  private

  def come_again
    [@ours, @theirs].compact.each { |socket| socket.close unless socket.closed? }
    @ours, @theirs = Socket.pair(:UNIX, :STREAM)
    @hub.add(@theirs)
  end
end
