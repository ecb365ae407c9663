// What is wrong with a call or a file, and what to do about it: a value, never an exception.
#pragma once

#include <stdexcept>
#include <string>
#include <utility>
#include <variant>

namespace nachklang {

/// One line for the user: where, what, and what to do.
struct Problem {
    std::string where;   ///< a file with its line, an option, an implementation
    std::string what;    ///< what is wrong
    std::string advice;  ///< what to do
    [[nodiscard]] std::string line() const { return where + ": " + what + (advice.empty() ? "" : "; " + advice); }
};

/// A value, or the problem that kept it from coming about.
template <class T>
class Checked {
  public:
    Checked(T value) : content_(std::move(value)) {}
    Checked(Problem problem) : content_(std::move(problem)) {}
    [[nodiscard]] bool ok() const { return content_.index() == 0; }
    [[nodiscard]] T& value() { return std::get<0>(content_); }
    [[nodiscard]] const T& value() const { return std::get<0>(content_); }
    [[nodiscard]] const Problem& problem() const { return std::get<1>(content_); }

  private:
    std::variant<T, Problem> content_;
};

/// The system refused what every run needs: processes, descriptors, memory, room for temporary files. Says nothing
/// about an implementation, so a run ends with it.
class MachineFault : public std::runtime_error {
    using std::runtime_error::runtime_error;
};
/// A run was cancelled while an implementation was under way.
class Cancelled : public std::runtime_error {
  public:
    Cancelled() : std::runtime_error("cancelled") {}
};

}  // namespace nachklang
