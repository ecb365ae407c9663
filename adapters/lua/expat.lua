-- LuaExpat: its events, names expanded or as they are written. It is built on Expat; nothing outside a document is read.
package.path = arg[0]:match("^(.*)/[^/]*$") .. "/../sdk/?.lua;" .. package.path
local kit = require("nachklang_adapter")
local lxp = require("lxp")
local field = kit.field

local SEPARATOR = "\n" -- between a namespace's name and a local part: neither holds one

local function names(name, expanded)
  if not expanded then
    return field(name) .. " - -"
  end
  local uri, part = name:match("^(.-)" .. SEPARATOR .. "(.*)$")
  return "- " .. field(part or name) .. " " .. field(uri or "")
end

local function handlers(out, expanded)
  local text, kind, in_type, declared = {}, "text ", false, {}
  local function flush(even_empty)
    if #text > 0 or even_empty then
      out[#out + 1] = kind .. field(table.concat(text))
    end
    text = {}
  end
  return {
    StartElement = function(_, name, attributes)
      flush()
      out[#out + 1] = "elem " .. names(name, expanded)
      for _, declaration in ipairs(declared) do
        out[#out + 1] = declaration
      end
      declared = {}
      -- The list holds the attributes of the tag; the others are the document type's.
      local given = {}
      for _, attribute in ipairs(attributes) do
        given[attribute] = true
        out[#out + 1] = "attr " .. names(attribute, expanded) .. " " .. field(attributes[attribute]) .. " given"
      end
      local defaults = {} -- a table has no order
      for attribute, value in pairs(attributes) do
        if type(attribute) == "string" and not given[attribute] then
          defaults[#defaults + 1] = "attr " .. names(attribute, expanded) .. " " .. field(value) .. " default"
        end
      end
      table.sort(defaults)
      table.move(defaults, 1, #defaults, #out + 1, out)
    end,
    EndElement = function()
      flush()
      out[#out + 1] = "end"
    end,
    CharacterData = function(_, piece)
      text[#text + 1] = piece
    end,
    Comment = function(_, piece)
      if in_type then
        return
      end
      flush()
      out[#out + 1] = "comment " .. field(piece)
    end,
    ProcessingInstruction = function(_, target, data)
      if in_type then
        return
      end
      flush()
      out[#out + 1] = "pi " .. field(target) .. " " .. field(data or "")
    end,
    StartCdataSection = function()
      flush()
      kind = "cdata "
    end,
    EndCdataSection = function()
      flush(true)
      kind = "text "
    end,
    StartNamespaceDecl = function(_, prefix, uri)
      declared[#declared + 1] = "ns " .. field(prefix or "") .. " " .. field(uri or "")
    end,
    StartDoctypeDecl = function(_, name)
      out[#out + 1] = "doctype " .. field(name)
      in_type = true
    end,
    EndDoctypeDecl = function()
      in_type = false
    end,
  }
end

local function parse(pieces, wanted, mode)
  local out, expanded = {}, mode == "namespaces"
  -- A handler for instructions and declarations keeps Expat from expanding internal entities: only what is wanted is asked for.
  local called_back = wanted and handlers(out, expanded) or {}
  for name, handler in pairs(called_back) do
    called_back[name] = kit.own(handler)
  end
  local parser = lxp.new(called_back, expanded and SEPARATOR or nil)
  local fine, message, line, column, offset = true, nil, nil, nil, nil
  for _, piece in ipairs(pieces) do
    fine, message, line, column, offset = kit.library(parser.parse, parser, piece)
    if not fine then
      break
    end
  end
  if fine then
    fine, message, line, column, offset = kit.library(parser.parse, parser)
  end
  if not fine then
    -- Positions of LuaExpat count from 1; an offset of 0 means that Expat has none (an empty document).
    error({ message = message, line = line, column = column, offset = offset and offset > 0 and offset - 1 or nil })
  end
  parser:close()
  if not wanted then
    return ""
  end
  return #out > 0 and table.concat(out, "\n") .. "\n" or "text u8:\n"
end

local function decode(document, wanted, mode)
  return parse({ document }, wanted, mode)
end

local function pieces(document, wanted, mode, cuts)
  return parse(kit.pieces(document, cuts), wanted, mode)
end

kit.serve({
  hello = "implementation lua-expat " .. lxp._VERSION:match("[%d.]+$") .. "\nengine expat " .. lxp._EXPAT_VERSION:match("[%d.]+$")
    .. "\nxml decode pieces\nmode namespaces\ncannot-represent prefixes\nsetting namespaces=on\nsetting parameter-entities=skipped\nmode plain\ncannot-represent namespaces\nsetting namespaces=off\nsetting parameter-entities=skipped\n",
  formats = { xml = { decode = decode, pieces = pieces } },
})
