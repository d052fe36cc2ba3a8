local Slope = {} -- @def Slope
Slope.__index = Slope -- @use Slope
Slope.LIMIT = 30 -- @def LIMIT
function Slope.new(angle) -- @def new @use Slope
  local self = setmetatable({}, Slope)
  self.angle = angle
  return self
end
function Slope:steep() -- @def steep
  return self:worst() > Slope.LIMIT -- @use worst @use LIMIT
end
function Slope:worst() return self.gusts + 1 end -- @def worst @use gusts
Slope.gusts = 4 -- @def gusts
return Slope
