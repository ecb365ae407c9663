// Values compared place by place.
#include <algorithm>
#include <list>
#include <map>
#include <set>

#include <nachklang/compare.hpp>

namespace nachklang {
namespace {

/// The places of all values, each path once, in the order of the first value; those of later ones follow the place
/// before them.
class PathTable {
  public:
    PathTable(const Places& places, const std::vector<PlacedValue>& values) : held_(values.size()) {
        std::map<std::string, std::list<std::string>::iterator> known;
        for (std::size_t i = 0; i < values.size(); ++i) {
            auto next = paths_.begin();
            for (Place& place : places.places_of(*values[i].trace)) {
                auto found = known.find(place.path);
                if (found == known.end()) {
                    found = known.emplace(place.path, paths_.insert(next, place.path)).first;
                    needs_[place.path] = place.needs;
                    if (place.order) orders_.insert(place.path);
                }
                next = std::next(found->second);
                held_[i].emplace(place.path, std::move(place));
            }
        }
    }
    [[nodiscard]] const std::list<std::string>& paths() const { return paths_; }
    [[nodiscard]] const std::string& needs(const std::string& path) const { return needs_.at(path); }
    [[nodiscard]] bool is_order(const std::string& path) const { return orders_.contains(path); }
    [[nodiscard]] const Place* find(std::size_t value, const std::string& path) const {
        const auto found = held_[value].find(path);
        return found == held_[value].end() ? nullptr : &found->second;
    }

  private:
    std::list<std::string> paths_;
    std::map<std::string, std::string> needs_;
    std::set<std::string> orders_;
    std::vector<std::map<std::string, Place>> held_;
};

std::string value_of(const Place* place) {
    if (place == nullptr) return "";
    return place->value.empty() ? place->shown : place->value;
}

bool same_value(const PlaceAnswer& answer, const Place* place) {
    return answer.absent == (place == nullptr) && answer.value == value_of(place);
}

void sort_answers(std::vector<PlaceAnswer>& answers) {
    std::stable_sort(answers.begin(), answers.end(), [](const PlaceAnswer& a, const PlaceAnswer& b) {
        const bool first_a = a.values.front() == 0, first_b = b.values.front() == 0;
        return first_a != first_b ? first_a : a.values.size() > b.values.size();
    });
}

/// The answers at one place, apart by value, or by how one value is stored.
DifferingPlace place_at(const PathTable& table, const std::vector<PlacedValue>& values, const std::string& path,
                        bool by_storage) {
    DifferingPlace out;
    out.path = path;
    out.stored_only = by_storage;
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (by_storage && values[i].is_document) continue;
        const Place* place = table.find(i, path);
        const CannotRepresent& lacks = values[i].cannot_represent;
        if (std::find(lacks.begin(), lacks.end(), table.needs(path)) != lacks.end()) {
            out.not_reported.push_back(i);
            continue;
        }
        std::size_t at = 0;
        while (at < out.answers.size() &&
               !(same_value(out.answers[at], place) &&
                 (!by_storage || place == nullptr || out.answers[at].stored == place->stored)))
            ++at;
        if (at == out.answers.size()) {
            out.answers.push_back({.absent = place == nullptr,
                                   .shown = place == nullptr ? "" : place->shown,
                                   .stored = place == nullptr ? "" : place->stored,
                                   .value = value_of(place),
                                   .values = {}});
        }
        if (place != nullptr && out.answers[at].stored != place->stored) out.answers[at].stored.clear();
        out.answers[at].values.push_back(i);
    }
    sort_answers(out.answers);
    return out;
}

}  // namespace

std::vector<DifferingPlace> differing_places(const Format& format, const std::vector<PlacedValue>& values) {
    std::vector<DifferingPlace> out;
    if (format.places() == nullptr || values.empty()) return out;
    const PathTable table(*format.places(), values);
    std::vector<DifferingPlace> stored;
    std::string below;  // what is absent somewhere is named once, not with all that it holds
    std::set<std::string> incomplete;
    for (const std::string& path : table.paths()) {
        if (!below.empty() && path.starts_with(below + "/")) continue;
        below.clear();
        if (table.is_order(path) && incomplete.contains(path.substr(0, path.rfind(" (")))) continue;
        DifferingPlace place = place_at(table, values, path, false);
        if (place.answers.size() > 1) {
            const bool absent = std::any_of(place.answers.begin(), place.answers.end(),
                                            [](const PlaceAnswer& a) { return a.absent; });
            if (absent && !path.empty()) {
                below = path;
                incomplete.insert(path.substr(0, path.rfind('/')));
            }
            out.push_back(std::move(place));
            continue;
        }
        DifferingPlace by_storage = place_at(table, values, path, true);
        if (by_storage.answers.size() > 1) stored.push_back(std::move(by_storage));
    }
    std::move(stored.begin(), stored.end(), std::back_inserter(out));
    return out;
}

}  // namespace nachklang
