// See lines.hpp.
#include "ui/lines.hpp"

#include <cmath>

#include <nlohmann/json.hpp>

#include <nachklang/recorded.hpp>
#include <nachklang/text.hpp>

#include "ui/workspace.hpp"

namespace tool {

using namespace nachklang;

namespace {

using Json = nlohmann::ordered_json;

Json or_null(const std::string& text) {
    return text.empty() ? Json(nullptr) : Json(text::printable(text));
}

}  // namespace

std::string line_of(const Subject& subject) {
    Json out{{"record", "implementation"},
             {"implementation", subject.name()},
             {"installed", subject.recorded == nullptr},
             {"version", or_null(subject.version)},
             {"engine", text::printable(subject.engine)},
             {"reach", name_of(subject.implementation.reach)},
             {"operations", subject.operations},
             {"cannot_represent", subject.cannot_represent},
             {"settings", subject.settings}};
    if (!subject.failed_hello.empty()) out["failed_hello"] = text::printable(subject.failed_hello);
    return out.dump();
}

std::string line_of(const Missing& missing) {
    return Json{{"record", "implementation"},
                {"implementation", missing.name},
                {"installed", false},
                {"missing", missing.absent},
                {"needs", or_null(missing.needs)}}
        .dump();
}

std::string line_of(const Card& card) {
    Json aspects = Json::object(), answers = Json::array();
    for (const auto& [name, aspect] : card.aspects)
        aspects[name] = {{"asked", aspect.asked},
                         {"failing", aspect.failing},
                         {"permitted", aspect.permitted},
                         {"unsupported", aspect.unsupported}};
    for (const auto& [question, given] : card.answers)
        answers.push_back({{"format", question.first}, {"question", question.second}, {"answers", given}});
    Json positions = Json::object();
    for (const auto& [pointing, count] : card.positions) positions[std::string(name_of(pointing))] = count;
    return Json{{"record", "card"},
                {"implementation", card.subject->name()},
                {"version", or_null(card.subject->version)},
                {"aspects", std::move(aspects)},
                {"questions", std::move(answers)},
                {"positions", std::move(positions)}}
        .dump();
}

std::string line_of(const LimitFound& found) {
    return Json{{"record", "limit"},
                {"implementation", found.subject->name()},
                {"shape", found.shape},
                {"operation", name_of(found.operation)},
                {"largest", found.largest},
                {"past", or_null(found.past)},
                {"message", or_null(found.message)},
                {"complete", found.complete}}
        .dump();
}

std::string line_of(const Growth& growth) {
    Json points = Json::array();
    for (const Growth::Point& point : growth.points)
        points.push_back({{"amount", point.amount}, {"bytes", point.bytes}, {"seconds", point.seconds}});
    return Json{{"record", "growth"},
                {"implementation", growth.subject->name()},
                {"shape", growth.shape},
                {"exponent", growth.exponent ? Json(*growth.exponent) : Json(nullptr)},
                {"above_linear", growth.above_linear},
                {"ended", or_null(growth.ended)},
                {"points", std::move(points)}}
        .dump();
}

std::string line_of(const Crossing& crossing) {
    Json troubles = Json::array();
    for (const Crossing::Trouble& trouble : crossing.troubles)
        troubles.push_back({{"what", trouble.what},
                            {"texts", trouble.texts},
                            {"engines", trouble.engines},
                            {"readers", trouble.readers},
                            {"smallest", text::in_utf8(trouble.smallest)},
                            {"detail", text::in_utf8(trouble.detail)},
                            {"canonical_form", name_of(trouble.plain)}});
    return Json{{"record", "crossing"},
                {"implementation", crossing.writer->name()},
                {"texts", crossing.texts},
                {"ill_formed", crossing.ill_formed},
                {"readers", crossing.readers},
                {"engines", crossing.engines},
                {"read_by_all", crossing.read_by_all},
                {"troubles", std::move(troubles)}}
        .dump();
}

std::string line_of(const PiecesSurvey& survey) {
    Json differences = Json::array();
    for (const auto& d : survey.differences)
        differences.push_back({{"case", d.of->name},
                               {"effect", name_of(d.effect)},
                               {"cuts", d.cuts},
                               {"inside", d.inside},
                               {"what", text::in_utf8(d.what)}});
    return Json{{"record", "pieces"},
                {"implementation", survey.subject->name()},
                {"documents", survey.documents},
                {"cuts", survey.cuts},
                {"complete", survey.complete},
                {"differences", std::move(differences)}}
        .dump();
}

std::string line_of(const RoundTripSurvey& survey) {
    const auto list_of = [](const std::vector<RoundTripSurvey::Change>& changes) {
        Json out = Json::array();
        for (const auto& change : changes)
            out.push_back({{"what", change.what},
                           {"cases", change.cases},
                           {"smallest", change.smallest->name},
                           {"detail", text::in_utf8(change.detail)}});
        return out;
    };
    return Json{{"record", "round-trips"},
                {"implementation", survey.subject->name()},
                {"operation", name_of(survey.operation)},
                {"asked", survey.asked},
                {"same_bytes", survey.same_bytes},
                {"changed", survey.changed},
                {"refused", survey.refused},
                {"failed", survey.failed},
                {"losses", list_of(survey.losses)},
                {"respellings", list_of(survey.respellings)}}
        .dump();
}

std::string line_of(const NumberSurvey& survey) {
    const auto example_of = [](const NumberSurvey::Example& example) {
        return Json{{"literal", example.literal},
                    {"family", example.family},
                    {"answer", example.stored.answer},
                    {"ulps", example.stored.ulps}};
    };
    Json families = Json::object();
    for (const auto& [name, tally] : survey.families)
        families[name] = {{"asked", tally.asked}, {"wrong", tally.wrong}, {"answers", tally.answers}};
    Json distances = Json::array();
    for (const auto& [power, literals] : survey.distances)
        distances.push_back({{"from", std::ldexp(1, power)}, {"literals", literals}});
    return Json{{"record", "numbers"},
                {"implementation", survey.subject->name()},
                {"asked", survey.asked},
                {"wrong", survey.wrong},
                {"answers", survey.answers},
                {"distances", std::move(distances)},
                {"worst", survey.worst ? example_of(*survey.worst) : Json(nullptr)},
                {"families", std::move(families)}}
        .dump();
}

std::string line_of(const Case& c) {
    return Json{{"record", "case"},
                {"corpus", c.corpus},
                {"format", c.format->name()},
                {"case", text::printable(c.name)},
                {"aspect", c.aspect},
                {"stance", c.stance ? Json(name_of(*c.stance)) : Json(nullptr)},
                {"clause", or_null(c.clause)},
                {"question", or_null(c.question)},
                {"why", or_null(c.why)}}
        .dump();
}

}  // namespace tool
