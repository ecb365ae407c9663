// What an adapter must do whatever its library does: the checks of `implementations check`, each with words for
// what is wrong.
#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <numeric>

#include "life.hpp"

namespace nachklang {
namespace {

using runner::Life;
using Specimen = Format::Specimen;

std::shared_ptr<const std::string> body(std::string bytes) {
    return std::make_shared<const std::string>(std::move(bytes));
}

class Checks {
  public:
    Checks(const Subject& subject, Quiet& quiet) : subject_(subject), quiet_(quiet) {
        for (const auto& [name, operations] : subject.operations) {
            for (const Operation op : {Operation::encode, Operation::lap})
                if (subject.does(name, op)) operation_ = op;
            format_ = find_format(name);
            if (subject.does(name, Operation::decode)) operation_ = Operation::decode;
            if (format_ != nullptr) break;
        }
    }

    PlumbingReport run() {
        if (!subject_.failed_hello.empty()) {
            add("hello", false, subject_.failed_hello);
            return std::move(report_);
        }
        add("hello", true, "");
        framing();
        one("an empty document", "", false);
        std::string all(256, '\0');
        std::iota(all.begin(), all.end(), '\0');
        one("all 256 byte values", all, false);
        one("a document of 1 MB", format_->specimen(Specimen::large), true);
        unknown_key();
        show_nothing();
        deep();
        return std::move(report_);
    }

  private:
    void add(std::string name, bool passed, std::string detail, bool applicable = true) {
        report_.checks.push_back({std::move(name), passed, applicable, std::move(detail)});
    }
    Life live(const std::vector<Request>& requests, const runner::LifeOptions& options = {}) {
        const std::shared_lock lock(quiet_);
        return runner::live(subject_, requests, options);
    }
    /// With more patience: a million lines take a slow language a while.
    Life live_patiently(const Request& request) {
        Subject patient = subject_;
        patient.implementation.deadline_s *= 12;
        const std::shared_lock lock(quiet_);
        return runner::live(patient, {&request, 1});
    }
    /// An encoder is asked for the document's value.
    [[nodiscard]] Request request(std::string document, bool show = true) const {
        if (operation_ == Operation::encode)
            if (const Reading reading = format_->read(document); reading.accepted())
                document = std::string(reading.trace.text());
        return {operation_, format_, body(std::move(document)), show};
    }

    static std::string death_of(const Life& life) {
        if (!life.hello_problem.empty()) return life.hello_problem;
        return life.death ? life.death->body : "";
    }

    void framing() {
        std::vector<Request> requests(40, request(format_->specimen(Specimen::small)));
        const Life life = live(requests);
        add("framing, ids and order of 40 requests ahead of their replies",
            !life.death && life.hello_problem.empty(), death_of(life));
        const bool broken_trace = !life.outcomes.empty() && life.outcomes.front().kind == OutcomeKind::broken_reply;
        const bool accepted = !life.outcomes.empty() && life.outcomes.front().kind == OutcomeKind::accepted;
        add("a small document is accepted, its trace well-formed", accepted,
            broken_trace || !accepted ? (life.outcomes.empty() ? death_of(life) : life.outcomes.front().body) : "");
        add("leaving with status 0 at the end of input", life.leaving.empty() && !life.death,
            life.leaving.empty() ? death_of(life) : "it " + life.leaving);
        add("standard output kept from the library", !life.replies_on_stdout,
            life.replies_on_stdout ? "descriptor 1 is the pipe of the replies: what the library prints there would "
                                     "break the framing; duplicate it, then point it at standard error"
                                   : "");
    }

    void one(std::string name, std::string document, bool must_accept) {
        // Followed by a small one: a reply must not be out of step afterwards.
        const Life life = live({request(std::move(document)), request(format_->specimen(Specimen::small))});
        bool passed = !life.death && life.hello_problem.empty();
        std::string detail = death_of(life);
        if (passed && life.outcomes[0].kind == OutcomeKind::broken_reply) {
            passed = false;
            detail = life.outcomes[0].body;
        }
        if (passed && must_accept && life.outcomes[0].kind != OutcomeKind::accepted) {
            passed = false;
            detail = fmt::format("it was {}: {}", name_of(life.outcomes[0].kind),
                                 text::printable_excerpt(life.outcomes[0].body, 100));
        }
        if (passed && life.outcomes[1].kind != OutcomeKind::accepted) {
            passed = false;
            detail = fmt::format("the small document after it was {}", name_of(life.outcomes[1].kind));
        }
        add(std::move(name), passed, detail);
    }

    void unknown_key() {
        runner::LifeOptions options;
        options.extra_key = "tower=north";
        const Life life = live({request(format_->specimen(Specimen::small))}, options);
        const bool passed =
            !life.death && life.hello_problem.empty() && life.outcomes[0].kind == OutcomeKind::unsupported;
        add("a key it does not know is answered unsupported", passed,
            passed ? ""
                   : (life.outcomes.empty() ? death_of(life)
                                            : fmt::format("it was {}", name_of(life.outcomes[0].kind))));
    }

    void show_nothing() {
        if (operation_ != Operation::decode) return add("no trace for show=nothing", true, "", false);
        // A trace that was not asked for shows as a body that should have been empty.
        const Life life = live({request(format_->specimen(Specimen::small), false)});
        const bool passed = !life.death && life.hello_problem.empty() && life.outcomes[0].body.empty();
        add("no trace for show=nothing", passed, passed ? "" : "it printed one all the same");
    }

    void deep() {
        const std::string name = "a value a million levels deep is walked without recursion";
        if (operation_ != Operation::decode) return add(name, true, "", false);
        const auto begun = std::chrono::steady_clock::now();
        const Life silent = live_patiently(request(format_->specimen(Specimen::deep), false));
        const std::chrono::duration<double> taken = std::chrono::steady_clock::now() - begun;
        const bool decodes =
            !silent.death && silent.hello_problem.empty() && silent.outcomes[0].kind == OutcomeKind::accepted;
        if (!decodes) return add(name, true, "the library does not decode one", false);
        // A walk that fails then could not be told from a library that is slow.
        constexpr double most_seconds = 15;
        if (taken.count() > most_seconds)
            return add(name, true,
                       fmt::format("the library alone takes {:.0f} s; the walk was not tried", taken.count()),
                       false);
        const Life life = live_patiently(request(format_->specimen(Specimen::deep)));
        if (!life.outcomes.empty() && life.outcomes[0].kind == OutcomeKind::unsupported)
            return add(name, true, "it is not shown: " + life.outcomes[0].body, false);
        const bool passed =
            !life.death && life.hello_problem.empty() && life.outcomes[0].kind == OutcomeKind::accepted;
        add(name, passed,
            passed ? ""
                   : (life.outcomes.empty() ? death_of(life) : life.outcomes[0].body) +
                         "; it is decoded with show=nothing, so the walk is at fault");
    }

    const Subject& subject_;
    Quiet& quiet_;
    const Format* format_ = nullptr;
    Operation operation_ = Operation::decode;
    PlumbingReport report_;
};

}  // namespace

bool PlumbingReport::passed() const {
    return std::all_of(checks.begin(), checks.end(), [](const Check& c) { return c.passed; });
}

PlumbingReport check_plumbing(const Subject& subject, Quiet& quiet) {
    if (subject.implementation.reach != Reach::trace) {
        PlumbingReport out;
        const auto asker = make_asker(subject, quiet);
        const Format* format = find_format(subject.operations.begin()->first);
        const Operation operation = subject.implementation.reach == Reach::lap ? Operation::lap : Operation::decode;
        for (const auto& [name, document, verdict] :
             {std::tuple("a small document ends with status 0", format->specimen(Specimen::small),
                         OutcomeKind::accepted),
              std::tuple("no document ends with a status of rejected_status", std::string("\x01nothing"),
                         OutcomeKind::rejected)}) {
            const Request request{operation, format, body(document), true};
            const Outcome outcome = asker->ask({&request, 1}).outcomes.front();
            out.checks.push_back({name, outcome.kind == verdict, true,
                                  outcome.kind == verdict
                                      ? ""
                                      : fmt::format("it was {}: {}", name_of(outcome.kind),
                                                    text::printable_excerpt(outcome.body, 100))});
        }
        return out;
    }
    return Checks(subject, quiet).run();
}

}  // namespace nachklang
