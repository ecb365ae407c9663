-- The adapter kit for Lua: kit.serve{ hello = lines after the first, formats = { json = { decode = function(document, wanted, mode) … } } }.
-- decode returns the trace, round_trip and encode the document; error{ message =, offset =, line =, column = } is a refusal, error{ unsupported = }
-- says what cannot be asked. docs/protocol.md describes what goes over the pipes.
local kit = {}

-- What a library prints must not come between replies. Lua cannot point descriptors elsewhere: it is started with the pipe as
-- descriptor 3, and 1 where standard error goes.
local replies = io.open("/proc/self/fd/3", "w")

function kit.hex(bytes)
  return (bytes:gsub(".", function(c)
    return string.format("%02x", c:byte())
  end))
end

function kit.field(bytes)
  return "u8:" .. kit.hex(bytes)
end

function kit.from_hex(digits)
  return (digits:gsub("%x%x", function(pair)
    return string.char(tonumber(pair, 16))
  end))
end

function kit.text_of(field)
  local units, digits = field:match("^(u%d+):(%x*)$")
  if units == "u8" then
    return kit.from_hex(digits)
  end
  local width, out, high = units == "u16" and 4 or 8, {}, nil
  for number in digits:gmatch(string.rep("%x", width)) do
    local c = tonumber(number, 16)
    if high and c >= 0xDC00 and c < 0xE000 then
      out[#out] = utf8.char(0x10000 + ((high - 0xD800) << 10) + (c - 0xDC00))
      high = nil
    else
      high = width == 4 and c >= 0xD800 and c < 0xDC00 and c or nil
      out[#out + 1] = utf8.char(c)
    end
  end
  return table.concat(out)
end

local function answer(operation, document, keys)
  local done, result = pcall(operation, document, keys.show ~= "nothing", keys.mode or "")
  if done then
    return "accepted", result, ""
  elseif type(result) == "table" and result.unsupported then
    return "unsupported", result.unsupported, ""
  elseif type(result) == "table" then
    local position = ""
    for _, name in ipairs({ "offset", "line", "column" }) do
      position = position .. (result[name] and string.format(" %s=%d", name, result[name]) or "")
    end
    return "rejected", result.message, position
  end
  -- These libraries document no other failure than an error with a text.
  local body = tostring(result)
  local kind = (body:find("stack overflow") or body:find("not enough memory")) and "exhausted" or "rejected"
  local place = body:match("at character (%d+)")
  return kind, body, place and " offset=" .. (tonumber(place) - 1) .. " unit=byte" or ""
end

function kit.serve(is)
  replies:write("nachklang-adapter 1\n", is.hello, "\n")
  replies:flush()
  for head in io.stdin:lines() do
    local operation, format, length = head:match("^(%S+) (%S+) (%d+)")
    local document = tonumber(length) > 0 and io.stdin:read(tonumber(length)) or ""
    -- Names in Lua have no hyphen: round_trip is the operation round-trip.
    local run = is.formats[format] and is.formats[format][operation:gsub("-", "_")]
    local keys, known = {}, run ~= nil
    for key, value in head:gmatch(" ([%w_-]+)=(%S*)") do
      keys[key] = value
      known = known and (key == "id" or key == "mode" or key == "show")
    end
    local kind, body, position = "unsupported", "", ""
    if known then
      kind, body, position = answer(run, document, keys)
    end
    replies:write(kind, " ", #body, " id=", keys.id or "0", position, "\n", body)
    replies:flush()
  end
end

return kit
