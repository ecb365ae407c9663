# jsonlite without simplification, as R's values then tell most of what was written.
suppressPackageStartupMessages(library(jsonlite))

script <- sub("^--file=", "", grep("^--file=", commandArgs(), value = TRUE))
source(file.path(dirname(script), "..", "sdk", "nachklang_adapter.R"))

EXHAUSTED <- "nested too deeply|stack usage|stack overflow|cannot allocate"

scalar <- function(value) {
  if (is.null(value)) return("null")
  if (is.logical(value)) return(if (is.na(value)) "null" else if (value) "true" else "false")
  if (is.integer(value)) return(sprintf("int %d", value))
  if (is.numeric(value)) return(paste("binary64", hex(writeBin(as.double(value), raw(), endian = "big"))))
  if (is.character(value)) return(paste("str", field(value)))
  paste("native", class(value)[1], "-")
}

print_value <- function(root) {
  lines <- character(0)
  open <- opened(list(root), "", NULL)
  while (!is.null(open)) {
    if (open$at == length(open$values)) {
      if (nzchar(open$closer)) lines[length(lines) + 1] <- open$closer
      open <- open$outer
      next
    }
    at <- open$at <- open$at + 1
    value <- open$values[[at]]
    if (!is.null(open$names)) lines[length(lines) + 1] <- paste("key", field(open$names[[at]]))
    if (is.list(value)) {
      is_object <- !is.null(names(value))
      lines[length(lines) + 1] <- if (is_object) "{" else "["
      open <- opened(value, if (is_object) "}" else "]", open)
    } else {
      lines[length(lines) + 1] <- scalar(value)
    }
  }
  paste0(paste(lines, collapse = "\n"), "\n")
}

as_text <- function(document) {
  if (any(document == as.raw(0))) unsupported("a text cannot hold NUL here")
  text <- rawToChar(document)
  Encoding(text) <- "UTF-8"
  text
}

parsed <- function(document, mode) {
  text <- as_text(document)
  # A text that looks like a path or a URL would be opened instead of parsed: parse_json never does that.
  in_library(parse_json(text, simplifyVector = FALSE, bigint_as_char = mode == "big-integers-as-text"), EXHAUSTED)
}

decode <- function(document, mode, show) {
  value <- parsed(document, mode)
  if (show) print_value(value) else ""
}

round_trip <- function(document, mode, show) {
  value <- parsed(document, mode)
  in_library(as.character(toJSON(value, auto_unbox = TRUE, digits = NA, null = "null")), EXHAUSTED)
}

serve("json",
      paste0("implementation jsonlite ", packageVersion("jsonlite"),
             "\njson decode round-trip\nsetting input=text\nengine yajl\nmode default\nmode big-integers-as-text\ncannot-represent number-as-text\n"),
      list(decode = decode, "round-trip" = round_trip))
