-- Lua's libraries without any kit: plain.lua LIBRARY, then file names on standard input; for each one a line, accepted or rejected.
io.stdout:setvbuf("line")
local name = arg[1]
local decode
if name == "cjson" then
  local cjson = require("cjson")
  decode = function(document)
    return pcall(cjson.decode, document)
  end
elseif name == "dkjson" then
  local dkjson = require("dkjson")
  decode = function(document)
    local fine, _, _, message = pcall(dkjson.decode, document)
    return fine and not message
  end
else
  local lxp = require("lxp")
  decode = function(document)
    local parser = lxp.new({}, name == "expat-namespaces" and "\n" or nil)
    return parser:parse(document) and parser:parse()
  end
end
for path in io.lines() do
  local file = assert(io.open(path, "rb"))
  local document = file:read("a")
  file:close()
  print(decode(document) and "accepted" or "rejected")
end
