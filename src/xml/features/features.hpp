// Features of XML texts and values: what a library's mistake may depend on.
#pragma once

#include <span>
#include <string_view>
#include <vector>

#include <nachklang/format.hpp>

namespace nachklang::xml {

/// A rule of the grammar, by the words that end a reader's clause.
struct BrokenRule {
    std::string_view clause_end, feature;
};
std::span<const BrokenRule> broken_rules();
std::span<const Feature> all_features();
std::vector<FeatureValue> features_of(std::string_view document);
std::vector<FeatureValue> features_of_value(const Trace& value);

}  // namespace nachklang::xml
