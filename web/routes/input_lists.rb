# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Input lists as they come: read into text, with what each column is taken for.
      module InputLists
        # Bytes of a file.
        MOST = 4 << 20

        def self.registered(app)
          app.put("/api/input-lists/file") { json(InputLists.read(request.body, @control.list_columns, header: params["header"]&.to_i)) }
          app.post("/api/input-lists/columns") do
            @control.list_columns.keep(body_json["columns"].transform_keys { |header| Formats::InputList.plain(header) })
            json({ done: true })
          end
        end

        # @param body [IO]   @param columns [Store::ListColumns]
        # @param header [Integer, nil] the header's line, where a person has chosen it
        # @return [Hash] schema InputListRead
        # @raise [Invalid] if it is not a list
        def self.read(body, columns, header: nil)
          bytes = body.read(MOST + 1).to_s
          raise Invalid.new("An input list has #{MOST >> 20} MiB at most.", where: "size") if bytes.bytesize > MOST

          text = Spreadsheet.like?(bytes) || Spreadsheet.old?(bytes) ? Spreadsheet.csv(bytes) : Formats::ListText.decode(bytes)
          known = columns.all
          read = Formats::InputList.columns(text, known: known, header: header)
          { text: text, **Formats::InputList.top(text, known: known, header: header), columns: read.map(&:to_h), fields: Formats::InputList::HEADERS.keys.map(&:to_s),
            known: known.slice(*read.map(&:key)) }
        end
      end
    end
  end
end
