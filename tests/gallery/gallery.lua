-- Defects of Lua's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
local json = require("json")
local text = json.decode('["\\ud83d\\ude00"]')[1]
print("lua-json-pair\t" .. text:gsub(".", function(c)
  return string.format("%02x", c:byte())
end))
