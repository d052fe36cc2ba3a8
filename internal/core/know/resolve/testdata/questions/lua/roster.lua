local Bell = {} -- @is Bell

function Bell.page(self, times) -- @is page @ref Bell read
	self.rings = times -- @unused
end

local function quiet() return 1 end -- @is quiet @called quiet = alert

function alert(bell, level) -- @is alert @is level @calls alert = quiet,page
	if level > quiet() then -- @value level
		bell:page(level) -- @value level
	end
end

local function forgotten() end -- @unused

alert(Bell, 3) -- @ref alert call @ref Bell read @value level
