# frozen_string_literal: true

require "json"
require "net/http"

module Loomshuttle
  module CommandLine
    # Asks the running application over HTTP.
    class Client
      # What the application said against it, or that it is not there.
      class Failed < StandardError
        # @return [String, nil] kind of the problem, as the API tells it
        attr_reader :kind

        def initialize(message, kind: nil)
          super(message)
          @kind = kind
        end
      end

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

      # Downloads a file from the application.
      # @param out [String] path of the new file
      # @return [Integer] bytes
      # @raise [Failed] with a sentence
      def save(path, out)
        asking do
          Net::HTTP.start("127.0.0.1", @port, read_timeout: 60) do |http|
            http.request(Net::HTTP::Get.new(path)) do |response|
              refuse(response) unless response.is_a?(Net::HTTPSuccess)
              File.open(out, File::WRONLY | File::CREAT | File::EXCL | File::BINARY) { |file| response.read_body { |part| file.write(part) } }
            end
          end
        end
        File.size(out)
      end

      private

      def ask(request)
        asking do
          response = Net::HTTP.start("127.0.0.1", @port, read_timeout: 60) { |http| http.request(request) }
          response.is_a?(Net::HTTPSuccess) ? JSON.parse(response.body) : refuse(response)
        end
      end

      def refuse(response)
        JSON.parse(response.body)["error"].to_h.then { |error| raise Failed.new(error["message"] || "The application answered #{response.code}.", kind: error["kind"]) }
      end

      def asking
        yield
      rescue Errno::EEXIST, Errno::EACCES, Errno::ENOENT, Errno::ENOSPC, Errno::EISDIR => e
        raise Failed, "The file cannot be written: #{e.message}."
      rescue SystemCallError
        raise Failed.new("Nothing answers on port #{@port}; start the application with bin/demo, or name its port with --port.", kind: "away")
      rescue JSON::ParserError, EOFError, Net::ReadTimeout
        raise Failed, "What runs on port #{@port} does not answer like Loomshuttle."
      end
    end
  end
end
