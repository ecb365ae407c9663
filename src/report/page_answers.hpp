// What implementations answered to one case, as the page shows it: values as trees, and where refusals point.
#pragma once

#include <nlohmann/json.hpp>

#include <string_view>
#include <vector>

#include <nachklang/report.hpp>

namespace nachklang::page {

using Json = nlohmann::ordered_json;

/// The value that a case means: of a case for encoders its value, else what its sheet or the reference reader says.
/// Nothing if the document is refused, or too long to be shown as a tree.
std::optional<Trace> meant_value(const Case& c);

/// A value as lines: [depth, text], and a third element where it is not `meant`, which says what that holds there.
/// What only `meant` holds comes in `lost`; what is cut, as a number, in `more`.
Json tree_json(const Format& format, const Trace& value, const Trace* meant);

/// A refusal of one subject.
struct Refusal {
    std::size_t subject = 0;
    const ReportedResult* result = nullptr;
};
/// Refusals with the same message at the same place, together: the place as an index into the text that the page
/// shows (in UTF-16 units; null where it is none of the document that is shown), as the library gave it, the
/// message, and the subjects.
Json refusals_json(std::string_view document, std::size_t shown, const std::vector<Refusal>& refusals);

}  // namespace nachklang::page
