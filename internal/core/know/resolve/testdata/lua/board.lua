local slope = require("hut.slope")
local words = require "words"
local Board = { rows = {} } -- @def Board @def rows
function Board.add(angle) -- @def add
  local s = slope.new(angle) -- @use new
  table.insert(Board.rows, s) -- @use Board @use rows
  return slope.LIMIT, words.plain("x") -- @use LIMIT @use plain
end
local function show() Board.add(3) end -- @def show @use add
show() -- @use show
