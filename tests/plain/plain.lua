-- Lua's libraries without any kit: plain.lua LIBRARY, then file names on standard input. See README.md for the lines it prints.
io.stdout:setvbuf("line")
local name = arg[1]

local function hexed(text)
  return (text:gsub(".", function(byte) return string.format("%02x", byte:byte()) end))
end

local null = {}
local function json_value(value, out, is_array)
  if value == null then
    out[#out + 1] = "null"
  elseif type(value) == "boolean" then
    out[#out + 1] = tostring(value)
  elseif type(value) == "string" then
    out[#out + 1] = "s" .. hexed(value)
  elseif math.type(value) == "integer" then
    out[#out + 1] = "n" .. value
  elseif type(value) == "number" then
    out[#out + 1] = string.format("n%.17g", value)
  elseif is_array(value) then
    out[#out + 1] = "["
    for index = 1, #value do json_value(value[index], out, is_array) end
    out[#out + 1] = "]"
  else
    out[#out + 1] = "{"
    for key, item in pairs(value) do
      out[#out + 1] = "k" .. (type(key) == "table" and "" or hexed(tostring(key)))
      json_value(item, out, is_array)
    end
    out[#out + 1] = "}"
  end
end

local function written(encode, value)
  local fine, text = pcall(encode, value)
  return "w" .. (fine and text and hexed(text) or "!")
end

local decode
if name == "cjson" then
  local cjson = require("cjson")
  null = cjson.null
  -- An empty table may be either; the library does not say which.
  local is_array = function(value) return #value > 0 end
  decode = function(document, out)
    local fine, value = pcall(cjson.decode, document)
    if fine then out[1] = written(cjson.encode, value) end
    if fine then json_value(value, out, is_array) end
    return fine
  end
elseif name == "dkjson" then
  local dkjson = require("dkjson")
  null = dkjson.null
  local is_array = function(value) return getmetatable(value) and getmetatable(value).__jsontype == "array" end
  decode = function(document, out)
    local fine, value, _, message = pcall(dkjson.decode, document, 1, dkjson.null)
    fine = fine and not message
    if fine then out[1] = written(dkjson.encode, value) end
    if fine then json_value(value, out, is_array) end
    return fine
  end
else
  local lxp = require("lxp")
  local full = function(key)
    local uri, found = key:match("^(.*)\n(.*)$")
    return hexed(uri and ("{" .. uri .. "}" .. found) or key)
  end
  decode = function(document, out)
    local handlers = {
      StartElement = function(_, element, attributes)
        out[#out + 1] = "<" .. full(element)
        local sorted = {}
        for key, value in pairs(attributes) do
          if type(key) == "string" then sorted[#sorted + 1] = "a" .. full(key) .. "=" .. hexed(value) end
        end
        table.sort(sorted)
        for _, attribute in ipairs(sorted) do out[#out + 1] = attribute end
      end,
      EndElement = function() out[#out + 1] = ">" end,
      CharacterData = function(_, text) out[#out + 1] = "t" .. hexed(text) end,
    }
    local parser = lxp.new(handlers, name == "expat-namespaces" and "\n" or nil)
    return parser:parse(document) and parser:parse()
  end
end
for path in io.lines() do
  local file = assert(io.open(path, "rb"))
  local document = file:read("a")
  file:close()
  local tokens = {}
  print(decode(document, tokens) and table.concat({ "accepted", table.unpack(tokens) }, " ") or "rejected")
end
