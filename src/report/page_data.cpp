// Lists refer to each other by index, and a case's groups are one letter for each implementation: a page of both
// corpora and all implementations stays small.
#include "report/page_data.hpp"

#include <algorithm>
#include <array>
#include <map>
#include <set>
#include <stdexcept>

#include <nachklang/corpus.hpp>
#include <nachklang/relations.hpp>
#include <nachklang/text.hpp>

#include "report/page_answers.hpp"

namespace nachklang::page {
namespace {

using CaseName = std::pair<std::string, std::string>;  // format, name

constexpr std::size_t shown_bytes = 600, hex_bytes = 200, shown_detail = 100, shown_written = 300;

/// Numbers the cases that behaviours and answers name: each is in the page once.
class CaseTable {
  public:
    explicit CaseTable(std::span<const Case> cases) {
        for (const Case& c : cases) {
            known_.emplace(std::pair(std::string(c.format->name()), c.name), &c);
            if (c.own_question)
                of_sheets_.emplace(std::pair(std::string(c.format->name()), c.own_question->id),
                                   c.own_question.get());
        }
    }
    /// Of a sheet or of the format; null: neither is at hand.
    [[nodiscard]] const Question* question(const std::string& format, const std::string& id) const {
        if (const auto own = of_sheets_.find({format, id}); own != of_sheets_.end()) return own->second;
        const Format* known = find_format(format);
        return known == nullptr ? nullptr : find_question(*known, id);
    }
    std::size_t index_of(const std::string& format, const std::string& name) {
        const auto [at, is_new] = index_.emplace(std::pair(format, name), list_.size());
        if (is_new) list_.push_back(entry(format, name));
        return at->second;
    }
    [[nodiscard]] std::optional<std::size_t> find(const std::string& format, const std::string& name) const {
        const auto found = index_.find({format, name});
        return found == index_.end() ? std::nullopt : std::optional(found->second);
    }
    [[nodiscard]] Json& at(std::size_t index) { return list_[index]; }
    /// The case that an entry is about; null if its corpus is not at hand.
    [[nodiscard]] const Case* case_at(std::size_t index) const {
        const std::string name = list_[index]["name"];
        const auto found = known_.find({list_[index]["format"], name.substr(0, name.find(':'))});
        return found == known_.end() || found->second->name != name ? nullptr : found->second;
    }
    [[nodiscard]] std::size_t size() const { return list_.size(); }
    Json take() { return std::move(list_); }

  private:
    Json entry(const std::string& format, const std::string& name) const {
        Json out{{"format", format}, {"name", name}};
        const auto found = known_.find({format, name.substr(0, name.find(':'))});
        if (found == known_.end()) return out;
        const Case& c = *found->second;
        const std::string body(content_of(c));
        const std::string part = body.substr(0, shown_bytes);
        out["size"] = body.size();
        out["shown"] = part.size();
        out["text"] = text::printable(part, true);
        if (text::first_ill_formed(part)) out["hex"] = text::to_hex(part.substr(0, hex_bytes));
        out["shipped"] = c.source.rfind(".toml:") != std::string::npos;
        if (c.stance) out["stance"] = name_of(*c.stance);
        if (!c.clause.empty()) out["clause"] = c.clause;
        if (!c.why.empty()) out["why"] = c.why;
        return out;
    }
    std::map<CaseName, const Case*> known_;
    std::map<std::pair<std::string, std::string>, const Question*> of_sheets_;  // by format and name
    std::map<CaseName, std::size_t> index_;
    Json list_ = Json::array();
};

Json behaviour_json(const BehaviourRecord& b, CaseTable& table) {
    Json cases = Json::array();
    for (const std::string& name : b.cases) cases.push_back(table.index_of(b.format, name));
    Json out{{"format", b.format},     {"implementation", b.implementation},
             {"modes", b.modes},       {"side", b.side},
             {"cause", b.cause},       {"clause", b.clause},
             {"gravity", b.gravity},   {"failing", b.failing},
             {"sentence", b.sentence}, {"detail", b.detail},
             {"cases", cases},         {"witness", table.index_of(b.format, b.witness)},
             {"peers", b.peers},       {"engines", b.engines},
             {"purpose", b.purpose}};
    if (!b.excused.empty()) out["excused"] = b.excused;
    if (b.smallest) out["smallest"] = text::printable(*b.smallest, true);
    return out;
}

std::string implementation_of(const std::string& subject) {
    return subject.substr(0, subject.find('/'));
}

Json implementations_json(const ReportInput& input) {
    Json out = Json::array();
    std::string last;
    for (const ReportedImplementation& i : input.implementations) {
        const std::string name = implementation_of(i.entry.implementation);
        if (name != last && !i.recorded)
            out.push_back({{"name", name}, {"version", i.entry.version}, {"engine", i.entry.engine}});
        last = name;
    }
    return out;
}

Json recorded_json(const ReportInput& input) {
    Json out = Json::array();
    for (const ReportedImplementation& i : input.implementations)
        if (i.recorded) out.push_back(i.entry.implementation);
    return out;
}

Json subjects_json(const ReportInput& input) {
    Json out = Json::array();
    for (const ReportedImplementation& i : input.implementations) out.push_back(i.entry.implementation);
    return out;
}

/// The cases of an answer. A case that is asked of several operations counts once.
struct GivenFor {
    std::set<std::string_view> cases;  // in the names of the report's results
    std::string_view first;
};
/// The answers of one implementation and mode to one question.
struct Given {
    std::map<std::string, GivenFor> answers;
    [[nodiscard]] std::size_t asked() const {
        std::set<std::string_view> out;
        for (const auto& [answer, given] : answers) out.insert(given.cases.begin(), given.cases.end());
        return out.size();
    }
    [[nodiscard]] const std::string& most_frequent() const {
        return std::ranges::max_element(answers, {}, [](const auto& a) { return a.second.cases.size(); })->first;
    }
};
/// By format and question, then by subject.
using GivenAnswers = std::map<CaseName, std::map<std::size_t, Given>>;

GivenAnswers answers_in(const ReportInput& input) {
    GivenAnswers out;
    for (std::size_t s = 0; s < input.implementations.size(); ++s)
        for (const ReportedResult& r : input.implementations[s].results)
            for (const auto& [question, answer] : r.answers) {
                GivenFor& given = out[{r.format, question}][s].answers[answer];
                if (given.cases.empty()) given.first = r.case_name;
                given.cases.insert(r.case_name);
            }
    return out;
}

Json questions_json(const GivenAnswers& all, CaseTable& table) {
    Json out = Json::array();
    for (const auto& [name, by_subject] : all) {
        const auto& [format, id] = name;
        const Question* question = table.question(format, id);
        std::map<std::string, Json> answers;
        std::map<std::string, std::size_t> examples;
        for (const auto& [subject, given] : by_subject) {
            const std::string& answer = given.most_frequent();
            const auto& [cases, example] = given.answers.at(answer);
            Json entry{subject, cases.size(), given.asked()};
            for (const auto& [other, more] : given.answers)
                if (other != answer) entry.push_back(other);
            answers[answer].push_back(std::move(entry));
            examples.emplace(answer, table.index_of(format, std::string(example)));
        }
        Json list = Json::array();
        for (auto& [answer, subjects] : answers)
            list.push_back(
                {{"answer", answer}, {"subjects", std::move(subjects)}, {"example", examples.at(answer)}});
        std::stable_sort(list.begin(), list.end(),
                         [](const Json& a, const Json& b) { return a["subjects"].size() > b["subjects"].size(); });
        out.push_back({{"format", format},
                       {"id", id},
                       {"about", question == nullptr ? "" : std::string(question->about)},
                       {"clause", question == nullptr ? "" : std::string(question->clause)},
                       {"answers", std::move(list)}});
    }
    return out;
}

/// Whether a result tells how a document is read.
bool tells(const ReportedResult& r) {
    return r.operation == name_of(Operation::decode) && r.outcome != name_of(OutcomeKind::unsupported) &&
           r.outcome != name_of(OutcomeKind::not_asked) && r.finding != name_of(FindingKind::adapter_fault);
}

/// One row for each implementation that decodes documents of a format, in its first mode. Simulated ones take part
/// where `simulated` says so.
std::vector<AnswerRow> answer_rows(const ReportInput& input, const GivenAnswers& given, const std::string& format,
                                   bool simulated) {
    std::vector<AnswerRow> out;
    std::map<std::string, std::size_t> columns;
    std::set<std::string> known;
    for (std::size_t s = 0; s < input.implementations.size(); ++s) {
        const ReportedImplementation& i = input.implementations[s];
        const std::string name = implementation_of(i.entry.implementation);
        if (i.entry.reach != name_of(Reach::trace) || (i.entry.simulated && !simulated) || known.contains(name))
            continue;
        AnswerRow row{name, {}, {}};
        for (const ReportedResult& r : i.results) {
            if (r.format != format || !tells(r)) continue;
            const std::size_t column = columns.emplace(r.case_name, columns.size()).first->second;
            if (row.answers.size() <= column) row.answers.resize(column + 1, 0);
            row.answers[column] = digest_of(r.outcome + r.digest).high | 1U;
        }
        if (row.answers.empty()) continue;
        known.insert(name);
        for (const auto& [question, by_subject] : given)
            if (question.first == format)
                if (const auto found = by_subject.find(s); found != by_subject.end())
                    row.questions[question.second] = found->second.most_frequent();
        out.push_back(std::move(row));
    }
    return out;
}

Json node_json(const RelationNode& node, const std::vector<AnswerRow>& rows) {
    if (node.is_leaf()) return {{"name", rows[node.row].name}};
    Json questions = Json::array();
    for (const SeparatingQuestion& q : node.questions)
        questions.push_back({{"question", q.question}, {"left", q.left}, {"right", q.right}});
    return {{"distance", node.distance},
            {"questions", std::move(questions)},
            {"children", {node_json(*node.left, rows), node_json(*node.right, rows)}}};
}

Json relations_json(const ReportInput& input, const GivenAnswers& given) {
    Json out = Json::array();
    for (const Format* format : formats()) {
        const std::string name(format->name());
        auto rows = answer_rows(input, given, name, false);
        if (rows.size() < 2) rows = answer_rows(input, given, name, true);
        if (rows.size() < 2) continue;
        out.push_back({{"format", name}, {"tree", node_json(*relations_of(rows), rows)}});
    }
    return out;
}

/// Implementations that answer a case alike: each case gets its groups, and a letter for each subject.
class CaseGroups {
  public:
    CaseGroups(std::size_t cases, std::size_t subjects)
        : groups_(cases), refusals_(cases), letters_(cases, std::string(subjects, ' ')) {}
    void add(std::size_t index, std::size_t subject, const ReportedResult& r) {
        if (letters_[index][subject] != ' ') return;  // the first operation speaks for it
        if (r.outcome == name_of(OutcomeKind::rejected)) refusals_[index].push_back({subject, &r});
        std::vector<Group>& groups = groups_[index];
        auto found = std::find_if(groups.begin(), groups.end(), [&](const Group& g) {
            return g.first->outcome == r.outcome && g.first->digest == r.digest && g.first->finding == r.finding &&
                   g.first->cause == r.cause;
        });
        if (found == groups.end()) found = groups.insert(groups.end(), {&r});
        if (found->first->answer.empty() && !r.answer.empty()) found->first = &r;
        const auto number = static_cast<std::size_t>(found - groups.begin());
        letters_[index][subject] = letters[std::min(number, letters.size() - 1)];
    }
    void put(CaseTable& table) const {
        for (std::size_t i = 0; i < groups_.size(); ++i) {
            if (groups_[i].empty()) continue;
            const Case* of = table.case_at(i);
            const auto meant = of == nullptr ? std::nullopt : meant_value(*of);
            Json list = Json::array();
            for (const Group& g : groups_[i]) list.push_back(group_json(g, of, meant ? &*meant : nullptr));
            table.at(i)["groups"] = std::move(list);
            table.at(i)["letters"] = letters_[i];
            if (meant) table.at(i)["meant"] = tree_json(*of->format, *meant, nullptr);
            if (of != nullptr && of->document != nullptr && !refusals_[i].empty())
                table.at(i)["refusals"] =
                    refusals_json(*of->document, std::min(of->document->size(), shown_bytes), refusals_[i]);
        }
    }

  private:
    struct Group {
        const ReportedResult* first;
    };
    static Json group_json(const Group& g, const Case* of, const Trace* meant) {
        const ReportedResult& r = *g.first;
        Json out{{"outcome", r.outcome},
                 {"finding", r.finding},
                 {"cause", r.cause},
                 {"detail", text::printable_excerpt(r.detail, shown_detail)},
                 {"fails", r.failing}};
        if (r.answer_size > 0) out["size"] = r.answer_size;
        if (r.answer.empty() || of == nullptr) return out;
        const auto operation = find_operation(r.operation);
        if (operation && info_of(*operation).output == Content::document)
            out["written"] = text::printable_excerpt(r.answer, shown_written);
        else if (const auto value = Trace::parse(r.answer))
            out["value"] = tree_json(*of->format, *value, meant);
        return out;
    }
    static constexpr std::string_view letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789";
    std::vector<std::vector<Group>> groups_;
    std::vector<std::vector<Refusal>> refusals_;
    std::vector<std::string> letters_;
};

void put_groups(const ReportInput& input, CaseTable& table) {
    CaseGroups groups(table.size(), input.implementations.size());
    for (std::size_t s = 0; s < input.implementations.size(); ++s)
        for (const ReportedResult& r : input.implementations[s].results)
            if (const auto index = table.find(r.format, r.case_name)) groups.add(*index, s, r);
    groups.put(table);
}

Json change_json(const BehaviourChange& c) {
    return {{"format", c.name.format}, {"implementation", c.name.implementation},
            {"side", c.name.side},     {"cause", c.name.cause},
            {"sentence", c.sentence},  {"failing", c.failing},
            {"whole", c.whole},        {"cases", c.cases}};
}

Json changes_json(const std::string& before, const Changes& changes) {
    Json came = Json::array(), went = Json::array(), answers = Json::array();
    for (const BehaviourChange& c : changes.came) came.push_back(change_json(c));
    for (const BehaviourChange& c : changes.went) went.push_back(change_json(c));
    for (const AnswerChange& a : changes.answers)
        for (const auto& [pair, cases] : a.cases)
            answers.push_back({{"subject", a.subject},
                               {"question", a.question},
                               {"before", pair.first},
                               {"now", pair.second},
                               {"cases", cases}});
    return {{"before", before},
            {"came", std::move(came)},
            {"went", std::move(went)},
            {"answers", std::move(answers)},
            {"versions", changes.versions},
            {"new_cases", changes.new_cases.size()},
            {"gone_cases", changes.gone_cases.size()},
            {"new_implementations", changes.new_implementations},
            {"gone_implementations", changes.gone_implementations}};
}

/// What views print as JSON Lines and the page has a chart for, by the record's kind.
constexpr std::array<std::string_view, 3> charted{"limit", "numbers", "growth"};

Json records_of(const std::vector<std::string>& lines, std::string_view kind) {
    Json out = Json::array();
    for (const std::string& line : lines) {
        Json record = Json::parse(line, nullptr, false);
        const std::string given = record.is_object() ? record.value("record", "") : "";
        if (std::ranges::find(charted, given) == charted.end())
            throw std::invalid_argument(
                "a line is no record of `limits --json`, `numbers --json` or `growth --json`");
        if (given == kind) out.push_back(std::move(record));
    }
    return out;
}

}  // namespace

Json data_of(const ReportInput& input, std::span<const Case> cases, const PageExtras& extras) {
    CaseTable table(cases);
    Json behaviours = Json::array();
    for (const BehaviourRecord& b : input.behaviours) behaviours.push_back(behaviour_json(b, table));
    const GivenAnswers given = answers_in(input);
    Json questions = questions_json(given, table);
    put_groups(input, table);
    Json out{{"interrupted", input.interrupted},
             {"implementations", implementations_json(input)},
             {"subjects", subjects_json(input)},
             {"recorded", recorded_json(input)},
             {"behaviours", std::move(behaviours)},
             {"questions", std::move(questions)},
             {"relations", relations_json(input, given)},
             {"cases", table.take()},
             {"limits", records_of(extras.lines, "limit")},
             {"numbers", records_of(extras.lines, "numbers")},
             {"growth", records_of(extras.lines, "growth")}};
    if (extras.changes) out["changes"] = changes_json(extras.before, *extras.changes);
    return out;
}

}  // namespace nachklang::page
