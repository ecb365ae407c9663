// Thresholds. RFC 8259, 9 lets a parser set limits but gives no numbers. From the amounts below on, a refusal
// counts as such a limit; below them it is a refusal of a document that must be accepted.
#include "json/questions.hpp"

#include <algorithm>
#include <stdexcept>

namespace nachklang::json {
namespace {

constexpr std::size_t never = static_cast<std::size_t>(-1);

constexpr auto open_point = Question::open_point;
constexpr auto keeps = KnownAnswer::keeps;

Question limit(std::string id, std::size_t from, std::string about) {
    return Question::limit_from(from, std::move(id), "RFC 8259, 9", std::move(about));
}

/// A question whose unlisted answers are no findings; they only form groups.
Question choice(std::string id, std::string clause, std::vector<KnownAnswer> answers, std::string about) {
    Question out = open_point(std::move(id), std::move(clause), std::move(answers), std::move(about));
    out.unlisted_is_altered = false;
    return out;
}

Question extension(std::string id, std::string about) {
    return choice(std::move(id), "RFC 8259, 9", {"refused", keeps("accepted")}, std::move(about));
}

std::vector<Question> make_questions() {
    Question precision =
        open_point("number-precision", "RFC 8259, 6", {"refused", keeps("exact"), keeps("binary64"), "binary32"},
                   "how exactly a number is stored that binary32 cannot hold");
    precision.refusal_from = 18;  // digits: binary64 tells all decimals of 15 apart and needs at most 17
    Question zero =
        open_point("negative-zero", "RFC 8259, 6", {keeps("kept"), "lost"}, "whether -0 keeps its sign");
    zero.refusal_from = never;
    Question map_earlier = open_point("record-map-earlier", "outside RFC 8259", {keeps("replaced"), "merged"},
                                      "whether a map that is decoded into keeps what it held before");
    map_earlier.refusal_from = never;
    std::vector<Question> out{
        open_point("duplicate-names", "RFC 8259, 4",
                   {"refused", "first", "last", keeps("all"), "all-reordered", "gathered", "joined", "merged"},
                   "which of several members with one name counts"),
        open_point("lone-surrogate", "RFC 8259, 8.2",
                   {"refused", keeps("kept"), "replaced", "question-mark", "dropped", "left-escaped"},
                   "how an escaped lone surrogate is read"),
        open_point("nul-character", "RFC 8259, 9", {"refused", keeps("kept")},
                   "whether U+0000 may occur in a string"),
        open_point("number-range", "RFC 8259, 6",
                   {"refused", keeps("exact"), keeps("rounded"), "infinity", "largest"},
                   "how a number beyond int32 or binary64 is read"),
        std::move(precision),
        std::move(zero),
        limit("depth", 17, "how deep arrays and objects may nest"),
        limit("document-size", 1 << 20, "how large a document may be, in bytes"),
        limit("string-length", 1 << 15, "how long a string may be, in bytes"),
        limit("number-length", 64, "how long a number may be, in characters"),
        limit("member-count", 1 << 14, "how many members or elements a container may have"),
        open_point("byte-order-mark", "RFC 8259, 8.1", {"refused", keeps("ignored")},
                   "whether a leading byte order mark is ignored"),
        open_point("record-kind", "outside RFC 8259",
                   {"refused", "converted", "respelled", "shortened", "wrapped", "unwrapped", "appended", "default",
                    "null", "merged"},
                   "what a record's field becomes if the document has a value of another kind there"),
        open_point("record-range", "outside RFC 8259", {"refused", keeps("kept")},
                   "what an integer field becomes if the number is beyond its type"),
        open_point("record-whole-number", "outside RFC 8259", {"refused", keeps("accepted")},
                   "whether an integer field takes a whole number with a fraction or an exponent"),
        open_point("record-null", "outside RFC 8259",
                   {"refused", "default", "earlier", "nan", keeps("null"), "merged"},
                   "what a record's field becomes if the document has null there"),
        open_point("record-absent", "outside RFC 8259", {"refused", "default", "null", "earlier"},
                   "what a record's field becomes if the document does not have it"),
        choice("record-null-written", "outside RFC 8259", {"kept", "left-out", "left-out-optional", "empty"},
               "whether a field without a value is written, as null"),
        choice("record-no-number", "RFC 8259, 10", {"refused", "ill-formed", "null", "text"},
               "how a record's number is written that JSON cannot hold"),
        choice("record-no-text", "RFC 8259, 8.1",
               {"refused", "ill-formed", keeps("kept"), "replaced", "question-mark"},
               "how a record's text is written that UTF-8 cannot hold"),
        open_point("record-list", "outside RFC 8259", {keeps("replaced"), "appended"},
                   "whether a list of a record that is decoded into once more keeps its elements"),
        open_point("record-unknown", "outside RFC 8259", {"refused", keeps("ignored")},
                   "whether a member that is no field of the record is ignored"),
        open_point("record-name-case", "RFC 8259, 8.3",
                   {"refused", "matched", "ignored", "first", "default", "null", "earlier"},
                   "whether a member's name in another case is that of a field"),
        open_point("record-tag", "outside RFC 8259", {"refused", "guessed", "null"},
                   "what a record of several kinds becomes whose tag is absent or names no kind"),
        open_point("record-tag-place", "outside RFC 8259", {"refused", keeps("read")},
                   "whether the tag of a record of several kinds is found behind other members"),
        open_point("record-map-name", "outside RFC 8259", {"refused", keeps("read"), "merged"},
                   "whether a map by number takes a name that is no integer as JSON spells it"),
        open_point("record-map-names-alike", "outside RFC 8259", {"refused", "first", "last", "merged"},
                   "which of two members counts whose names become one number"),
        std::move(map_earlier),
        open_point("record-instant-spelling", "RFC 3339, 5.6", {"refused", keeps("read")},
                   "whether an instant is read that is spelled otherwise than RFC 3339 does"),
        open_point("record-instant-precision", "RFC 3339, 5.6",
                   {"refused", keeps("kept"), "milliseconds", "milliseconds-rounded", "microseconds",
                    "microseconds-rounded", "ticks", "ticks-rounded", "nanoseconds", "nanoseconds-rounded"},
                   "how many digits of a second an instant keeps; a tick is 100 nanoseconds"),
        open_point("record-instant-leap-second", "RFC 3339, 5.7",
                   {"refused", keeps("kept"), "next-second", "second-before", "end-of-second-before"},
                   "what a leap second becomes"),
        open_point("record-no-instant", "RFC 3339, 5.7",
                   {"refused", "carried-over", "last-second", "beginning", "first-century", "last-century",
                    "next-century", "kept"},
                   "what a text becomes that is no instant: too many days carried over, the beginning read"),
        open_point("record-instant-zone", "RFC 3339, 4.4", {"refused", "local", "utc", "zone-of-the-process"},
                   "what an instant without an offset becomes"),
        open_point("record-instant-number", "outside RFC 8259", {"refused", "seconds", "milliseconds"},
                   "what a number becomes where an instant is due"),
        open_point("record-bytes-padding", "RFC 4648, 3.2", {"refused", keeps("read"), "beginning"},
                   "whether bytes in base 64 are read without padding, or with more of it"),
        open_point("record-bytes-alphabet", "RFC 4648, 5", {"refused", keeps("read")},
                   "whether bytes are read that are spelled in the alphabet for URLs"),
        open_point("record-bytes-foreign", "RFC 4648, 3.3", {"refused", "ignored"},
                   "whether characters in bytes are ignored that are none of the alphabet"),
        open_point("record-bytes-spare-bits", "RFC 4648, 3.5", {"refused", "ignored"},
                   "whether bits behind the last byte are ignored that are not zero"),
        open_point("record-bytes-cut", "RFC 4648, 4", {"refused", "beginning"},
                   "whether bytes are read whose last letter is alone"),
        open_point("documents-spaced", "outside RFC 8259", {keeps("all"), "stops", "refused-at-once"},
                   "how many documents are read that follow each other with white space between them"),
        open_point("documents-adjacent", "outside RFC 8259", {keeps("all"), "stops", "refused-at-once"},
                   "how many documents are read that follow each other with nothing between them"),
        choice("documents-separator", "outside RFC 8259",
               {"stops", "skipped", "goes-on", "goes-on-twice", "refused-at-once"},
               "what a text between two documents does that is no white space"),
        choice("documents-after-error", "outside RFC 8259",
               {"stops", "goes-on", "goes-on-twice", "refused-at-once"},
               "whether documents are read after one that is refused"),
        choice("documents-cut", "outside RFC 8259", {"stops", "left-out", "refused-at-once"},
               "whether a last document that is cut is an error"),
        open_point("documents-number-end", "RFC 7464, 2.4", {keeps("taken"), "left-out", "stops"},
                   "whether a number counts that ends with the text, and may be cut"),
        open_point("documents-none", "outside RFC 8259", {keeps("nothing"), "refused-at-once"},
                   "whether a text without a document is an error"),
        open_point("documents-handed-over", "outside RFC 8259",
                   {keeps("at-once"), "one-behind", "two-behind", "three-behind", "stops"},
                   "whether a document is handed over before the stream that it comes from gives more"),
        open_point("encoding", "RFC 8259, 8.1", {"refused", keeps("read")}, "whether UTF-16 or UTF-32 is read"),
        open_point("ill-formed-utf8", "RFC 3629, 3", {"refused", keeps("kept"), "replaced", "dropped"},
                   "how bytes that are not UTF-8 are read"),
        choice("digits-written", "RFC 8259, 6", {"shortest", "more-digits"},
               "whether an encoder writes a binary number with the fewest digits that read back"),
        choice("escapes-written", "RFC 8259, 7",
               {"only-required", "solidus", "long-forms", "beyond-ascii", "line-separators", "delete", "markup"},
               "which characters an encoder escapes without need"),
        choice("second-round-trip", "RFC 8259, 10", {"same-bytes", "same-in-any-order", "other-spelling"},
               "whether a second round trip writes the same value in another order or spelling"),
        extension("comments", "/* */, // and # comments"),
        extension("trailing-comma", "a comma before ] or }"),
        extension("single-quotes", "strings in single quotes"),
        extension("bare-names", "names without quotes"),
        extension("non-finite", "NaN, Infinity and their like"),
        extension("hexadecimal", "hexadecimal numbers"),
        extension("leading-plus", "a plus before a number"),
        extension("bare-point", "a point without digits before or after it"),
        extension("leading-zeros", "numbers with leading zeros"),
        extension("control-in-string", "unescaped control characters in strings"),
        extension("escaped-line-end", "a backslash before a line end in a string"),
        extension("literal-case", "True, NULL and other spellings of the literals"),
        extension("other-space", "white space other than the four characters"),
        extension("missing-commas", "values without a comma between them"),
        extension("extra-commas", "commas where no value is"),
        extension("text-after-end", "anything after the document's end"),
        extension("unknown-escape", "a backslash before a character that needs none"),
    };
    return out;
}

}  // namespace

std::span<const Question> all_questions() {
    static const std::vector<Question> questions = make_questions();
    return questions;
}

const Question& question_named(std::string_view id) {
    for (const Question& question : all_questions())
        if (question.id == id) return question;
    throw std::logic_error("no question of that name: " + std::string(id));
}

std::span<const Cause> all_causes() {
    static const std::vector<Cause> causes{
        {"number/off-by-ulp", "another binary64 than the nearest, a few units in the last place away", "8.5e22",
         "{reads} a number as a neighbour of the nearest binary64"},
        {"number/off-by-ulp-beyond-20-digits", "the same, where IEEE 754 5.12.2 demands no correct rounding",
         "0.500000000000000166533453693773481063544750213623046875",
         "{reads} a number of more than 20 digits as a neighbour of the nearest binary64"},
        {"number/few-digits", "a writer wrote fewer digits than read back to the value", "0.1000000000000000055",
         "{reads} a number with fewer digits than read back to it"},
        {"number/wrong-value", "another number, many units away, by no mistake that is recognised", "1e-310",
         "{reads} a number as another one, many units away"},
        {"number/digits-cut", "the number that the first digits alone give", "0.1234567890123456789",
         "{reads} only the first digits of a number"},
        {"number/became-infinity", "infinity for a number that binary64 can hold", "1e300",
         "{reads} infinity for a number that binary64 can hold"},
        {"number/flushed-to-zero", "zero for a number that binary64 can hold", "5e-324",
         "{reads} zero for a number that binary64 can hold"},
        {"number/saturated", "the largest or smallest value of some type instead", "9223372036854775808",
         "{reads} the largest or smallest value of a type instead of a number"},
        {"number/wrapped", "the value modulo 2^32 or 2^64", "4294967296", "{reads} an integer modulo a power of 2"},
        {"number/truncated-to-integer", "the fraction is gone", "1.5", "{reads} a number without its fraction"},
        {"number/exponent-ignored", "the value without its exponent", "1e2",
         "{reads} a number without its exponent"},
        {"number/sign-lost", "the value without its sign, or with another", "-1",
         "{reads} a number without its sign, or with another"},
        {"number/not-a-number", "NaN", "1", "{reads} NaN instead of a number"},
        {"number/integer-rounded", "an integer type holds a neighbouring integer", "9007199254740993",
         "{reads} an integer as a neighbouring one, as the nearest binary64 does"},
        {"number/inexact-decimal", "a decimal or a number kept as text is not the one written", "0.1",
         "{reads} a decimal as another one"},
        {"number/rounded", "a round trip writes the nearest binary64 instead of the number read",
         "9007199254740993", "writes the nearest binary64 instead of the number it read"},
        {"number/kind", "stored as another kind: integer, binary or decimal", "1.0",
         "{reads} a number as another kind"},
        {"number/spelling", "the same number stored with or without its source text", "1.0",
         "{reads} a number with another spelling"},
        {"number/zero-sign", "the sign of zero", "-0", "{reads} zero with another sign"},
        {"number/became-text", "a string instead of a number", "1", "{reads} a number as a string"},
        {"string/cut-at-nul", "the string ends before its first U+0000", "\"a\\u0000b\"",
         "{reads} a string only up to its first U+0000"},
        {"string/trimmed", "white space at an end of the string is missing", "\" a\"",
         "{reads} a string without the white space at its ends"},
        {"string/cut", "the end of the string is missing", "\"a…\"", "{reads} only the beginning of a string"},
        {"string/not-joined-pair", "a surrogate pair is not joined", "\"\\ud83d\\udd14\"",
         "{reads} a surrogate pair as two characters"},
        {"string/escape-not-undone", "an escape sequence is kept as text", "\"\\n\"", "{reads} an escape as text"},
        {"string/escape-kept-in-places", "an escape sequence is kept as text, where others are undone",
         "\"\\n…\\n\"", "{reads} some escapes as text, and others not"},
        {"string/escape-lost", "an escaped character is missing", "\"\\b\"",
         "{reads} a string without its escaped character"},
        {"string/normalised", "a Unicode normalisation form of the string", "\"e\\u0301\"",
         "{reads} a string in a Unicode normalisation form"},
        {"string/mojibake", "UTF-8 read as single bytes", "\"é\"", "{reads} each byte of UTF-8 as a character"},
        {"string/replaced", "characters that are well-formed were replaced by U+FFFD or ?", "\"🔔\"",
         "{reads} a replacement for a character that is well-formed"},
        {"string/case", "letters in another case", "\"A\"", "{reads} letters in another case"},
        {"string/changed", "another string, by no mistake that is recognised", "\"a\"",
         "{reads} a string as another one"},
        {"string/became-number", "a number instead of a string", "\"1\"", "{reads} a string as a number"},
        {"string/surrogate-changed", "a lone surrogate became something else, by no listed answer", "\"\\ud800\"",
         "{reads} a lone surrogate as something else"},
        {"name/changed", "a member has another name", "{\"a\":1}", "{reads} a member under another name"},
        {"name/cut-at-nul", "a name ends before its first U+0000", "{\"a\\u0000b\":1}",
         "{reads} a name only up to its first U+0000"},
        {"member/lost", "a member is missing", "{\"a\":1,\"b\":2}", "{reads} an object without one of its members"},
        {"member/added", "a member was not in the document", "{}", "{reads} a member that is not there"},
        {"member/values", "the values of one name differ, by no policy that is recognised", "{\"a\":1,\"a\":2}",
         "{reads} other values for a name that occurs twice"},
        {"member/order", "members in another order", "{\"b\":1,\"a\":2}", "{reads} members in another order"},
        {"element/lost", "elements of an array are missing", "[1,2]", "{reads} an array without some elements"},
        {"element/added", "an array has more elements", "[1]", "{reads} elements that are not there"},
        {"container/empty-kind", "an empty array and an empty object distinguished or not", "{}",
         "{reads} an empty array as an empty object, or the reverse"},
        {"instant/fraction-cut", "an instant without some digits of its fraction", "\"1953-04-07T05:30:00.5Z\"",
         "{reads} an instant without the fraction of its second"},
        {"instant/hours-off", "another instant by quarters of an hour, as a wrong offset makes it",
         "\"1953-04-07T06:30:00+01:00\"", "{reads} an instant with another offset"},
        {"instant/days-off", "another instant by whole days, as another calendar makes it",
         "\"1502-06-01T12:00:00Z\"", "{reads} an instant some days off"},
        {"instant/changed", "another instant", "\"1953-04-07T05:30:00Z\"", "{reads} an instant as another one"},
        {"bytes/cut", "the last bytes are missing", "\"QUJD\"", "{reads} bytes without the last ones"},
        {"bytes/changed", "other bytes", "\"QUJD\"", "{reads} other bytes"},
        {"value/null", "null instead of a value", "1", "{reads} null instead of a value"},
        {"value/kind", "a value of another kind", "true", "{reads} a value as another kind"},
        {"value/unset", "a field that was never filled", "{\"a\":1}", "leaves a field unset"},
        {"verdict/refused", "rejected a document that must be accepted", "[1]", "refuses {document}",
         Basis::required, "RFC 8259, 9"},
        {"verdict/scalar-refused", "rejected a document that is a bare scalar, and accepted it inside an array",
         "1", "refuses {document}", Basis::required, "RFC 8259, 9"},
        {"verdict/rest-ignored", "read the document at the beginning of a text and ignored the rest", "[1] x",
         "reads the document at the beginning of a text and ignores the rest"},
        {"verdict/accepted-non-text", "accepted a text that is not a document, by no known extension", "{\"a\" 1}",
         "accepts a text that is no document"},
        {"verdict/accepted-extension", "accepted a listed extension", "[1,]", "accepts an extension of JSON"},
        {"verdict/accepted-ill-formed-utf8", "accepted bytes that are not UTF-8", "\"\\xff\"",
         "accepts a text that is no document"},
        {"verdict/accepted-against-the-sheet", "accepted a document that the sheet says must be rejected", "1",
         "accepts a text that the sheet rejects"},
        {"verdict/accepted-differently", "accepted by some implementations and rejected by others", "[1,]",
         "accepts what others reject"},
        {"pieces/other-verdict", "another verdict on a document that arrives in pieces than on the whole", "[1]",
         "gives another verdict on {document} that arrives in pieces"},
        {"pieces/other-value", "another value of a document that arrives in pieces than of the whole", "[1]",
         "{reads} another value if the document arrives in pieces"},
        {"sequence/rest-lost", "documents of a sequence are left out without an error", "[1] [2]",
         "stops before the end of a sequence of documents, without an error"},
        {"sequence/end-refused", "an error behind the last document of a sequence", "[1]\\n",
         "gives an error behind the last document of a sequence"},
        {"sequence/other-value", "another value of a document in a sequence than the document has", "[1] [2]",
         "{reads} another value of a document in a sequence"},
        {"output/ill-formed", "the written text is not JSON", "\"\\u0000\"", "writes a text that is no document"},
        {"output/not-canonical", "claimed to be in canonical form, but is not", "1.0",
         "writes a text that is not in canonical form"},
        {"round-trip/unstable", "the second round trip differs from the first", "1.0",
         "loses the value in a second round trip"},
        {"outcome/crashed", "the process ended", "[[…]]", "crashes"},
        {"outcome/timed-out", "no answer before the deadline", "[[…]]", "gives no answer before the deadline"},
        {"outcome/out-of-memory", "more resident memory than the limit", "[[…]]",
         "takes more memory than the limit"},
        {"outcome/threw", "a failure that the implementation does not document", "\"\\ud800\"",
         "fails with an undocumented error"},
        {"outcome/exhausted", "the runtime reported no memory, or a stack that is too deep", "[[…]]",
         "runs out of memory or stack"},
        {"outcome/unclear", "a failure and a decoded null cannot be distinguished", "nul",
         "fails in a way that looks like a decoded null"},
        {"outcome/adapter-fault", "the adapter's own code failed; says nothing about the library", "1",
         "is not asked: its adapter fails"},
        {"outcome/broken-reply", "the adapter's reply broke the protocol; says nothing about the library", "1",
         "is not asked: its adapter breaks the protocol"},
        {"outcome/unsteady", "the answer depends on earlier requests", "1",
         "answers otherwise after earlier requests"},
        {"question/undeclared-answer", "a declared answer was not observed", "[[…]]",
         "answers otherwise than declared"},
    };
    return causes;
}

void add_occurrence(std::vector<Occurrence>& occurrences, std::string_view question, std::size_t offset,
                    std::size_t amount) {
    for (Occurrence& occurrence : occurrences) {
        if (occurrence.question != question) continue;
        ++occurrence.count;
        occurrence.amount = std::max(occurrence.amount, amount);
        occurrence.offset = std::min(occurrence.offset, offset);
        return;
    }
    occurrences.push_back({std::string(question), offset, amount, 1});
}

}  // namespace nachklang::json
