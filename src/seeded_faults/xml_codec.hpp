// The codec with seeded faults for XML: a plain decoder and writer on the second recogniser, with switches for
// realistic mistakes.
//
// A fault is a row: a check that is left out, a sound thing that is refused, a step that is skipped, a node that is
// spoilt, or a character that is not escaped. With no fault on, nothing is to be found.
#pragma once

#include <span>

#include <nachklang/adapter_markup.hpp>

#include "oracle/xml_recogniser.hpp"
#include "seeded_faults/arrival.hpp"
#include "seeded_faults/xml_records.hpp"
#include "seeded_faults/xml_sequences.hpp"

namespace seeded_faults {

using oracle::print_xml_trace;
using oracle::recognise_xml;
using oracle::XmlAttribute;
using oracle::XmlHabits;
using oracle::XmlNode;
using oracle::XmlRefused;

struct XmlHooks {
    XmlHabits habits{};
    std::set<char> unescaped_in_text{}, unescaped_in_values{};  ///< when writing
    std::function<std::string(std::string document)> write_document{};
    Arrival arrival{};  ///< of a document in pieces
    XmlSequenceMistakes sequence{};
    XmlRecordMistakes record{};        ///< of a codec of records, which has no other hook
    std::set<std::string> left_out{};  ///< names of steps that are left out when a value is encoded
};

struct XmlFault {
    std::string name;
    std::string mistake;   ///< in a few words
    std::string found_as;  ///< a cause, or question:answer
    std::function<void(XmlHooks&)> install;
    std::string also{};  ///< another cause that the same mistake has
};
std::span<const XmlFault> xml_faults();

class XmlCodec final : public nachklang::adapter::Codec {
  public:
    /// `fault` is a name of the table, or empty.
    explicit XmlCodec(std::string_view fault = {});
    [[nodiscard]] nachklang::adapter::Description describe() const override;
    nachklang::adapter::Reply decode(std::string_view format, std::string_view mode, std::string_view document,
                                     nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply round_trip(std::string_view format, std::string_view mode,
                                         std::string_view document) override;
    nachklang::adapter::Reply bind(std::string_view format, std::string_view mode, std::string_view record,
                                   std::string_view document, nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply bind_encode(std::string_view format, std::string_view mode, std::string_view record,
                                          std::string_view trace) override;
    nachklang::adapter::Reply bind_round_trip(std::string_view format, std::string_view mode,
                                              std::string_view record, std::string_view document) override;
    nachklang::adapter::Reply pieces(std::string_view format, std::string_view mode, const Pieces& pieces,
                                     nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply sequence(std::string_view format, std::string_view mode, std::string_view text,
                                       nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply open_stream(std::string_view format, std::string_view mode, std::string_view text,
                                          nachklang::adapter::TraceOut& out) override;
    nachklang::adapter::Reply encode(std::string_view format, std::string_view mode,
                                     std::string_view trace) override;

  private:
    nachklang::adapter::Reply shown(std::string_view document, bool root_alone,
                                    nachklang::adapter::TraceOut& out) const;

    std::string fault_;
    XmlHooks hooks_;
};

}  // namespace seeded_faults
