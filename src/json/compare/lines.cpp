// A value line by line. A walk keeps what is still to come and where each container ends, and nothing of a line
// that was shown.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/text.hpp>

#include "json/compare/explain.hpp"
#include "json/compare/tree.hpp"

namespace nachklang::json {
namespace {

constexpr std::size_t none = static_cast<std::size_t>(-1);

class Lines {
  public:
    Lines(std::span<const Item> items, const std::function<bool(const TreeLine&)>& take)
        : items_(items), take_(take) {}

    void show() {
        to_come_.push_back({0, none, none, 0});
        while (!to_come_.empty()) {
            const ToCome next = to_come_.back();
            to_come_.pop_back();
            if (!take_(line_of(next))) return;
            if (next.value != none && opens(items_[next.value].kind)) go_inside(next.value, next.depth + 1);
        }
    }

  private:
    struct ToCome {
        std::size_t value;  // item; none of a name with several values
        std::size_t name;   // item
        std::size_t index;  // in an array
        std::size_t depth;
    };

    TreeLine line_of(const ToCome& next) {
        TreeLine out{nodes_, (next.name != none ? 1U : 0U) + (next.value != none ? 1U : 0U), next.depth, ""};
        nodes_ += out.nodes;
        if (next.name != none) out.text = step_to_name(items_[next.name]);
        if (next.index != none) out.text = fmt::format("/{}", next.index);
        if (next.value == none) return out;
        const Item& item = items_[next.value];
        const bool is_empty = opens(item.kind) && item.end == next.value + 1;
        out.text += (out.text.empty() ? "" : "  ") + shown_value(item, is_empty);
        return out;
    }

    void go_inside(std::size_t container, std::size_t depth) {
        const std::size_t begin = container + 1, end = items_[container].end, known = to_come_.size();
        if (items_[begin].kind == ItemKind::key) {
            for (const NamedValues& name : members_of(items_, begin, end).names) add(name, depth);
        } else {
            std::size_t index = 0;
            for (std::size_t at = begin; at < end; at = item_behind(items_, at))
                to_come_.push_back({at, none, index++, depth});
        }
        std::reverse(to_come_.begin() + static_cast<std::ptrdiff_t>(known), to_come_.end());
    }

    void add(const NamedValues& name, std::size_t depth) {
        if (name.values.size() == 1) {
            to_come_.push_back({name.values.front(), name.key, none, depth});
            return;
        }
        to_come_.push_back({none, name.key, none, depth});
        for (const std::size_t value : name.values) to_come_.push_back({value, none, none, depth + 1});
    }

    std::span<const Item> items_;
    const std::function<bool(const TreeLine&)>& take_;
    std::vector<ToCome> to_come_;  // the next one last
    std::size_t nodes_ = 0;        // shown so far
};

}  // namespace

std::string step_to_name(const Item& key) {
    return "/" + text::printable_atoms(name_text(key));
}

std::string shown_value(const Item& item, bool is_empty) {
    constexpr std::size_t most = 60;
    if (is_empty && item.kind == ItemKind::array_open) return "[]";
    if (is_empty && item.kind == ItemKind::object_open) return "{}";
    return shown_scalar(item, item.kind, most);
}

void for_each_line(const Trace& trace, const std::function<bool(const TreeLine&)>& take) {
    if (!trace.items().empty()) Lines(trace.items(), take).show();
}

}  // namespace nachklang::json
