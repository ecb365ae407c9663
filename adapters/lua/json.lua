-- lua-cjson, dkjson or lua-json, named by the first argument.
package.path = arg[0]:match("^(.*)/[^/]*$") .. "/../sdk/?.lua;" .. package.path
local kit = require("nachklang_adapter")
local module = arg[1]

local function load_cjson()
  local cjson = require("cjson")
  return {
    version = "lua-cjson " .. cjson._VERSION,
    null = cjson.null,
    is_array = function(value)
      return #value > 0
    end,
    cannot_represent = "empty-kind",
    decode = function(text)
      return (cjson.decode(text))
    end,
    encode = cjson.encode,
    array = function()
      return {}
    end,
  }
end

local function load_dkjson()
  local dkjson = require("dkjson")
  return {
    version = "dkjson " .. (dkjson.version:match("[%d.]+$") or dkjson.version),
    null = dkjson.null,
    is_array = function(value)
      local meta = getmetatable(value)
      return meta ~= nil and meta.__jsontype == "array"
    end,
    decode = function(text)
      local value, position, message = dkjson.decode(text, 1, dkjson.null)
      if message then
        error({ message = message, offset = position and position - 1 })
      end
      return value
    end,
    encode = dkjson.encode,
    array = function()
      return setmetatable({}, { __jsontype = "array" })
    end,
    -- The library's own mark: an empty table without it is an array.
    object = function()
      return setmetatable({}, { __jsontype = "object" })
    end,
  }
end

local function load_lua_json()
  local json = require("json")
  return {
    version = "lua-json 1.3.4",
    null = json.util.null,
    is_array = function(value)
      local meta = getmetatable(value)
      return (meta ~= nil and meta.__is_luajson_array) or #value > 0
    end,
    cannot_represent = "empty-kind",
    decode = function(text)
      return json.decode(text)
    end,
    encode = json.encode,
    array = function()
      return {}
    end,
  }
end

local codec = ({ cjson = load_cjson, dkjson = load_dkjson, ["lua-json"] = load_lua_json })[module]()

local function scalar(value)
  if value == nil or value == codec.null then
    return "null"
  end
  local kind = type(value)
  if kind == "boolean" then
    return tostring(value)
  elseif kind == "string" then
    return "str u8:" .. kit.hex(value)
  elseif kind == "number" then
    if math.type(value) == "integer" then
      return "int " .. string.format("%d", value)
    end
    return "binary64 " .. kit.hex(string.pack(">d", value))
  end
  return "native " .. kind .. " -"
end

local function print_value(root, out)
  local stack = { { closer = nil, values = { root }, count = 1, names = nil, next = 1 } }
  while #stack > 0 do
    local level = stack[#stack]
    if level.next > level.count then
      stack[#stack] = nil
      if level.closer then
        out[#out + 1] = level.closer
      end
    else
      local at = level.next
      level.next = at + 1
      local value = level.values[at]
      if level.names then
        local name = level.names[at]
        if type(name) == "table" then -- no notation has such a name: the value is only said to be there
          return { "native table u8:" }
        end
        out[#out + 1] = type(name) == "string" and "key u8:" .. kit.hex(name) or "key " .. scalar(name)
      end
      if type(value) == "table" and value ~= codec.null then
        if next(value) == nil and codec.cannot_represent == "empty-kind" then
          out[#out + 1] = "("
          out[#out + 1] = ")"
        elseif codec.is_array(value) then
          out[#out + 1] = "["
          stack[#stack + 1] = { closer = "]", values = value, count = #value, next = 1 }
        else
          out[#out + 1] = "{"
          local names, values, count = {}, {}, 0
          for name, member in pairs(value) do
            count = count + 1
            names[count], values[count] = name, member
          end
          stack[#stack + 1] = { closer = "}", values = values, count = count, names = names, next = 1 }
        end
      else
        out[#out + 1] = scalar(value)
      end
    end
  end
  return out
end

local function value_of(trace)
  local root, levels, name = nil, {}, nil
  for line in trace:gmatch("([^\n]*)\n") do
    local word, rest = line:match("^(%S+) ?(.*)$")
    if word == "key" then
      if not rest:find(":") then
        error({ unsupported = "names are strings here" })
      end
      name = kit.text_of(rest)
    elseif word == "]" or word == "}" then
      levels[#levels] = nil
    else
      local value
      if word == "[" then
        value = codec.array()
      elseif word == "{" then
        value = codec.object and codec.object() or {}
      elseif word == "null" then
        value = codec.null
      elseif word == "true" or word == "false" then
        value = word == "true"
      elseif word == "str" then
        value = kit.text_of(rest)
      elseif word == "binary64" then
        value = string.unpack(">d", kit.from_hex(rest))
      elseif word == "int" and math.tointeger(tonumber(rest)) and tostring(math.tointeger(tonumber(rest))) == rest then
        value = math.tointeger(tonumber(rest))
      else
        error({ unsupported = "no value for " .. line })
      end
      local level = levels[#levels]
      if not level then
        root = value
      elseif level.kind == "[" then
        level.value[#level.value + 1] = value
      elseif level.value[name] ~= nil then
        error({ unsupported = "a table holds a name once" })
      else
        level.value[name] = value
      end
      if word == "[" or word == "{" then
        levels[#levels + 1] = { kind = word, value = value }
      end
    end
  end
  return root
end

local operations = {
  decode = function(document, show)
    local value = kit.library(codec.decode, document)
    local out = {}
    if show then
      out = print_value(value, out)
    end
    return #out > 0 and table.concat(out, "\n") .. "\n" or ""
  end,
  round_trip = function(document)
    return kit.library(codec.encode, (kit.library(codec.decode, document)))
  end,
  encode = function(trace)
    return kit.library(codec.encode, value_of(trace))
  end,
}

local cannot_represent = "cannot-represent order duplicates" .. (codec.cannot_represent and " " .. codec.cannot_represent or "")
kit.serve({
  hello = "implementation " .. codec.version .. "\njson decode round-trip encode\n" .. cannot_represent .. "\n",
  formats = { json = operations },
})
