# frozen_string_literal: true

require "json"
require "net/http"

module Loomshuttle
  module CommandLine
    # Asks the running application over HTTP.
    class Client
      # What the application said against it, or that it is not there.
      class Failed < StandardError; end

      def initialize(port)
        @port = port
      end

      # @return [Object] the JSON answer
      # @raise [Failed] with a sentence
      def get(path) = ask(Net::HTTP::Get.new(path))

      def post(path, data = {})
        request = Net::HTTP::Post.new(path, "content-type" => "application/json", "x-loomshuttle-who" => "command line")
        request.body = JSON.generate(data)
        ask(request)
      end

      private

      def ask(request)
        response = Net::HTTP.start("127.0.0.1", @port, read_timeout: 60) { |http| http.request(request) }
        answer = JSON.parse(response.body)
        return answer if response.is_a?(Net::HTTPSuccess)

        raise Failed, answer.dig("error", "message") || "The application answered #{response.code}."
      rescue SystemCallError
        raise Failed, "Nothing answers on port #{@port}; start the application with bin/demo, or name its port with --port."
      rescue JSON::ParserError, EOFError, Net::ReadTimeout
        raise Failed, "What runs on port #{@port} does not answer like Loomshuttle."
      end
    end
  end
end
