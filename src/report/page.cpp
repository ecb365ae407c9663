// The page: a run's behaviours, the documents of their cases and what was answered, as JSON, with the script that
// shows them. Documents and messages are hostile. The JSON is compressed (gzip, RFC 1952) and written in base64, so
// that nothing of it is markup or script; the script puts everything in as text, and a content policy lets nothing
// run that does not carry the nonce, which is a digest of the data: no document in it can know it.
#include <fmt/format.h>
#include <zlib.h>
#include <boost/archive/iterators/base64_from_binary.hpp>
#include <boost/archive/iterators/transform_width.hpp>

#include <map>
#include <new>
#include <stdexcept>

#include <nachklang/report.hpp>

#include "report/page/sources.hpp"
#include "report/page_answers.hpp"
#include "report/page_data.hpp"

namespace nachklang {
namespace {

/// A member of gzip, without a time or a name in it: the same text gives the same bytes.
std::string in_gzip(std::string_view text) {
    constexpr int gzip = 16 + MAX_WBITS, memory_level = 9;
    z_stream stream{};
    if (deflateInit2(&stream, Z_BEST_COMPRESSION, Z_DEFLATED, gzip, memory_level, Z_DEFAULT_STRATEGY) != Z_OK)
        throw std::bad_alloc();
    std::string out(deflateBound(&stream, text.size()), '\0');
    stream.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(text.data()));  // zlib reads it alone
    stream.avail_in = static_cast<uInt>(text.size());
    stream.next_out = reinterpret_cast<Bytef*>(out.data());
    stream.avail_out = static_cast<uInt>(out.size());
    const int end = deflate(&stream, Z_FINISH);
    out.resize(stream.total_out);
    deflateEnd(&stream);
    if (end != Z_STREAM_END) throw std::runtime_error("the data of a page could not be compressed");
    return out;
}

/// RFC 4648, 4.
std::string in_base64(std::string bytes) {
    namespace iterators = boost::archive::iterators;
    using Digits = iterators::base64_from_binary<iterators::transform_width<const char*, 6, 8>>;
    const std::size_t padding = (3 - bytes.size() % 3) % 3;
    bytes.append(padding, '\0');
    std::string out(Digits(bytes.data()), Digits(bytes.data() + bytes.size()));
    out.replace(out.size() - padding, padding, padding, '=');
    return out;
}

std::string packed(const page::Json& data) {
    return in_base64(in_gzip(data.dump(-1, ' ', true)));
}

/// What was answered to each case, taken out of the cases: the first view needs none of it.
page::Json take_answers(page::Json& data) {
    auto out = page::Json::array();
    for (auto& entry : data["cases"]) {
        auto answers = page::Json::object();
        for (const char* key : {"groups", "letters", "meant", "refusals"}) {
            const auto found = entry.find(key);
            if (found == entry.end()) continue;
            answers[key] = std::move(*found);
            entry.erase(key);
        }
        out.push_back(std::move(answers));
    }
    return out;
}

}  // namespace

Checked<std::string> page_report(const ReportInput& input, std::span<const Case> cases, const PageExtras& extras) {
    std::string data, answers;
    try {
        auto all = page::data_of(input, cases, extras);
        answers = packed(take_answers(all));
        data = packed(all);
    } catch (const std::invalid_argument& error) {
        return Problem{"the page", error.what(), "write the file with these commands"};
    }
    const std::map<std::string_view, std::string> parts{{"@NONCE@", digest_of(data + answers).hex()},
                                                        {"@STYLE@", std::string(page::style)},
                                                        {"@SCRIPT@", std::string(page::script)},
                                                        {"@DATA@", data},
                                                        {"@ANSWERS@", answers}};
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
