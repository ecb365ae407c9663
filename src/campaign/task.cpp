// See task.hpp. All decodes run before all round trips, in an order hashed from the cases' names, so that a state
// which an error leaves behind meets another document.
#include "campaign/task.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <numeric>
#include <set>

namespace nachklang::campaign {
namespace {

/// Whether two answers to one request are the same. Another order or spelling of the same value is no other answer.
bool same_answer(const Format& format, const Subject& subject, const Outcome& a, const Outcome& b) {
    constexpr auto exact = static_cast<std::size_t>(Layer::exact);
    if (a.kind != b.kind || a.trace.has_value() != b.trace.has_value()) return false;
    if (a.trace)
        return a.trace->text() == b.trace->text() ||
               format.digests(*a.trace)[exact] == format.digests(*b.trace)[exact];
    if (a.kind != OutcomeKind::accepted || a.body == b.body) return true;
    const ReadOptions options{format.reading_settings(subject.settings), {}};
    const Reading first = format.read(written_document(format, subject.settings, a.body), options),
                  second = format.read(written_document(format, subject.settings, b.body), options);
    if (!first.accepted() && !second.accepted())
        return !represents_order(format, subject.cannot_represent) && are_of_same_bytes(a.body, b.body);
    return first.accepted() && second.accepted() &&
           format.digests(first.trace)[exact] == format.digests(second.trace)[exact];
}

/// Where a document is cut: after each byte, or a long one at places that its bytes decide.
std::string cuts_for(std::string_view document) {
    constexpr std::size_t longest_bytewise = 4096, most = 64;
    if (document.size() <= longest_bytewise) return "each";
    std::set<std::size_t> cuts;
    Digest state = digest_of(document);
    for (std::size_t i = 0; i < most; ++i) {
        state = combine(state, state);
        cuts.insert(1 + state.low % (document.size() - 1));
    }
    return fmt::format("{}", fmt::join(cuts, ","));
}

class Task {
  public:
    Task(std::span<const Case> cases, const Subject& subject, Executor& executor, ChunkCache& cache,
         std::string gave_up)
        : gave_up_(std::move(gave_up)), cases_(cases), subject_(subject), executor_(executor), cache_(cache) {}

    TaskReport run() {
        for (std::size_t i = 0; i < cases_.size(); ++i) add_requests(i);
        if (requests_.empty()) return {};
        auto order = asking_order();
        const auto continuing = std::stable_partition(
            order.begin(), order.end(), [&](std::size_t i) { return !info_of(requests_[i].operation).continues; });
        ask({order.begin(), continuing});
        ask(still_to_continue({continuing, order.end()}));
        ask_enclosed();
        ask_sure_documents();
        second_round_trips();
        judge_all();
        ask_again();
        for (std::size_t i = 0; i < results_.size(); ++i) keep_value(i);
        return {by_case(), std::move(incidents_), std::move(gave_up_)};
    }

  private:
    void add_requests(std::size_t i) {
        const Case& c = cases_[i];
        for (const OperationInfo& row : operations()) {
            const Operation operation = row.operation;
            const bool of_value = row.input == Content::value;
            if (!is_asked(c, operation) || !subject_.does(c.format->name(), operation)) continue;
            Request request{
                operation, c.format, of_value ? std::make_shared<const std::string>(c.value->text()) : c.document,
                true,      c.record, row.in_pieces ? cuts_for(*c.document) : ""};
            requests_.push_back(std::move(request));
            origin_.push_back(i);
            Result result;
            result.test_case = &c;
            result.subject = &subject_;
            result.operation = operation;
            results_.push_back(std::move(result));
        }
    }

    /// The order of asking. All decodes, then all round trips: were a document's round trip asked right after its
    /// decode, a state that an error leaves behind would meet only the same document again. Within each by a hash
    /// of the cases' names, so that good and bad documents follow each other however a sheet sorts them.
    [[nodiscard]] std::vector<std::size_t> asking_order() const {
        std::vector<std::size_t> order(requests_.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            const auto place = [&](std::size_t i) {
                return std::pair(requests_[i].operation, digest_of(cases_[origin_[i]].name));
            };
            return place(a) < place(b);
        });
        return order;
    }

    Chunk run(std::span<const Request> requests) {
        Chunk out;
        if (gave_up_.empty()) {
            out = executor_.run(requests);
            gave_up_ = out.gave_up;
        } else {
            out.outcomes.assign(requests.size(), not_asked(gave_up_));
        }
        return out;
    }

    /// Asks these requests, in this order.
    void ask(const std::vector<std::size_t>& order) {
        if (order.empty()) return;
        std::vector<Request> requests;
        std::vector<std::size_t> origin;
        for (const std::size_t i : order) {
            requests.push_back(requests_[i]);
            origin.push_back(origin_[i]);
        }
        Chunk chunk = run(requests);
        for (std::size_t k = 0; k < order.size(); ++k) results_[order[k]].outcome = std::move(chunk.outcomes[k]);
        for (const Incident& incident : chunk.incidents) report(incident, requests, origin);
    }
    /// The request that this one continues, for the same case.
    [[nodiscard]] std::optional<std::size_t> before(std::size_t i) const {
        const auto continues = info_of(results_[i].operation).continues;
        for (std::size_t k = i; continues && k-- > 0 && results_[k].test_case == results_[i].test_case;)
            if (results_[k].operation == *continues) return k;
        return std::nullopt;
    }
    [[nodiscard]] const Outcome* outcome_before(std::size_t i) const {
        const auto k = before(i);
        return k ? &results_[*k].outcome : nullptr;
    }

    /// Without the requests that continue one which took all its time or memory: they would fail at the same place.
    std::vector<std::size_t> still_to_continue(const std::vector<std::size_t>& continuing) {
        std::vector<std::size_t> out;
        for (const std::size_t i : continuing) {
            const Outcome* begun = outcome_before(i);
            if (begun != nullptr && takes_all(begun->kind))
                results_[i].outcome = not_asked("its decode failed: " + begun->body);
            else
                out.push_back(i);
        }
        return out;
    }

    /// A document that was refused is asked once more inside a container, where its format has such a form: the
    /// answer decides whether it was refused for its place.
    void ask_enclosed() {
        const std::size_t bare = results_.size();
        for (std::size_t i = 0; i < bare; ++i) {
            const Case& c = *results_[i].test_case;
            if (results_[i].outcome.kind != OutcomeKind::rejected || c.document == nullptr ||
                info_of(results_[i].operation).in_pieces)
                continue;
            if (cache_.expectation(c, subject_.settings)->stance == Stance::reject) continue;
            const ChunkCache::EnclosedCase* enclosed = cache_.enclosed(c);
            if (enclosed == nullptr) continue;
            enclosed_[i] = results_.size();
            requests_.push_back({results_[i].operation, c.format, enclosed->test_case->document, true});
            origin_.push_back(origin_[i]);
            Result result;
            result.enclosed = enclosed->test_case;
            result.test_case = result.enclosed.get();
            result.enclosed_of = &c;
            result.subject = &subject_;
            result.operation = results_[i].operation;
            results_.push_back(std::move(result));
        }
        std::vector<std::size_t> added(requests_.size() - bare);
        std::iota(added.begin(), added.end(), bare);
        ask(added);
    }

    /// See CutShort: each such document is asked once.
    void ask_sure_documents() {
        std::map<std::pair<const Format*, std::string>, Request> wanted;
        for (std::size_t i = 0; i < results_.size(); ++i) {
            if (results_[i].outcome.kind != OutcomeKind::accepted || results_[i].test_case->document == nullptr)
                continue;
            const auto expectation = cache_.expectation(*results_[i].test_case, subject_.settings);
            if (!expectation->cut_short) continue;
            const std::string& document = expectation->cut_short->sure_document;
            wanted.try_emplace({requests_[i].format, document},
                               Request{results_[i].operation, requests_[i].format,
                                       std::make_shared<const std::string>(document), false});
        }
        if (wanted.empty()) return;
        std::vector<Request> requests;
        for (const auto& [key, request] : wanted) requests.push_back(request);
        const Chunk chunk = run(requests);
        std::size_t k = 0;
        for (const auto& [key, request] : wanted) {
            const OutcomeKind kind = chunk.outcomes[k++].kind;
            if (was_asked(kind)) sure_[key] = kind == OutcomeKind::accepted;
        }
    }

    /// By case, then operation; what was asked inside a container comes after the case itself.
    std::vector<Result> by_case() {
        std::vector<std::size_t> order(results_.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(order.begin(), order.end(),
                         [&](std::size_t a, std::size_t b) { return origin_[a] < origin_[b]; });
        std::vector<Result> out;
        out.reserve(order.size());
        for (const std::size_t i : order) out.push_back(std::move(results_[i]));
        return out;
    }

    void report(const Incident& incident, const std::vector<Request>& requests,
                const std::vector<std::size_t>& origin) {
        IncidentReport out;
        out.subject = &subject_;
        out.outcome = incident.outcome;
        out.detail = incident.detail;
        for (const std::size_t i : incident.sequence)
            out.sequence.push_back(fmt::format("{} {}", name_of(requests[i].operation), cases_[origin[i]].name));
        incidents_.push_back(std::move(out));
    }

    /// Sends the text that a round trip wrote through a second round trip, unless it must be the document itself.
    void second_round_trips() {
        std::vector<Request> requests;
        std::vector<std::size_t> origin, results_of;
        for (std::size_t i = 0; i < results_.size(); ++i) {
            const Result& r = results_[i];
            if (!info_of(r.operation).runs_twice || r.outcome.kind != OutcomeKind::accepted) continue;
            // Without an order, the same bytes are chance.
            if (r.outcome.body == *r.test_case->document &&
                represents_order(*r.test_case->format, subject_.cannot_represent))
                continue;
            // A text with lone surrogates has no bytes to be sent.
            if (written_document(*r.test_case->format, subject_.settings, r.outcome.body) != r.outcome.body)
                continue;
            requests.push_back({r.operation, r.test_case->format,
                                std::make_shared<const std::string>(r.outcome.body), true, requests_[i].record});
            origin.push_back(origin_[i]);
            results_of.push_back(i);
        }
        if (requests.empty()) return;
        Chunk chunk = run(requests);
        for (std::size_t i = 0; i < requests.size(); ++i)
            if (was_asked(chunk.outcomes[i].kind)) second_[results_of[i]] = std::move(chunk.outcomes[i]);
        for (const Incident& incident : chunk.incidents) report(incident, requests, origin);
    }

    void judge_one(std::size_t i) {
        Result& result = results_[i];
        const Case& c = *result.test_case;
        const auto expectation = cache_.expectation(c, subject_.settings);
        const Outcome* decoded = outcome_before(i);
        const auto second = second_.find(i);
        JudgeInput input{c, *expectation, subject_, result.operation, result.outcome, decoded};
        if (second != second_.end()) input.second_round_trip = &second->second;
        // A document in pieces is refused for its place if the whole of it is.
        const std::size_t whole = info_of(result.operation).in_pieces ? before(i).value_or(i) : i;
        if (const auto enclosed = enclosed_.find(whole); enclosed != enclosed_.end()) {
            input.enclosed = &results_[enclosed->second].outcome;
            input.enclosed_cause = cache_.enclosed(c)->cause;
        }
        if (expectation->cut_short)
            if (const auto sure = sure_.find({c.format, expectation->cut_short->sure_document});
                sure != sure_.end())
                input.sure_accepted = sure->second;
        input.cache = &cache_.judging;
        input.profile = cache_.profile();
        result.finding = judge(input);
    }
    void judge_all() {
        for (std::size_t i = 0; i < results_.size(); ++i) judge_one(i);
    }

    /// Repeats, in reverse order, the requests whose findings are not settled. An answer that depends on earlier
    /// requests is an incident.
    void ask_again() {
        if (subject_.implementation.reach != Reach::trace) return;
        std::vector<std::size_t> again;
        for (std::size_t i = results_.size(); i-- > 0;) {
            if (!is_settled(results_[i].finding.kind) && is_answer(results_[i].outcome.kind)) again.push_back(i);
        }
        if (again.empty()) return;
        std::vector<Request> requests;
        for (const std::size_t i : again) requests.push_back(requests_[i]);
        executor_.restart();  // a state that an earlier request left behind must not answer twice
        Chunk chunk = run(requests);
        std::map<std::string, std::vector<std::size_t>> same_twice;  // by failure
        for (std::size_t k = 0; k < again.size(); ++k) {
            const std::size_t i = again[k];
            const Outcome& second = chunk.outcomes[k];
            if (second.kind == OutcomeKind::not_asked) continue;
            if (is_same(i, results_[i].outcome, second)) {
                if (may_be_damage(results_[i])) same_twice[failure_of(results_[i])].push_back(i);
                continue;
            }
            Outcome alone = ask_alone(i);
            if (alone.kind == OutcomeKind::not_asked) continue;
            std::string detail = otherwise(results_[i], second, alone);
            if (is_same(i, results_[i].outcome, alone))
                add_incident(std::move(detail),
                             {again.begin(), again.begin() + static_cast<std::ptrdiff_t>(k) + 1});
            else
                replace(i, std::move(alone), std::move(detail));
        }
        for (const auto& [failure, members] : same_twice) confirm_alone(members);
    }

    /// A document that damages a library for good fails both rows of requests, and those after it in both. Of the
    /// requests that failed alike the first, the middle and the last are asked alone; if one answers otherwise, all
    /// are.
    void confirm_alone(const std::vector<std::size_t>& members) {
        const std::size_t last = members.size() - 1;
        std::set<std::size_t> asked;
        bool damaged = false;
        for (const std::size_t k : {std::size_t{0}, last / 2, last})
            if (asked.insert(k).second && settle_alone(members[k])) damaged = true;
        for (std::size_t k = 0; damaged && k < members.size(); ++k)
            if (asked.insert(k).second) settle_alone(members[k]);
    }

    /// Whether the request answers otherwise alone, which is then its outcome.
    bool settle_alone(std::size_t i) {
        Outcome alone = ask_alone(i);
        if (alone.kind == OutcomeKind::not_asked || is_same(i, results_[i].outcome, alone)) return false;
        std::string detail = fmt::format("the outcome was {} twice after other requests, and {} alone",
                                         name_of(results_[i].outcome.kind), name_of(alone.kind));
        replace(i, std::move(alone), std::move(detail));
        return true;
    }

    /// Failures that a broken state of the library may have caused: undocumented ones, and refusals of what is
    /// valid.
    static bool may_be_damage(const Result& result) {
        const OutcomeKind kind = result.outcome.kind;
        return kind == OutcomeKind::threw || kind == OutcomeKind::exhausted ||
               (kind == OutcomeKind::rejected && result.finding.kind == FindingKind::too_strict);
    }
    /// The same for failures whose messages differ only in numbers and in what they quote: of the words before the
    /// first quotation, those of two letters and more.
    static std::string failure_of(const Result& result) {
        constexpr std::size_t enough = 80;
        std::string out = fmt::format("{} ", name_of(result.outcome.kind)), word;
        const std::string_view message = std::string_view(result.outcome.body).substr(0, enough);
        for (const char c : message.substr(0, message.find_first_of(":\"'`"))) {
            if (std::isalpha(static_cast<unsigned char>(c)) != 0) {
                word += c;
                continue;
            }
            if (word.size() > 1) out += word + " ";
            word.clear();
        }
        return out + (word.size() > 1 ? word : "");
    }

    bool is_same(std::size_t i, const Outcome& a, const Outcome& b) const {
        return same_answer(*requests_[i].format, subject_, a, b);
    }
    Outcome ask_alone(std::size_t i) {
        executor_.restart();
        return std::move(run({&requests_[i], 1}).outcomes.front());
    }
    /// What the request answers alone is its outcome; what went before it the first time is an incident.
    void replace(std::size_t i, Outcome alone, std::string detail) {
        results_[i].outcome = std::move(alone);
        judge_one(i);
        add_incident(std::move(detail), asked_until(i));
    }
    void add_incident(std::string detail, std::vector<std::size_t> sequence) {
        Incident incident;
        incident.detail = std::move(detail);
        incident.sequence = std::move(sequence);
        report(incident, requests_, origin_);
    }
    /// The requests of the first row up to this one.
    [[nodiscard]] std::vector<std::size_t> asked_until(std::size_t i) const {
        std::vector<std::size_t> out;
        for (const std::size_t j : asking_order()) {
            if (j == i) break;
            out.push_back(j);
        }
        out.push_back(i);
        return out;
    }

    /// Describes three different answers to the same request.
    static std::string otherwise(const Result& first, const Outcome& again, const Outcome& alone) {
        if (first.outcome.kind == again.kind && again.kind == alone.kind)
            return fmt::format("the outcome was {} again when repeated, with another {}", name_of(again.kind),
                               info_of(first.operation).output == Content::value ? "value" : "text");
        return fmt::format("the outcome was {}, then {} when repeated in another order, and {} alone",
                           name_of(first.outcome.kind), name_of(again.kind), name_of(alone.kind));
    }

    /// What a text that was written holds: of a record, its fields.
    [[nodiscard]] Trace written_value(std::size_t i, const Trace& document) const {
        if (!info_of(results_[i].operation).of_record) return document;
        const Case& c = *results_[i].test_case;
        const auto decoded = before(i);
        const std::optional<Trace>& held = decoded ? results_[*decoded].value : c.value;
        return held ? c.format->record_in(document, *held) : document;
    }

    void keep_value(std::size_t i) {
        Result& result = results_[i];
        const Format& format = *result.test_case->format;
        if (result.outcome.kind != OutcomeKind::accepted) return;
        const bool decodes = info_of(result.operation).output == Content::value;
        if (decodes) {
            result.value = std::move(result.outcome.trace);
        } else {
            const auto reading =
                cache_.judging.read(format, written_document(format, subject_.settings, result.outcome.body),
                                    format.reading_settings(subject_.settings));
            if (reading->accepted()) result.value = written_value(i, reading->trace);
        }
        result.outcome.trace.reset();
        if (!result.value) return;
        result.digests =
            cache_.judging.digests(format, *result.value, decodes ? subject_.cannot_represent : CannotRepresent{});
        // Its digests stand for the whole of a long text.
        constexpr std::size_t kept_text = std::size_t{64} << 10;
        if (result.outcome.body.size() > kept_text) {
            result.outcome.body.resize(kept_text);
            result.outcome.body.shrink_to_fit();
        }
        result.value = cache_.intern(*result.value);
    }

    std::vector<Result> results_;
    std::vector<IncidentReport> incidents_;
    std::string gave_up_;
    std::span<const Case> cases_;
    const Subject& subject_;
    Executor& executor_;
    std::vector<Request> requests_;
    std::vector<std::size_t> origin_;  // index of each request's case
    ChunkCache& cache_;
    std::map<std::size_t, Outcome> second_;
    std::map<std::size_t, std::size_t> enclosed_;  // of a refused request, the one inside a container
    std::map<std::pair<const Format*, std::string>, bool> sure_;  // documents of CutShort: whether accepted
};

}  // namespace

std::shared_ptr<const Expectation> ChunkCache::expectation(const Case& c, const Settings& settings) {
    const std::pair key{&c, settings};
    {
        const std::lock_guard lock(mutex_);
        if (const auto known = expectations_.find(key); known != expectations_.end()) return known->second;
    }
    auto made = std::make_shared<const Expectation>(expectation_of(c, settings));
    const std::lock_guard lock(mutex_);
    return expectations_.emplace(key, std::move(made)).first->second;
}

namespace {

/// A case's document inside a container. A document that is decoded into a record has none: the record is its root.
std::optional<Enclosed> enclosing_form(const Case& c) {
    const Generators* generators = c.format->generators();
    if (generators == nullptr || !c.document || !c.record.empty() || c.sequence) return std::nullopt;
    return generators->enclosed(*c.document);
}

std::shared_ptr<const Case> made_enclosed(const Case& c, const Enclosed& form) {
    auto made = std::make_shared<Case>(c);
    made->name += ":" + form.suffix;
    made->document = std::make_shared<const std::string>(form.document);
    const auto inside = [&](std::optional<Trace>& value) {
        if (value) value = Trace::parse(form.trace_before + std::string(value->text()) + form.trace_after);
    };
    inside(made->expected);
    for (Answer& answer : made->answers) inside(answer.trace);
    return made;
}

}  // namespace

const ChunkCache::EnclosedCase* ChunkCache::enclosed(const Case& c) {
    const std::lock_guard lock(mutex_);
    const auto known = enclosed_.find(&c);
    if (known != enclosed_.end()) return known->second ? &*known->second : nullptr;
    auto& out = enclosed_[&c];
    const auto form = enclosing_form(c);
    if (!form) return nullptr;
    out = EnclosedCase{made_enclosed(c, *form), form->refusal_cause};
    return &*out;
}

Trace ChunkCache::intern(const Trace& trace) {
    const Digest digest = digest_of(trace.text());
    const std::lock_guard lock(mutex_);
    return traces_.emplace(digest, trace).first->second;
}

TaskReport run_task(std::span<const Case> cases, const Subject& subject, Executor& executor, ChunkCache& cache,
                    const std::string& gave_up) {
    TaskReport out = Task(cases, subject, executor, cache, gave_up).run();
    if (executor.keeps_in_step()) return out;
    executor.isolate_rows();
    return Task(cases, subject, executor, cache, gave_up).run();
}

}  // namespace nachklang::campaign

namespace nachklang {

std::shared_ptr<const Case> enclosed_case(const Case& c) {
    const auto form = campaign::enclosing_form(c);
    return form ? campaign::made_enclosed(c, *form) : nullptr;
}

}  // namespace nachklang
