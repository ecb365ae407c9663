// The trigger that is inferred for each seeded fault, against the table tests/fault_triggers.tsv: fault, features,
// and whether they are the fault's own.
#pragma once

#include <fmt/format.h>

#include <fstream>
#include <map>
#include <sstream>
#include <string>

#include <nachklang/behaviour.hpp>

namespace fault_triggers {

using namespace nachklang;

struct Row {
    std::string features;  ///< of the largest behaviour, without bounds
    std::string verdict;   ///< own, other, few or none; see the table's head
};

inline const std::map<std::string, Row>& table() {
    static const std::map<std::string, Row> rows = [] {
        std::map<std::string, Row> out;
        std::ifstream in(SOURCE_FOLDER "/tests/fault_triggers.tsv");
        for (std::string line; std::getline(in, line);) {
            if (line.empty() || line.front() == '#') continue;
            std::istringstream fields(line);
            std::string fault, features, verdict;
            std::getline(fields, fault, '\t');
            std::getline(fields, features, '\t');
            std::getline(fields, verdict, '\t');
            out[fault] = {features, verdict};
        }
        return out;
    }();
    return rows;
}

inline std::string joined(const std::vector<std::string>& features) {
    std::string out;
    for (const std::string& feature : features)
        out += (out.empty() ? "" : " and ") + feature.substr(0, feature.find(">="));
    return out;
}

/// The features of the behaviour with the most cases, without bounds, and the sentences of all.
struct Inferred {
    std::string features, sentences;
    std::size_t count = 0;
};
inline Inferred inferred(const std::vector<Behaviour>& behaviours, const std::vector<AnswerGiven>& answers,
                         std::string_view found_as) {
    Inferred out;
    for (const AnswerGiven& a : answers) {
        if (a.question + ":" + a.answer != found_as) continue;
        out.count = 1;
        out.features = a.otherwise ? "otherwise" : a.cases == a.asked ? "always" : joined(a.trigger.features);
        out.sentences = fmt::format("\n  {} if {} ({} of {})", found_as, a.trigger.clause, a.cases, a.asked);
    }
    if (found_as.find(':') != std::string_view::npos) return out;
    std::size_t most = 0;
    for (const Behaviour& b : behaviours) {
        if (b.kind == FindingKind::open) continue;
        ++out.count;
        out.sentences += fmt::format("\n  {} ({} of {})", b.sentence, b.trigger.caught, b.trigger.matching);
        if (b.cases.size() <= most) continue;
        most = b.cases.size();
        out.features = joined(b.trigger.features);
    }
    return out;
}

/// A row that differs prints the line that the table should hold.
inline void check(const std::string& fault, const std::vector<Behaviour>& behaviours,
                  const std::vector<AnswerGiven>& answers, std::string_view found_as) {
    const Inferred found = inferred(behaviours, answers, found_as);
    const auto row = table().find(fault);
    const std::string known = row == table().end() ? "?" : row->second.features;
    EXPECT_EQ(known, found.features) << "TRIGGER\t" << fault << "\t" << found.features << "\t" << found.count
                                     << found.sentences;
}

}  // namespace fault_triggers
