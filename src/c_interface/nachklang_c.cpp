// The C interface over the formats. No exception leaves a function; lack of memory is a null pointer.
#include <nachklang.h>

#include <cstdlib>
#include <cstring>
#include <new>
#include <string>

#include <nachklang/format.hpp>

struct nachklang_reading {
    int verdict = NACHKLANG_UNREADABLE;
    std::string message, clause, trace;
    nachklang::Position position;
};

namespace {

using namespace nachklang;

char* copy_of(const std::string& text) {
    auto* out = static_cast<char*>(std::malloc(text.size() + 1));
    if (out != nullptr) std::memcpy(out, text.c_str(), text.size() + 1);
    return out;
}

/// What the action gives; null if it throws.
template <class Action>
auto or_null(const Action& action) -> decltype(action()) {
    try {
        return action();
    } catch (...) {
        return nullptr;
    }
}

}  // namespace

extern "C" {

const char* nachklang_version(void) {
    return NACHKLANG_VERSION;
}

nachklang_reading* nachklang_read(const char* format, const char* document, std::size_t length) {
    return or_null([&]() -> nachklang_reading* {
        const Format* known = find_format(format);
        if (known == nullptr) return nullptr;
        const Reading reading = known->read(std::string_view(document, length));
        auto out = std::make_unique<nachklang_reading>();
        if (!reading.unreadable_because.empty()) {
            out->message = "the reader cannot read " + reading.unreadable_because;
        } else if (reading.rejection) {
            out->verdict = NACHKLANG_REJECTED;
            out->message = reading.rejection->message;
            out->clause = reading.rejection->clause;
            out->position = reading.rejection->position;
        } else {
            out->verdict = NACHKLANG_ACCEPTED;
            out->trace = reading.trace.text();
        }
        return out.release();
    });
}

void nachklang_free_reading(nachklang_reading* reading) {
    delete reading;
}

int nachklang_verdict(const nachklang_reading* reading) {
    return reading->verdict;
}
const char* nachklang_message(const nachklang_reading* reading) {
    return reading->message.c_str();
}
const char* nachklang_clause(const nachklang_reading* reading) {
    return reading->clause.c_str();
}
std::size_t nachklang_offset(const nachklang_reading* reading) {
    return reading->position.offset;
}
std::size_t nachklang_line(const nachklang_reading* reading) {
    return reading->position.line;
}
std::size_t nachklang_column(const nachklang_reading* reading) {
    return reading->position.column;
}
const char* nachklang_trace(const nachklang_reading* reading, std::size_t* length) {
    if (length != nullptr) *length = reading->trace.size();
    return reading->trace.c_str();
}

char* nachklang_canonical(const char* format, const char* document, std::size_t length,
                          std::size_t* canonical_length) {
    return or_null([&]() -> char* {
        const Format* known = find_format(format);
        if (known == nullptr || known->canonical_form() == nullptr) return nullptr;
        const Canonical form = known->canonical_form()->canonical(std::string_view(document, length), {}, {});
        if (form.refused || !form.unreadable_because.empty()) return nullptr;
        if (canonical_length != nullptr) *canonical_length = form.bytes.size();
        return copy_of(form.bytes);
    });
}

char* nachklang_compare(const char* format, const char* expected, std::size_t expected_length, const char* got,
                        std::size_t got_length) {
    return or_null([&]() -> char* {
        const Format* known = find_format(format);
        if (known == nullptr) return nullptr;
        TraceError ignored;
        const auto before = parse_value(*known, std::string(expected, expected_length), ignored),
                   after = parse_value(*known, std::string(got, got_length), ignored);
        if (!before || !after) return nullptr;
        std::string out;
        for (const Difference& d : known->compare(*before, *after).differences)
            out += d.cause + "\t" + text::printable(d.at) + "\t" + text::printable(d.detail) + "\n";
        return copy_of(out);
    });
}

void nachklang_free(char* text) {
    std::free(text);
}

}  // extern "C"
