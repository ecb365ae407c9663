// What commands print with --json: one JSON object a line (docs/records.md).
#pragma once

#include <string>

#include <nachklang/experiments.hpp>

namespace tool {

struct Missing;

std::string line_of(const nachklang::Subject& subject);
std::string line_of(const Missing& missing);
std::string line_of(const nachklang::Card& card);
std::string line_of(const nachklang::LimitFound& found);
std::string line_of(const nachklang::Growth& growth);
std::string line_of(const nachklang::Crossing& crossing);
std::string line_of(const nachklang::NumberSurvey& survey);
std::string line_of(const nachklang::PiecesSurvey& survey);
std::string line_of(const nachklang::RoundTripSurvey& survey);
/// A case as `corpus list` shows it, without its document.
std::string line_of(const nachklang::Case& c);

}  // namespace tool
