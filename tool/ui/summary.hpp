// The summary of a run, on one screen.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include <nachklang/config.hpp>
#include <nachklang/experiments.hpp>

#include "ui/terminal.hpp"

namespace tool {

/// Counts a run as it goes; nothing of the documents is kept.
class Summary final : public nachklang::ResultSink {
  public:
    void chunk(const nachklang::ChunkReport& report) override;
    void incident(const nachklang::IncidentReport& report) override;
    void begin(const nachklang::RunHeader& header) override;
    void end(const nachklang::RunEnd& how) override;
    /// The time of each implementation, the longest first, then the seconds that storing took.
    void print_times(std::optional<double> storing, Colour colour) const;
    /// Implementations by aspects, findings by cause if they are asked for, disagreements by cause.
    void print(Colour colour, bool by_cause) const;
    /// Every finding that is not `conforms`, `open`, `unsupported` or `not-asked`, with the line that repeats it.
    void list(Colour colour) const;
    [[nodiscard]] bool failing(const std::set<std::string>& fail_on) const;

  private:
    struct Counts {
        std::size_t asked = 0, failing = 0, permitted = 0, open = 0, unjudged = 0, not_asked = 0;
    };
    struct Group {
        std::set<std::string> cases, implementations;
        std::string example, repeat;
    };
    struct Listed {
        std::string implementation, operation, finding, basis, cause, detail, repeat;
        bool declared = false;
        std::string excused;  // the reason
        bool failing = false;
    };
    /// All aspects if they fit the terminal, else those in which anything departs.
    [[nodiscard]] std::set<std::string> aspects_that_fit() const;
    static void print_groups(const char* title, const std::map<std::string, Group>& groups, const Style& style);

    std::map<std::string, std::map<std::string, Counts>> grid_;  // implementation, aspect
    std::vector<std::string> order_;                             // implementations as they come
    std::set<std::string> aspects_;
    std::map<std::string, Group> findings_, disagreements_, advice_;
    std::map<std::string, std::size_t> kinds_;
    std::vector<Listed> listed_;
    std::map<std::string, std::vector<std::string>> incidents_;             // by implementation
    std::map<std::pair<std::string, std::string>, std::size_t> not_asked_;  // implementation, why
    std::map<std::pair<std::string, std::string>, std::size_t> excused_;    // implementation, reason
    std::vector<std::pair<std::string, nachklang::Excuse>> excuses_;        // implementation
    std::vector<std::string> subjects_;
    std::vector<std::pair<double, std::string>> seconds_;  // the longest first
    std::size_t results_ = 0;
};

/// "1,024", "1,000,000 and more", "512 at least": the largest amount found, in a search up to `most`.
std::string shown_amount(const nachklang::LimitFound& found, std::size_t most);

}  // namespace tool
