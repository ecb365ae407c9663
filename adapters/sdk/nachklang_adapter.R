# The kit for adapters in R: replies, fields, and the loop that answers requests (docs/protocol.md).

# Started with the pipe of the replies as descriptor 3, and 1 where standard error goes: what a library prints must not come between.
replies <- pipe("cat >&3", "wb")
input <- file("stdin", "rb")
sink(stderr())

hex <- function(bytes) paste(as.character(bytes), collapse = "")
field <- function(text) paste0("u8:", hex(charToRaw(enc2utf8(text))))

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

# Answers requests until the input ends. answer(operation, document, mode, show) gives a reply's body or stops: with a message that
# begins with "unsupported: ", that `exhausted` matches, or with another, which is a rejection.
serve <- function(format, hello, answer, exhausted) {
  said(paste0("nachklang-adapter 1\n", hello, "\n"))
  while (!is.null(head <- line_of())) {
    words <- strsplit(head, " ", fixed = TRUE)[[1]]
    wanted <- as.integer(words[3])
    document <- raw(0)
    while (length(document) < wanted) document <- c(document, readBin(input, "raw", wanted - length(document)))
    id <- "0"; mode <- ""; show <- TRUE
    known <- words[1] %in% c("decode", "round-trip") && words[2] == format
    for (word in words[-(1:3)]) {
      parts <- strsplit(word, "=", fixed = TRUE)[[1]]
      if (parts[1] == "id") id <- parts[2]
      else if (parts[1] == "mode") mode <- parts[2]
      else if (parts[1] == "show") show <- parts[2] != "nothing"
      else known <- FALSE
    }
    kind <- "unsupported"; body <- ""
    if (known) {
      body <- tryCatch({ result <- answer(words[1], document, mode, show); kind <- "accepted"; result },
                       error = function(e) {
                         message <- conditionMessage(e)
                         kind <<- if (startsWith(message, "unsupported: ")) "unsupported"
                                  else if (grepl(exhausted, message)) "exhausted" else "rejected"
                         message
                       })
    }
    bytes <- charToRaw(enc2utf8(body))
    said(paste0(kind, " ", length(bytes), " id=", id, "\n"))
    writeBin(bytes, replies)
    flush(replies)
  }
  invisible(close(replies))
}
