# frozen_string_literal: true

# Old messages are forgotten by their time, and with them what was tried to deliver each.
class IndexesOfWhatIsForgotten < ActiveRecord::Migration[7.2]
  def change
    add_index :webhook_deliveries, :message_id
  end
end
