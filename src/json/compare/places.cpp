// A JSON value place by place, with JSON pointers (RFC 6901) as paths.
#include <fmt/format.h>

#include <map>

#include "json/compare/explain.hpp"
#include "json/compare/tree.hpp"
#include "json/internal.hpp"

namespace nachklang::json {
namespace {

constexpr std::size_t whole = std::size_t{1} << 24;

/// A reference token: "~" and "/" are escaped (RFC 6901, 3).
std::string token_of(std::string_view name) {
    std::string out;
    for (const char c : text::printable_atoms(name)) out += c == '~' ? "~0" : (c == '/' ? "~1" : std::string(1, c));
    return out;
}

/// An array or object whose end has not come.
struct Open {
    std::string path;
    bool is_object = false;
    std::size_t items = 0;
    std::map<std::string, std::size_t> names = {};  ///< how often each name came
    std::string order = {};                         ///< the names as they came
};

class Walk {
  public:
    std::vector<Place> of(const Trace& trace) {
        for (const Item& item : trace.items()) take(item);
        return std::move(out_);
    }

  private:
    void take(const Item& item) {
        if (closes(item.kind)) return close();
        if (item.kind == ItemKind::key) {
            name_ = item.name_kind == ItemKind::string ? item.field(0).atoms()
                                                       : shown_scalar(item, item.name_kind, whole);
            return;
        }
        const std::string path = next_path();
        if (opens(item.kind)) {
            const bool is_object = item.kind == ItemKind::object_open;
            out_.push_back({path, item.kind == ItemKind::container_open ? "array or object"
                                  : is_object                           ? "object"
                                                                        : "array"});
            open_.push_back({path, is_object});
            return;
        }
        out_.push_back(scalar(path, item));
    }

    /// The path of the value that comes now.
    std::string next_path() {
        if (open_.empty()) return "";
        Open& parent = open_.back();
        ++parent.items;
        if (!parent.is_object) return fmt::format("{}/{}", parent.path, parent.items - 1);
        const std::string token = token_of(name_);
        parent.order += (parent.order.empty() ? "" : ", ") + text::printable_atoms(name_);
        const std::size_t times = ++parent.names[token];
        return fmt::format("{}/{}{}", parent.path, token, times > 1 ? fmt::format("#{}", times) : "");
    }

    void close() {
        const Open& done = open_.back();
        if (done.is_object && done.items > 1)
            out_.push_back({done.path + " (order of members)", done.order, "", "", true, "order"});
        open_.pop_back();
    }

    static Place scalar(std::string path, const Item& item) {
        if (!is_number(item.kind)) return {std::move(path), shown_scalar(item, item.kind, whole)};
        const StoredNumber number = stored_number(item, item.kind);
        return {std::move(path), text::printable(shown_number(item, item.kind)),
                number.exact ? number.exact->canonical() : "", kind_word(item.kind)};
    }

    std::vector<Place> out_;
    std::vector<Open> open_;
    std::string name_;
};

}  // namespace

std::vector<Place> places_of(const Trace& trace) {
    return Walk().of(trace);
}

}  // namespace nachklang::json
