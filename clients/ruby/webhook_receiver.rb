# frozen_string_literal: true

# A receiver that prints each message:  WEBHOOK_SECRET=whsec_... ruby clients/ruby/webhook_receiver.rb [PORT]
# Give its address to Gate Mile under Release, Webhooks. It answers one request after the other, which is enough to see
# how it is done; put the three lines around `read` into your own server.

require "socket"
require_relative "gate_mile_webhooks"

webhooks = GateMileWebhooks.new(ENV.fetch("WEBHOOK_SECRET"))
server = TCPServer.new("127.0.0.1", Integer(ARGV[0] || 4190))
$stdout.sync = true
puts "Listening on http://127.0.0.1:#{server.addr[1]}"
loop do
  socket = server.accept
  head = socket.gets("\r\n\r\n").to_s
  headers = head.lines.drop(1).filter_map { |line| line.strip.split(": ", 2) if line.include?(":") }.to_h
  body = socket.read(headers.find { |name, _| name.casecmp?("content-length") }&.last.to_i)
  begin
    message = webhooks.read(headers, body)
    puts "#{message["type"]} at #{message["timestamp"]}: #{JSON.generate(message["data"])}"
    answer = "204 No Content"
  rescue GateMileWebhooks::Refused => e
    puts "Refused: #{e.message}"
    answer = e.again ? "204 No Content" : "400 Bad Request"
  end
  socket.write("HTTP/1.1 #{answer}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n")
  socket.close
end
