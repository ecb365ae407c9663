// What the page shows, as JSON.
#pragma once

#include <nlohmann/json.hpp>

#include <nachklang/report.hpp>

namespace nachklang::page {

/// See data.ts for its shape. A line of `extras` that is no record of a view throws std::invalid_argument.
nlohmann::ordered_json data_of(const ReportInput& input, std::span<const Case> cases, const PageExtras& extras);

}  // namespace nachklang::page
