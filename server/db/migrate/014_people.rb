# frozen_string_literal: true

# Who may use the workbench, from which browsers, and what they did that is not an edit of the setup.
class People < ActiveRecord::Migration[7.2]
  def change
    people
    belongings
    # Links that are shown once: one makes an account, or lets somebody choose a new password.
    create_table :invitations, id: :string do |t|
      t.string :digest, null: false, index: { unique: true }
      t.string :role
      t.string :person_id
      t.string :by
      t.datetime :made_at, :ends_at, null: false
      t.foreign_key :people, on_delete: :cascade
    end
    # What was done, by whom; the name is as it was then.
    create_table :audit_entries do |t|
      t.datetime :at, null: false, index: true
      t.string :what, null: false
      t.string :person_id, :by, :about
    end
    add_column :changes, :person_id, :string
    add_column :changes, :by, :string
  end

  private

  def people
    create_table :people, id: :string do |t|
      t.string :name, null: false
      t.string :email, null: false, collation: "NOCASE", index: { unique: true }
      t.string :role, null: false
      t.string :password_digest, null: false
      # The secret of one-time codes, and whether they are asked for; the last period of which one was used.
      t.text :code_secret
      t.boolean :codes, null: false, default: false
      t.integer :code_used
      t.datetime :made_at, null: false
      t.check_constraint "role IN ('owner', 'editor', 'viewer')", name: "people_role"
    end
  end

  def belongings
    create_table :recovery_codes do |t|
      t.string :person_id, null: false
      t.string :digest, null: false
      t.index %i[person_id digest], unique: true
      t.foreign_key :people, on_delete: :cascade
    end
    create_table :sessions do |t|
      t.string :person_id, null: false, index: true
      t.string :digest, null: false, index: { unique: true }
      t.string :browser, null: false
      t.datetime :made_at, :seen_at, null: false
      t.foreign_key :people, on_delete: :cascade
    end
  end
end
