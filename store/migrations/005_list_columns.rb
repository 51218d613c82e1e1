# frozen_string_literal: true

Sequel.migration do
  change do
    # What the columns of input lists are, as somebody said it once: header => field, empty for a column that means nothing.
    create_table :list_columns do
      String :header, primary_key: true, size: 200
      String :field, null: false
    end
  end
end
