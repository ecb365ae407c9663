// The results of a run that show one answer to an open question, or one cause: what `run --question` and
// `run --cause` print.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include <nachklang/campaign.hpp>
#include <nachklang/problem.hpp>

#include "ui/terminal.hpp"

namespace tool {

/// What is searched; an empty text is any.
struct Wanted {
    std::string question, answer, cause;
    [[nodiscard]] bool everything() const { return question.empty() && cause.empty(); }
};

/// What is wrong with the words of a search: a question or an answer that neither a format nor the sheet of a case
/// has, or a cause that no format has.
std::optional<nachklang::Problem> check_wanted(const Wanted& wanted, std::span<const nachklang::Case> cases);

/// Collects what matches, in the order of the run.
class Search final : public nachklang::ResultSink {
  public:
    explicit Search(Wanted wanted) : wanted_(std::move(wanted)) {}
    void chunk(const nachklang::ChunkReport& report) override;
    /// Each implementation with its cases, and a command that repeats the first one.
    void print(Colour colour) const;

  private:
    struct Found {
        std::string implementation, operation, case_name, what, repeat;
    };
    Wanted wanted_;
    std::vector<Found> found_;
};

}  // namespace tool
