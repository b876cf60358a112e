# frozen_string_literal: true

# Changes of very many rows in parts; names of offers where more is left to pay; and no secret in the words of a change.
class ExactHistory < ActiveRecord::Migration[7.2]
  def up
    # state: nil, or what is under way with it: storing, undoing or redoing.
    add_column :changes, :state, :string
    create_table :change_parts do |t|
      t.references :change, null: false, foreign_key: { on_delete: :cascade }
      t.json :entries, null: false
      # Whether its rows are now as they were before the change.
      t.boolean :undone, null: false, default: false
    end
    add_column :offers, :label_more, :string
    forget_secrets
  end

  def down = raise(ActiveRecord::IrreversibleMigration)

  private

  # A secret that was changed alone stood, old and new, in the words that name the change.
  def forget_secrets
    # What stood there is overwritten with zeros, not only freed.
    execute "PRAGMA secure_delete = ON"
    execute <<~SQL
      UPDATE changes SET names = json_remove(names, '$.from', '$.to')
      WHERE kind = 'carrier' AND json_extract(names, '$.fields') LIKE '%secret%'
    SQL
  end
end
