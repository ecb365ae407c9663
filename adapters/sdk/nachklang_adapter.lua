-- The adapter kit for Lua: kit.serve{ hello = lines after the first, formats = { json = { decode = function(document, wanted, mode) … } } }.
--
-- decode returns the trace, round_trip and encode the document. Call your library through kit.library(function, arguments …): an error
-- with a text is its documented failure; error{ message =, offset =, line =, column = } adds a position. error{ unsupported = } says what
-- cannot be asked. Any other error is a fault of the adapter (`adapter-fault`) and never booked on the library; wrap functions that the
-- library calls back in kit.own. docs/protocol.md describes what goes over the pipes.
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

-- Calls into the library under test. These libraries document no other failure than an error with a text.
function kit.library(call, ...)
  local results = table.pack(pcall(call, ...))
  if results[1] then
    return table.unpack(results, 2, results.n)
  end
  local failure = results[2]
  if type(failure) == "table" then
    error(failure, 0)
  end
  local message = tostring(failure)
  if message:find("stack overflow") or message:find("not enough memory") then
    error({ exhausted = message }, 0)
  end
  local place = message:match("at character (%d+)")
  error({ message = message, offset = place and tonumber(place) - 1, unit = place and "byte" }, 0)
end

-- A function of the adapter that the library calls back: an error in it is the adapter's.
function kit.own(call)
  return function(...)
    local results = table.pack(pcall(call, ...))
    if not results[1] then
      error(type(results[2]) == "table" and results[2] or { fault = tostring(results[2]) }, 0)
    end
    return table.unpack(results, 2, results.n)
  end
end

local function answer(operation, document, keys)
  local done, result = pcall(operation, document, keys.show ~= "nothing", keys.mode or "", keys.cuts or "")
  if done then
    return "accepted", result, ""
  elseif type(result) ~= "table" then
    return "adapter-fault", tostring(result), ""
  elseif result.fault then
    return "adapter-fault", result.fault, ""
  elseif result.unsupported then
    return "unsupported", result.unsupported, ""
  elseif result.exhausted then
    return "exhausted", result.exhausted, ""
  end
  local position = ""
  for _, name in ipairs({ "offset", "line", "column" }) do
    position = position .. (result[name] and string.format(" %s=%d", name, result[name]) or "")
  end
  return "rejected", result.message, position .. (result.unit and " unit=" .. result.unit or "")
end

--- The document in pieces that end at the offsets "3,7", or after "each" byte.
function kit.pieces(document, cuts)
  local ends, pieces, begin = {}, {}, 1
  if cuts == "each" then
    for at = 1, #document - 1 do
      ends[at] = at
    end
  else
    for offset in cuts:gmatch("%d+") do
      ends[#ends + 1] = tonumber(offset)
    end
  end
  ends[#ends + 1] = #document
  for _, last in ipairs(ends) do
    if last >= begin and last <= #document then
      pieces[#pieces + 1] = document:sub(begin, last)
      begin = last + 1
    end
  end
  return pieces
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
      known = known and (key == "id" or key == "mode" or key == "show" or key == "cuts")
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
