// The page: a run's behaviours and the documents of their cases as JSON, with the script that shows them. Documents
// and messages are hostile. The JSON holds no `<`, the script puts everything in as text, and a content policy lets
// nothing run that does not carry the nonce, which is a digest of the data: no document in it can know it.
#include <fmt/format.h>

#include <map>
#include <stdexcept>

#include <nachklang/report.hpp>

#include "report/page/sources.hpp"
#include "report/page_data.hpp"

namespace nachklang {
namespace {

/// JSON that may stand in an element of HTML: no tag, comment or line end of a script begins in it.
std::string safe_json(const nlohmann::ordered_json& data) {
    std::string out;
    for (const char c : data.dump(-1, ' ', true))
        if (c == '<')
            out += "\\u003c";
        else
            out += c;
    return out;
}

}  // namespace

Checked<std::string> page_report(const ReportInput& input, std::span<const Case> cases, const PageExtras& extras) {
    std::string data;
    try {
        data = safe_json(page::data_of(input, cases, extras));
    } catch (const std::invalid_argument& error) {
        return Problem{"the page", error.what(), "write the file with these commands"};
    }
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
