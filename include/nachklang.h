/* The reference readers from C, and from any language that calls C: verdicts, values as traces, canonical forms,
 * comparisons. Formats are "json" and "xml". Texts are bytes with a length; those that a function returns end with a
 * zero byte, too, and live until they or the reading they belong to are freed. Functions may be called from several
 * threads at once. Nothing outside a document is opened.
 *
 *     nachklang_reading* reading = nachklang_read("json", text, length);
 *     if (nachklang_verdict(reading) == NACHKLANG_REJECTED) puts(nachklang_message(reading));
 *     nachklang_free_reading(reading);
 */
#ifndef NACHKLANG_H
#define NACHKLANG_H

#include <stddef.h>

#ifdef __cplusplus
extern "C" {
#endif

typedef struct nachklang_reading nachklang_reading;

enum {
    NACHKLANG_UNREADABLE = -1, /* the reader gives no verdict: an encoding that it cannot read, a budget */
    NACHKLANG_REJECTED = 0,
    NACHKLANG_ACCEPTED = 1
};

/* "0.1.0" */
const char* nachklang_version(void);

/* Reads a document. NULL: no such format, or no memory. */
nachklang_reading* nachklang_read(const char* format, const char* document, size_t length);
void nachklang_free_reading(nachklang_reading* reading);

/* One of the three values above. */
int nachklang_verdict(const nachklang_reading* reading);
/* Why it was rejected or is unreadable; "" if it was accepted. */
const char* nachklang_message(const nachklang_reading* reading);
/* The clause broken, such as "RFC 8259, 6"; "" if there is none. */
const char* nachklang_clause(const nachklang_reading* reading);
/* Where it was rejected: bytes from 0; line and column from 1, columns in code points. */
size_t nachklang_offset(const nachklang_reading* reading);
size_t nachklang_line(const nachklang_reading* reading);
size_t nachklang_column(const nachklang_reading* reading);
/* The value of an accepted document as a trace (docs/trace.md); "" otherwise. `length` may be NULL. */
const char* nachklang_trace(const nachklang_reading* reading, size_t* length);

/* The canonical form: RFC 8785, or Canonical XML 1.0 without comments. NULL: there is none. Freed by nachklang_free. */
char* nachklang_canonical(const char* format, const char* document, size_t length, size_t* canonical_length);

/* How a value differs from the expected one, both as traces: lines of cause, place and detail between tabs; "" where
 * they are the same value. NULL: a text is no trace, or no such format. Freed by nachklang_free. */
char* nachklang_compare(const char* format, const char* expected, size_t expected_length, const char* got,
                        size_t got_length);

void nachklang_free(char* text);

#ifdef __cplusplus
}
#endif

#endif
