// The XML reader and the second recogniser on one text; shared by the exhaustive test and the fuzzer.
#pragma once

#include <algorithm>
#include <optional>
#include <string>
#include <string_view>

#include <nachklang/xml.hpp>

#include "oracle/xml_recogniser.hpp"

/// Documents that the recogniser does not support: its refusal means nothing.
inline bool beyond_the_recogniser(const nachklang::xml::Reading& reading) {
    return !reading.unreadable_because.empty() ||
           std::any_of(reading.occurrences.begin(), reading.occurrences.end(), [](const nachklang::Occurrence& t) {
               return t.question == "encoding" || t.question == "undeclared-entity";
           });
}

/// Empty if both agree.
inline std::string disagreement(std::string_view text) {
    const nachklang::xml::Reading reading = nachklang::xml::read(text);
    if (beyond_the_recogniser(reading)) return "";
    std::optional<std::string> trace;
    std::string why = "its first character";
    if (oracle::may_begin_xml(text)) {
        try {
            trace = oracle::print_xml_trace(oracle::recognise_xml(text));
        } catch (const oracle::XmlRefused& refused) {
            why = refused.what();
        }
    }
    const bool accepted = !reading.rejection && !reading.namespace_rejection;
    if (accepted != trace.has_value()) {
        const auto& rejection = reading.rejection ? reading.rejection : reading.namespace_rejection;
        return accepted ? "only the reader accepts: " + why : "only the recogniser accepts: " + rejection->message;
    }
    if (accepted && reading.trace.text() != *trace) return "another value: " + *trace;
    return "";
}

/// Empty if vector code and scalar code give the same reading.
inline std::string differing_instructions(std::string_view text) {
    using namespace nachklang;
    const xml::Reading scalar = xml::read(text, {}, xml::Instructions::scalar), vector = xml::read(text);
    const auto differ = [](const std::optional<Rejection>& a, const std::optional<Rejection>& b) {
        return a.has_value() != b.has_value() || (a && (a->position != b->position || a->message != b->message));
    };
    if (differ(scalar.rejection, vector.rejection)) return "another verdict or position";
    if (differ(scalar.namespace_rejection, vector.namespace_rejection)) return "another verdict on namespaces";
    if (!scalar.rejection && scalar.unreadable_because.empty() && scalar.trace.text() != vector.trace.text())
        return "another value";
    return "";
}
