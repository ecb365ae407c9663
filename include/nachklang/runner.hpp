// Asking implementations: the configuration, the adapter protocol (version 1), and what comes back.
//
// Implementations run outside the process; the in-process way goes through the same interface (Executor). an
// Executor is used from one thread at a time; several may run side by side.
#pragma once

#include <chrono>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <shared_mutex>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/adapter.hpp>
#include <nachklang/format.hpp>
#include <nachklang/problem.hpp>

namespace nachklang {

/// How much an adapter shows.
enum class Reach : std::uint8_t { verdict, round_trip, trace };
std::string_view name_of(Reach reach);

/// One [[implementation]] of a configuration.
struct Implementation {
    std::string name;
    Reach reach = Reach::trace;
    std::vector<std::string> command;
    std::vector<std::string> formats;
    double deadline_s = 5;         ///< a request
    double start_s = 20;           ///< until the hello
    std::size_t memory_mb = 2048;  ///< resident, of the process and its children
    std::vector<int> rejected_status{1};
    std::vector<std::pair<std::string, std::string>> declares;  ///< question, answer
    std::vector<std::string> packages;                          ///< Debian's, that it needs
    std::string set;                          ///< of a shipped one, how dear it is: cheap, middle, all
    std::vector<std::string> requires_files;  ///< files that are there where it is installed
    std::string needs;                        ///< what installs it, in words
    std::string where;                        ///< file and line of the entry
};

/// One [[corpus]] of a configuration.
struct CorpusEntry {
    std::string folder;
    std::vector<std::pair<std::string, std::string>> rules;  ///< glob, stance
    std::string where;
};

struct Configuration {
    std::vector<Implementation> implementations;
    std::vector<CorpusEntry> corpora;
    bool ships_implementations = true;                 ///< the shipped list applies too
    std::vector<std::string> shipped_implementations;  ///< only these of it; empty: all
    bool ships_corpora = true;
};
/// Reads a configuration. In commands `{adapters}` stands for `adapters_folder` and `{built}` for `built_folder`;
/// relative folders count from the configuration's own.
Checked<Configuration> load_configuration(const std::string& file, const std::string& adapters_folder,
                                          const std::string& built_folder);

/// Whether the first word of a command can be run, and the scripts it names and the files it requires are there;
/// otherwise what is missing.
std::optional<std::string> missing_of(const Implementation& implementation);

enum class Operation : std::uint8_t { decode, encode, round_trip };
std::string_view name_of(Operation operation);

/// One implementation in one mode: what findings are about.
struct Subject {
    Implementation implementation;
    std::string mode;             ///< empty: it has none
    std::string version, engine;  ///< as the hello tells them; the engine is its name where it stands on none
    std::map<std::string, std::set<std::string>> operations;  ///< by format
    CannotRepresent cannot_represent;
    Settings settings;
    std::string failed_hello;  ///< not empty: it runs and says no hello
    [[nodiscard]] std::string name() const {
        return mode.empty() ? implementation.name : implementation.name + "/" + mode;
    }
    [[nodiscard]] bool does(std::string_view format, Operation operation) const;
};

enum class OutcomeKind : std::uint8_t {
    accepted,
    rejected,
    threw,
    exhausted,
    unclear,
    unsupported,
    crashed,
    timed_out,
    out_of_memory,
    broken_reply,
    unsteady
};
std::string_view name_of(OutcomeKind kind);
/// Whether an implementation gave this answer itself, rather than failing to.
bool is_answer(OutcomeKind kind);

struct Request {
    Operation operation = Operation::decode;
    const Format* format = nullptr;
    std::shared_ptr<const std::string> body;
    bool show = true;
};

/// What happened to one request.
struct Outcome {
    OutcomeKind kind = OutcomeKind::unsupported;
    std::string body;            ///< the document of an accepted round trip or encode; else the message
    std::optional<Trace> trace;  ///< of an accepted decode that was shown
    std::optional<std::uint64_t> offset, line, column;
    std::string unit, log;
    double seconds = 0;
};

/// An answer that depended on what was asked before.
struct Incident {
    std::vector<std::size_t> sequence;            ///< indices of the requests, in the order they were asked
    OutcomeKind outcome = OutcomeKind::unsteady;  ///< crashed … or unsteady
    std::string detail;
};

struct Chunk {
    std::vector<Outcome> outcomes;  ///< one a request, in their order
    std::vector<Incident> incidents;
};

class Executor {
  public:
    virtual ~Executor() = default;
    /// Asks all requests, in one process where there is one.
    virtual Chunk run(std::span<const Request> requests) = 0;
};

/// Keeps time-outs honest: every process runs under a share of it, a confirmation alone.
using TimingLock = std::shared_mutex;

/// Starts an adapter once and reads its hello: a subject a mode. For command lines the subject is the entry itself.
std::vector<Subject> handshake(const Implementation& implementation, TimingLock& quiet);
/// An executor for one subject; it starts processes as it needs them.
std::unique_ptr<Executor> make_executor(const Subject& subject, TimingLock& quiet);
/// The in-process way: the codec must outlive the executor. A crash is the caller's own.
std::unique_ptr<Executor> make_in_process_executor(adapter::Codec& codec, std::string mode = {});
Subject handshake(const adapter::Codec& codec, std::string mode = {});

/// A problem with an adapter's protocol, in words.
struct ProtocolReport {
    struct Check {
        std::string name;
        bool passed = true;
        bool applicable = true;
        std::string detail;
    };
    std::vector<Check> checks;
    [[nodiscard]] bool passed() const;
};
/// Tests an adapter's framing, ids, bodies, order, standard output and end (see docs/protocol.md).
ProtocolReport check_protocol(const Subject& subject, TimingLock& quiet);

}  // namespace nachklang
