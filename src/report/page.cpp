// The page: a run's behaviours and the documents of their cases as JSON, with the script that shows them. Documents
// and messages are hostile. The JSON holds no `<`, the script puts everything in as text, and a content policy lets
// nothing run that does not carry the nonce, which is a digest of the data: no document in it can know it.
#include <fmt/format.h>

#include <map>
#include <nlohmann/json.hpp>

#include <nachklang/report.hpp>

#include "report/page/sources.hpp"

namespace nachklang {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t shown_bytes = 600, hex_bytes = 200;

/// Numbers the cases that behaviours name: each is in the page once.
class CaseTable {
  public:
    explicit CaseTable(std::span<const Case> cases) {
        for (const Case& c : cases) known_.emplace(std::pair(std::string(c.format->name()), c.name), &c);
    }
    std::size_t index_of(const std::string& format, const std::string& name) {
        const auto [at, is_new] = index_.emplace(std::pair(format, name), list_.size());
        if (is_new) list_.push_back(entry(format, name));
        return at->second;
    }
    Json take() { return std::move(list_); }

  private:
    Json entry(const std::string& format, const std::string& name) const {
        Json out{{"format", format}, {"name", name}};
        const auto found = known_.find({format, name.substr(0, name.find(':'))});
        if (found == known_.end()) return out;
        const Case& c = *found->second;
        const std::string body(content_of(c));
        const std::string part = body.substr(0, shown_bytes);
        out["size"] = body.size();
        out["shown"] = part.size();
        out["text"] = text::printable(part, true);
        if (text::first_ill_formed(part)) out["hex"] = text::to_hex(part.substr(0, hex_bytes));
        out["shipped"] = c.source.rfind(".toml:") != std::string::npos;
        if (c.stance) out["stance"] = name_of(*c.stance);
        if (!c.clause.empty()) out["clause"] = c.clause;
        if (!c.why.empty()) out["why"] = c.why;
        return out;
    }
    std::map<std::pair<std::string, std::string>, const Case*> known_;
    std::map<std::pair<std::string, std::string>, std::size_t> index_;
    Json list_ = Json::array();
};

Json behaviour_json(const BehaviourRecord& b, CaseTable& table) {
    Json cases = Json::array();
    for (const std::string& name : b.cases) cases.push_back(table.index_of(b.format, name));
    return {{"format", b.format},     {"implementation", b.implementation},
            {"modes", b.modes},       {"side", b.side},
            {"cause", b.cause},       {"clause", b.clause},
            {"gravity", b.gravity},   {"failing", b.failing},
            {"sentence", b.sentence}, {"detail", b.detail},
            {"cases", cases},         {"witness", table.index_of(b.format, b.witness)},
            {"peers", b.peers},       {"engines", b.engines},
            {"purpose", b.purpose}};
}

Json implementations_json(const ReportInput& input) {
    Json out = Json::array();
    std::string last;
    for (const ReportedImplementation& i : input.implementations) {
        const std::string name = i.entry.implementation.substr(0, i.entry.implementation.find('/'));
        if (name != last) out.push_back({{"name", name}, {"version", i.entry.version}, {"engine", i.entry.engine}});
        last = name;
    }
    return out;
}

/// JSON that may stand in an element of HTML: no tag, comment or line end of a script begins in it.
std::string safe_json(const Json& data) {
    std::string out;
    for (const char c : data.dump(-1, ' ', true))
        if (c == '<')
            out += "\\u003c";
        else
            out += c;
    return out;
}

}  // namespace

std::string page_report(const ReportInput& input, std::span<const Case> cases) {
    CaseTable table(cases);
    Json behaviours = Json::array();
    for (const BehaviourRecord& b : input.behaviours) behaviours.push_back(behaviour_json(b, table));
    const std::string data = safe_json({{"interrupted", input.interrupted},
                                        {"implementations", implementations_json(input)},
                                        {"behaviours", std::move(behaviours)},
                                        {"cases", table.take()}});
    const std::map<std::string_view, std::string> parts{{"@NONCE@", digest_of(data).hex()},
                                                        {"@STYLE@", std::string(page::style)},
                                                        {"@SCRIPT@", std::string(page::script)},
                                                        {"@DATA@", data}};
    std::string out;
    for (std::string_view rest = page::html; !rest.empty();) {
        const auto at = rest.find('@');
        out += rest.substr(0, at);
        rest.remove_prefix(std::min(rest.size(), at));
        if (rest.empty()) break;
        const std::string_view mark = rest.substr(0, rest.find('@', 1) + 1);
        out += parts.at(mark);
        rest.remove_prefix(mark.size());
    }
    return out;
}

}  // namespace nachklang
