# frozen_string_literal: true

require "json"
require "minitest/autorun"

# The folders of web/src stand in an order (web/rooms.json), and each may know those before it and none after it. What
# starts the interface (app.tsx, main.tsx) stands above all; the parts for shops (embed) know the contract alone.
class InterfaceRoomsTest < Minitest::Test
  WEB = File.expand_path("../../web", __dir__)
  SOURCE = File.join(WEB, "src")
  ROOMS = JSON.parse(File.read(File.join(WEB, "rooms.json"))).freeze
  FILES = Dir[File.join(SOURCE, "**/*.{ts,tsx}")].freeze
  # `from '…'`, `import '…'` and `import('…')`, of what is ours.
  IMPORT = /(?:\bfrom|\bimport)\s*\(?\s*'(\.[^']+)'/

  # @param file [String] an address below web/src
  # @return [String] its folder; nothing for what stands above all rooms
  def room(file) = file[%r{\A([\w-]+)/}, 1].to_s

  def place(room) = room.empty? ? ROOMS.size : ROOMS.index(room)

  # @return [Array<String>] what a source at an address knows of rooms that come after its own
  def against(file, source)
    source.scan(IMPORT).flatten.filter_map do |path|
      to = File.expand_path(path, File.dirname(File.join(SOURCE, file))).delete_prefix("#{SOURCE}/")
      beyond = place(room(to)).nil? || place(room(to)) > place(room(file))
      outside = [room(file), room(to)].include?("embed") && room(file) != room(to) && room(to) != "api"
      "#{room(file)} knows #{to}" if beyond || outside
    end
  end

  def test_every_folder_is_a_room
    assert_equal ROOMS.sort, Dir.children(SOURCE).select { |name| File.directory?(File.join(SOURCE, name)) }.sort
  end

  def test_rooms_know_each_other_in_one_direction
    wrong = FILES.flat_map { |file| against(file.delete_prefix("#{SOURCE}/"), File.read(file)) }
    assert_empty wrong
  end

  # The look itself: each of these is found, in either direction.
  def test_an_import_against_the_order_is_found
    assert_equal ["ui knows edits/edited"], against("ui/field.tsx", "import { useEdited } from '../edits/edited'")
    assert_equal ["zones knows board/board"], against("zones/zones.tsx", "const Board = lazily(() => import('../board/board'))")
    assert_equal ["ui knows zones/tones"], against("ui/sheet/sheet.tsx", "import { Button } from '../button'\nimport '../../zones/tones'")
    assert_equal ["embed knows ui/format"], against("embed/choice.ts", "import { formatsOf } from '../ui/format'")
    assert_equal ["frame knows embed/frame"], against("frame/shell.tsx", "import { define } from '../embed/frame'")
    assert_equal ["board knows app"], against("board/board.tsx", "import { App } from '../app'")
    assert_empty against("board/board.tsx", "import { Zones } from '../zones/zones'\nimport { useState } from 'react'")
  end
end
