// Cases, outcomes and findings in a few words, for the tests of judge and comparison.
#pragma once

#include <stdexcept>
#include <string>

#include <nachklang/compare.hpp>

namespace judging {

using namespace nachklang;

inline Case document_case(std::string document, const char* format = "json") {
    return case_of_document("test", "x", *find_format(format), std::move(document));
}

inline Outcome outcome(OutcomeKind kind, std::string body = {}) {
    Outcome out;
    out.kind = kind;
    if (kind == OutcomeKind::accepted && !body.empty()) {
        out.trace = Trace::parse(body + "\n");
        if (!out.trace) throw std::runtime_error("no trace: " + body);
    } else {
        out.body = std::move(body);
    }
    return out;
}

inline Finding judged(const Case& c, const Outcome& o, Subject subject = {}) {
    const Expectation expectation = expectation_of(c, subject.settings);
    return judge({c, expectation, subject, Operation::decode, o});
}

inline std::string in_words(const Finding& f) {
    std::string out(name_of(f.kind));
    if (f.basis) out += " " + std::string(name_of(*f.basis));
    if (!f.cause().empty()) out += " " + f.cause();
    for (const GivenAnswer& a : f.answers) out += " " + a.question + "=" + a.answered;
    return out;
}

inline constexpr auto A = OutcomeKind::accepted;
inline constexpr auto R = OutcomeKind::rejected;

}  // namespace judging
