# frozen_string_literal: true

# Who is told of what happens, what there was to tell, and how telling went.
class Webhooks < ActiveRecord::Migration[7.2]
  def change
    create_table :webhooks, id: :string do |t|
      t.string :url, null: false
      t.text :secret, null: false
      t.json :events, null: false
      t.boolean :active, null: false, default: true
      t.datetime :made_at, null: false
      t.datetime :gone_at
    end
    messages
    deliveries
  end

  private

  def messages
    create_table :webhook_messages, id: :string do |t|
      t.string :kind, null: false
      t.text :body, null: false
      t.datetime :made_at, null: false, index: true
    end
  end

  def deliveries
    create_table :webhook_deliveries do |t|
      t.string :webhook_id, :message_id, null: false
      t.string :state, null: false, default: "waiting"
      t.integer :attempts, null: false, default: 0
      t.datetime :due, null: false
      t.integer :status
      t.string :trouble
      t.datetime :tried_at
      t.check_constraint "state IN ('waiting', 'delivered', 'failed')", name: "webhook_deliveries_state"
      t.index %i[state due]
      t.index :webhook_id
      t.foreign_key :webhooks, column: :webhook_id, on_delete: :cascade
      t.foreign_key :webhook_messages, column: :message_id, on_delete: :cascade
    end
  end
end
