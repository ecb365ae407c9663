// Features of JSON texts and values: what a library's mistake may depend on.
#pragma once

#include <span>
#include <string_view>
#include <vector>

#include <nachklang/format.hpp>

namespace nachklang::json {

std::span<const Feature> all_features();
std::vector<FeatureValue> features_of(std::string_view document);
std::vector<FeatureValue> features_of_value(const Trace& value);

}  // namespace nachklang::json
