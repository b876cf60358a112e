# frozen_string_literal: true

# Accounts, from the machine itself: see bin/people.

require_relative "../boot"

USAGE = "usage: bin/people list | bin/people owner [ADDRESS] | bin/people reset EMAIL [--codes-off]"

def link(words, address = nil)
  address ||= Server::Settings.address
  "#{address.delete_suffix("/")}/joining##{words}"
end

def one_or_more(browsers) = "#{browsers} #{browsers == 1 ? "browser" : "browsers"}"

def list
  lasting = Server::Sessions.lasting.group(:person_id).count
  people = Server::Records::Person.order(:made_at).to_a
  return puts("There is no account yet: bin/people owner makes a link for the first one.") if people.empty?

  people.each do |one|
    puts format("%-7<role>s %<name>s <%<email>s>%<codes>s, signed in in %<sessions>s",
                role: one.role, name: one.name, email: one.email, codes: one.codes ? ", one-time codes" : "",
                sessions: one_or_more(lasting.fetch(one.id, 0)))
  end
end

def owner(address)
  _, words = Server::People.invite("owner")
  Server::AuditLog.add(:invited, about: "owner, on the machine itself")
  puts "Whoever opens this link within seven days becomes an owner. It is not shown again:", link(words, address)
end

def reset(email, codes_off)
  person = Server::Records::Person.find_by(email: email) or abort "There is no account with the email #{email}."
  _, words = Server::People.reset(person)
  Server::Sessions.end(person.sessions)
  Server::OneTimeCodes.switch_off(person) if codes_off
  Server::AuditLog.add(:reset_made, about: "#{person.name}, on the machine itself")
  puts "#{person.name} chooses a new password at this link within a day. It is not shown again:", link(words)
end

# Said at a start, where nobody could come in otherwise (bin/start).
def welcome
  return unless Server::Settings.reached_by_others? && !Server::People.accounts?

  puts "Others may reach this server, and it has no owner yet: nothing is told to anybody without an account."
  owner(nil)
  return if Server::Settings.named.any?

  puts "Under another name than this, it answers once GATE_MILE_HOSTS lists that name."
end

command, *rest = ARGV
abort "There is no shop at #{Server::Settings.database}." unless File.exist?(Server::Settings.database)
Server::Database.connect
abort "Start the server once, so that its database is brought up to date." unless Server::Records::Person.table_exists?
case [command, rest.size]
in ["list", 0] then list
in ["owner", 0 | 1] then owner(rest.first)
in ["welcome", 0] then welcome
in ["reset", 1 | 2] if (rest[1..] - ["--codes-off"]).empty? then reset(rest[0], rest.size == 2)
else abort USAGE
end
