# xml2: its nodes by their expanded names. It is built on libxml2; the document type cannot be asked for.
suppressPackageStartupMessages(library(xml2))

script <- sub("^--file=", "", grep("^--file=", commandArgs(), value = TRUE))
source(file.path(dirname(script), "..", "sdk", "nachklang_adapter.R"))

EXHAUSTED <- "cannot allocate|stack usage"
# XML_WAR_… of libxml2's xmlerror.h.
WARNINGS <- c("27", "93", "97", "98", "99", "100", "102", "105", "106", "107")
XML_URI <- "http://www.w3.org/XML/1998/namespace"

# A name that xml2 has given a prefix of its own, as a local part and the namespace that this prefix is bound to.
expanded <- function(name, spaces) {
  colon <- regexpr(":", name, fixed = TRUE)
  if (colon < 1) return(paste("-", field(name), "u8:"))
  prefix <- substr(name, 1, colon - 1)
  # Of a prefix that is not declared there is no namespace.
  paste("-", field(substring(name, colon + 1)), if (prefix %in% names(spaces)) field(spaces[[prefix]]) else "-")
}

start <- function(node, spaces) {
  lines <- paste("elem", expanded(xml_name(node, spaces), spaces))
  attributes <- xml_attrs(node, spaces)
  for (name in names(attributes)) {
    value <- field(attributes[[name]])
    lines <- c(lines,
               if (name == "xmlns") paste("ns u8:", value)
               else if (startsWith(name, "xmlns:")) paste("ns", field(substring(name, 7)), value)
               else paste("attr", expanded(name, spaces), value, "-"))
  }
  lines
}

# An instruction without data has a text that is NA.
text_of <- function(node) {
  text <- xml_text(node)
  field(if (is.na(text)) "" else text)
}

leaf <- function(node, kind) {
  switch(kind,
    text = paste("text", text_of(node)),
    cdata = paste("cdata", text_of(node)),
    comment = paste("comment", text_of(node)),
    pi = paste("pi", field(xml_name(node)), text_of(node)),
    entity_ref = paste("ref", field(xml_name(node))),
    paste("native", kind, "-"))
}

print_document <- function(document) {
  # It knows no prefix of this one namespace by itself.
  spaces <- structure(c(xml_ns(document), xml = XML_URI), class = "xml_namespace")
  lines <- list()
  open <- opened(xml_find_all(document, "/node()"), "", NULL)
  while (!is.null(open)) {
    if (open$at == length(open$values)) {
      if (nzchar(open$closer)) lines[[length(lines) + 1]] <- open$closer
      open <- open$outer
      next
    }
    at <- open$at <- open$at + 1
    node <- open$values[[at]]
    kind <- xml_type(node)
    if (kind == "element") {
      lines[[length(lines) + 1]] <- start(node, spaces)
      open <- opened(xml_contents(node), "end", open)
    } else {
      lines[[length(lines) + 1]] <- leaf(node, kind)
    }
  }
  paste0(paste(unlist(lines), collapse = "\n"), "\n")
}

parsed <- function(document, mode) {
  options <- switch(mode, "blanks-kept" = character(), "entities-resolved" = "NOENT", "NOBLANKS")
  # libxml2's warnings and the errors after which it goes on are both R's warnings; the code at their end tells them apart.
  withCallingHandlers(in_library(read_xml(document, options = options), EXHAUSTED), warning = function(w) {
    code <- sub(".*\\[([0-9]+)\\]$", "\\1", conditionMessage(w))
    if (!(code %in% WARNINGS)) reports$all <- c(reports$all, conditionMessage(w))
    invokeRestart("muffleWarning")
  })
}

decode <- function(document, mode, show) {
  tree <- parsed(document, mode)
  if (show) print_document(tree) else ""
}

round_trip <- function(document, mode, show) {
  tree <- parsed(document, mode)
  # As it comes it writes a document anew, with line ends and indentation.
  in_library(if (mode == "default") as.character(tree) else as.character(tree, options = character()), EXHAUSTED)
}

serve("xml",
      paste0("implementation r-xml2 ", packageVersion("xml2"), "\nengine libxml2\nxml decode round-trip\ncannot-represent doctype prefixes defaults\nsetting namespaces=on\n",
             "mode default\nsetting entities=kept\nsetting external=none\nmode blanks-kept\nsetting entities=kept\nsetting external=none\n",
             "mode entities-resolved\nsetting external=entities\n"),
      list(decode = decode, "round-trip" = round_trip))
