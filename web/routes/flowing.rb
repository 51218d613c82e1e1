# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Answers that are long, and read slowly: their socket goes to the StreamWriter, and the server thread is free at once.
      module Flowing
        # @param source [#size, #part, #next_part, #close]   @param headers [Hash]
        def flow(source, headers)
          from, upto, part = ByteRange.of(request.get_header("HTTP_RANGE"), source.size)
          unless from
            source.close
            return [416, { "content-range" => "bytes */#{source.size}", "content-type" => headers["content-type"] }, []]
          end

          head = headers.merge(ByteRange.headers(from, upto, source.size, part))
          status = part ? 206 : 200
          if env[HeadAsGet::ASKED]
            source.close
            return [status, head, []]
          end
          writer = @control.stream_writer
          throw :halt, [status, head, ->(socket) { writer.add(socket, source.part(from, upto)) }]
        end
      end
    end
  end
end
