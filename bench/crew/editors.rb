# frozen_string_literal: true

# One thread and one connection per editor.
class CrewEditors
  # Seconds between two changes of each, more or less.
  PAUSE = 2.0

  # @param first [Integer] channel that the first of them works on
  def initialize(port, count, first: 1)
    @port, @count, @first, @done = port, count, first, Queue.new
  end

  def run(seconds)
    last = Bench.now + seconds
    Array.new(@count) { |who| Thread.new { edit(who, last) } }.each(&:join)
    Array.new(@done.size) { @done.pop }
  end

  private

  def edit(who, last)
    random = Random.new(who)
    Net::HTTP.start("127.0.0.1", @port) do |http|
      http.read_timeout = 30
      nth = 0
      while Bench.now < last
        sleep(PAUSE * (0.5 + random.rand))
        change(http, { "channel/#{@first + who}/name" => "Name #{nth += 1} of #{who}" })
      end
    end
  end

  # Editors change different settings, so an outdated version never causes a conflict.
  def change(http, settings)
    began = Bench.now
    answer = http.post("/api/edits", JSON.generate(settings: settings), "content-type" => "application/json")
    told = JSON.parse(answer.body)
    @done << [answer.code.to_i, began, Bench.now, told["version"]]
  end
end
