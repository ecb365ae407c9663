// A case with what is expected of it as one line of JSON, for runners of other languages (docs/sheets.md).
#include <nlohmann/json.hpp>

#include <nachklang/store.hpp>

namespace nachklang {
namespace {

using Json = nlohmann::ordered_json;

Json trace_or_null(const std::optional<Trace>& trace) {
    return trace ? Json(std::string(trace->text())) : Json(nullptr);
}

Json text_or_null(const std::string& text) {
    return text.empty() ? Json(nullptr) : Json(text::in_utf8(text));
}

}  // namespace

std::string line_of(const Case& c) {
    const Expectation expectation = expectation_of(c);
    Json out;
    out["corpus"] = text_or_null(c.corpus);
    out["case"] = text_or_null(c.name);
    out["format"] = c.format->name();
    out["stance"] = name_of(expectation.stance);
    out["clause"] = text_or_null(expectation.clause);
    out["why"] = text_or_null(c.why);
    if (c.document) {
        const bool is_text = !text::first_ill_formed(*c.document);
        out["document"] = is_text ? Json(*c.document) : Json(nullptr);
        if (!is_text) out["document_hex"] = text::to_hex(*c.document);
    } else {
        out["encode"] = std::string(c.value->text());
    }
    if (!c.record.empty()) out["record"] = c.record;
    if (c.sequence) out["sequence"] = true;
    if (c.stays_open) out["stays_open"] = true;
    out["value"] = trace_or_null(expectation.value);
    out["answers"] = Json::array();
    for (const Answer& a : expectation.answers)
        out["answers"].push_back({{"question", a.question}, {"answer", a.name}, {"value", trace_or_null(a.trace)}});
    if (!expectation.unreadable_because.empty()) out["not_judged"] = expectation.unreadable_because;
    return out.dump();
}

}  // namespace nachklang
