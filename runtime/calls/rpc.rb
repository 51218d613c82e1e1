# frozen_string_literal: true

require "json"

module Loomshuttle
  module Runtime
    # JSON-RPC 2.0, one document a line: turns a request into a call and a result or error into an answer.
    class Rpc
      PARSE, REQUEST, METHOD, PARAMS, INTERNAL = -32_700, -32_600, -32_601, -32_602, -32_603
      # Our own: the request was understood and refused. `data` tells where, and the problem's kind.
      CODES = Problem::KINDS.each.with_index(1).to_h.freeze

      # Requests in one batch, and how deep one may be nested.
      MOST, DEEPEST = 100, 16

      # @param methods [Hash{String=>Proc}] each takes keyword parameters
      # @param shapes [Hash{String=>Hash{Symbol=>Shape::Kind}}] kind of each parameter
      def initialize(methods, shapes = {})
        @methods, @shapes = methods, shapes
      end

      # @param line [String]
      # @return [String, nil] the answer as a line; nil for a notification
      def answer(line)
        request = JSON.parse(line, max_nesting: DEEPEST)
        return batch(request) if request.is_a?(Array)

        reply = one(request)
        reply && JSON.generate(reply)
      rescue JSON::ParserError, EncodingError
        JSON.generate(error(nil, PARSE, "This is not JSON."))
      end

      # @return [String] the notification as a line
      def self.notification(method, params) = JSON.generate({ "jsonrpc" => "2.0", "method" => method, "params" => params })

      private

      def batch(requests)
        return JSON.generate(error(nil, REQUEST, "An empty batch asks nothing.")) if requests.empty?
        return JSON.generate(error(nil, REQUEST, "A batch has #{MOST} requests at most.")) if requests.size > MOST

        replies = requests.filter_map { |request| one(request) }
        replies.empty? ? nil : JSON.generate(replies)
      end

      def one(request)
        return error(nil, REQUEST, "A request is an object with jsonrpc \"2.0\" and a method.") unless valid?(request)

        reply = call(request)
        request.key?("id") ? { "jsonrpc" => "2.0", "id" => request["id"] }.merge(reply) : nil
      end

      def valid?(request)
        request.is_a?(Hash) && request["jsonrpc"] == "2.0" && request["method"].is_a?(String) && request["method"].valid_encoding? &&
          [String, Integer, NilClass].any? { |kind| request["id"].is_a?(kind) } && request["id"].to_s.valid_encoding?
      end

      def call(request)
        method = @methods[request["method"]]
        return failure(METHOD, "There is no method #{Text.readable(request['method'], most: 60)}; known are #{@methods.keys.join(', ')}.") unless method

        params = request.fetch("params", {})
        problem = wrong_params(method, params)
        return failure(PARAMS, problem) if problem

        { "result" => method.call(**checked(request["method"], params.transform_keys(&:to_sym))) }
      rescue Problem => e
        failure(CODES.fetch(e.kind), e.message, { "where" => e.where, "kind" => e.kind }.compact)
      rescue Errno::ENOSPC, Errno::EDQUOT => e
        failure(CODES.fetch(:full), "The disk is full: #{e.message}", "where" => "disk", "kind" => :full)
      rescue SystemCallError => e
        failure(INTERNAL, "It could not be done: #{e.message}")
      rescue StandardError => e
        Log.surprise(e, request["method"])
        failure(INTERNAL, "It failed: #{e.class}")
      end

      # @raise [Invalid]
      def checked(name, params)
        shapes = @shapes.fetch(name, {})
        params.to_h { |field, value| [field, shapes[field] ? shapes[field].check(value, field.to_s) : value] }
      end

      def wrong_params(method, params)
        return "Parameters go by name, in an object." unless params.is_a?(Hash) && params.each_key.all?(&:valid_encoding?)

        known = method.parameters.map(&:last)
        unknown = params.keys.map(&:to_sym) - known
        return "Unknown parameter #{Text.readable(unknown.join(', '), most: 200)}; known are #{known.join(', ')}." unless unknown.empty?

        missing = method.parameters.filter_map { |kind, name| name if kind == :keyreq } - params.keys.map(&:to_sym)
        "Parameter #{missing.join(', ')} is missing." unless missing.empty?
      end

      def failure(code, message, data = nil) = { "error" => { "code" => code, "message" => message, "data" => data }.compact }
      def error(id, code, message) = { "jsonrpc" => "2.0", "id" => id }.merge(failure(code, message))
    end
  end
end
