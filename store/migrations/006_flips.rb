# frozen_string_literal: true

# Flips between stage and take are in the journal, and no part of undo; undo is a person's own. Copies of the desk are found by their show.
Sequel.migration do
  up do
    run "ALTER TABLE journal DROP CONSTRAINT IF EXISTS journal_kind_check"
    alter_table(:journal) do
      add_column :person, String
      add_constraint(:journal_kind_check, kind: %w[edit undo redo flip])
    end
    run <<~SQL
      UPDATE journal SET kind = 'flip' WHERE kind = 'edit' AND jsonb_array_length(changes) > 0 AND NOT EXISTS
        (SELECT 1 FROM jsonb_array_elements(changes) AS change WHERE change->>'path' NOT LIKE 'channel/%/position')
    SQL
    add_index :desk_copies, :show_id
  end

  down do
    drop_index :desk_copies, :show_id
    run "UPDATE journal SET kind = 'edit' WHERE kind = 'flip'"
    run "ALTER TABLE journal DROP CONSTRAINT journal_kind_check"
    alter_table(:journal) do
      drop_column :person
      add_constraint(:journal_kind_check, kind: %w[edit undo redo])
    end
  end
end
