# The adapter kit for R: serve("json", hello, list(decode = function(document, mode, show) …)), where a function gives the text of a reply
# (docs/protocol.md). Call your library inside in_library(call, exhausted): an error there is its documented failure, or `exhausted` where
# that pattern matches its message. An error anywhere else is a fault of the adapter (`adapter-fault`) and never booked on the library.
# field(text) writes a string of a trace; unsupported(why) says that something cannot be asked.

# Started with the pipe of the replies as descriptor 3, and 1 where standard error goes: what a library prints must not come between.
replies <- pipe("cat >&3", "wb")
input <- file("stdin", "rb")
sink(stderr())

hex <- function(bytes) paste(as.character(bytes), collapse = "")
field <- function(text) paste0("u8:", hex(charToRaw(enc2utf8(text))))

# A container whose values are being written, and the one around it: its values, its closing line, and how many are written.
# An environment, since a list would be copied at each step.
opened <- function(values, closer, outer) {
  list2env(list(values = values, names = names(values), closer = closer, outer = outer, at = 0), parent = emptyenv())
}

said <- function(text) {
  writeBin(charToRaw(text), replies)
  flush(replies)
}

line_of <- function() {
  bytes <- raw(0)
  repeat {
    one <- readBin(input, "raw", 1)
    if (length(one) == 0) return(NULL)
    if (one == as.raw(10)) return(rawToChar(bytes))
    bytes <- c(bytes, one)
  }
}

# Errors that the library reports of a document that it accepts.
reports <- new.env()

# Calls into the library under test: an error in it is its documented failure, or `exhausted` where that pattern matches.
in_library <- function(call, exhausted) {
  tryCatch(call, error = function(e) {
    kind <- if (grepl(exhausted, conditionMessage(e))) "exhausted" else "rejected"
    stop(structure(class = c("library_failure", "error", "condition"), list(message = conditionMessage(e), call = NULL, kind = kind)))
  })
}

unsupported <- function(why) {
  stop(structure(class = c("library_failure", "error", "condition"), list(message = why, call = NULL, kind = "unsupported")))
}

# Answers requests until the input ends. operations is a list of functions by the operation's name; each takes the document, the mode and
# whether the value is shown, and gives a reply's body. An error outside in_library is a fault of the adapter and never booked on the library.
serve <- function(format, hello, operations) {
  said(paste0("nachklang-adapter 1\n", hello, "\n"))
  while (!is.null(head <- line_of())) {
    words <- strsplit(head, " ", fixed = TRUE)[[1]]
    wanted <- as.integer(words[3])
    document <- raw(0)
    while (length(document) < wanted) document <- c(document, readBin(input, "raw", wanted - length(document)))
    id <- "0"; mode <- ""; show <- TRUE
    known <- words[1] %in% names(operations) && words[2] == format
    for (word in words[-(1:3)]) {
      parts <- strsplit(word, "=", fixed = TRUE)[[1]]
      if (parts[1] == "id") id <- parts[2]
      else if (parts[1] == "mode") mode <- parts[2]
      else if (parts[1] == "show") show <- parts[2] != "nothing"
      else known <- FALSE
    }
    kind <- "unsupported"; body <- ""
    if (known) {
      reports$all <- character(0)
      body <- tryCatch({ result <- operations[[words[1]]](document, mode, show); kind <- "accepted"; result },
                       error = function(e) {
                         kind <<- if (inherits(e, "library_failure")) e$kind else "adapter-fault"
                         conditionMessage(e)
                       })
    }
    bytes <- charToRaw(enc2utf8(body))
    messages <- if (kind == "accepted") charToRaw(enc2utf8(paste0(gsub("\n", " ", reports$all), "\n", recycle0 = TRUE, collapse = ""))) else raw(0)
    reported <- if (length(messages) > 0) paste0(" reported=", length(messages)) else ""
    said(paste0(kind, " ", length(messages) + length(bytes), " id=", id, reported, "\n"))
    writeBin(messages, replies)
    writeBin(bytes, replies)
    flush(replies)
  }
  invisible(close(replies))
}
