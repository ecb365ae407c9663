// The codec with seeded faults: a plain decoder and encoder on the second recogniser, with switches for realistic
// mistakes.
//
// A fault is a row over a few hooks; adding one is adding a row. With no fault on, nothing is to be found.
#pragma once

#include <functional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/adapter.hpp>

#include "oracle/json_recogniser.hpp"
#include "seeded_faults/arrival.hpp"
#include "seeded_faults/record_writer.hpp"
#include "seeded_faults/records.hpp"
#include "seeded_faults/sequences.hpp"

namespace seeded_faults {

using oracle::Kind;
using oracle::Leniency;
using oracle::Member;
using oracle::recognise;
using oracle::Recognised;
using oracle::Value;

/// A number as the codec stores it: a line of a trace, and the text that it writes.
struct StoredNumber {
    std::string trace, text;
};

/// A string's token as the codec writes it.
std::string quoted(const std::string& text);
/// Whether bytes are UTF-8, by the recogniser's word.
bool is_utf8(const std::string& text);

/// Where a mistake can be made.
struct Hooks {
    Leniency leniency{};
    std::size_t deepest = 1000;
    std::size_t crash_deeper_than = static_cast<std::size_t>(-1);
    std::function<StoredNumber(const std::string& spelled, StoredNumber stored)> number{};
    std::function<std::string(const Value& string)> string{};
    std::function<std::string(const Value& name)> name{};
    std::function<void(Value& container)> members{};  ///< after its children are done
    std::function<bool(const Value& root)> refuses{};
    std::function<std::string(const std::string& text)> write_string{};  ///< the whole token
    std::function<std::string(std::string document)> write_document{};
    std::function<std::string(double)> write_double{};  ///< of a value to be encoded
    Arrival arrival{};                                  ///< of a document in pieces
    RecordMistakes record{};                            ///< of a decoder into records, which has no other hook
    RecordWritingMistakes record_writing{};             ///< of an encoder of records, the same
    Splitting documents = documents_of;                 ///< of a sequence
    bool refusal_ends = false;           ///< a document that is refused ends a sequence as its end does
    bool refuses_last_line_end = false;  ///< of a sequence
    bool one_behind = false;             ///< of a stream: a document is handed over when the next one begins
    bool closes_what_is_open = false;    ///< half a document of a stream is handed over
    bool state_kept_after_error = false;
    bool writes_stray_bytes = false;
};

/// A fault, and what the corpus must find when it is on: a cause, or "question:answer".
struct Fault {
    std::string name;
    std::string mistake;  ///< in a few words
    std::string found_as;
    std::function<void(Hooks&)> install;
    std::string also{};  ///< another cause that the same mistake has
};
std::span<const Fault> json_faults();

class JsonCodec final : public nachklang::adapter::Codec {
  public:
    /// `fault` is a name of the table, or empty.
    explicit JsonCodec(std::string_view fault = {});
    [[nodiscard]] nachklang::adapter::Description describe() const override;
    nachklang::adapter::Reply decode(std::string_view format, std::string_view mode, std::string_view document,
                                     nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply round_trip(std::string_view format, std::string_view mode,
                                         std::string_view document) override;
    nachklang::adapter::Reply pieces(std::string_view format, std::string_view mode, const Pieces& pieces,
                                     nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply bind(std::string_view format, std::string_view mode, std::string_view record,
                                   std::string_view document, nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply bind_encode(std::string_view format, std::string_view mode, std::string_view record,
                                          std::string_view trace) override;
    nachklang::adapter::Reply bind_round_trip(std::string_view format, std::string_view mode,
                                              std::string_view record, std::string_view document) override;
    nachklang::adapter::Reply sequence(std::string_view format, std::string_view mode, std::string_view text,
                                       nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply open_stream(std::string_view format, std::string_view mode, std::string_view text,
                                          nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply encode(std::string_view format, std::string_view mode,
                                     std::string_view trace) override;

  private:
    nachklang::adapter::Reply parse(std::string_view document, Value& value);
    std::string fault_;
    Hooks hooks_;
    bool poisoned_ = false;
};

}  // namespace seeded_faults
