local M = {}
M.plain = function(s) return s .. M.tail() end -- @def plain @use tail
function M.tail() return "." end -- @def tail
return M
