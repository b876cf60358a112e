# frozen_string_literal: true

# When methods arrive, which days are holidays, and what is due at the border.
class AddPromises < ActiveRecord::Migration[7.2]
  def change
    add_column :shipping_methods, :delivery, :json
    add_column :zones, :duty, :json
    add_column :stores, :holiday_region, :string
  end
end
