// The features of one document, gathered by name.
#pragma once

#include <algorithm>
#include <span>
#include <stdexcept>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include <nachklang/format.hpp>

namespace nachklang {

/// Looks features up by their id. The table must outlive it.
class FeatureTable {
  public:
    explicit FeatureTable(std::span<const Feature> list) : list_(list) {
        for (std::size_t i = 0; i < list.size(); ++i) index_.emplace(list[i].id, static_cast<std::uint16_t>(i));
    }
    /// Throws std::logic_error for an unknown id.
    [[nodiscard]] std::uint16_t index_of(std::string_view id) const {
        const auto found = index_.find(id);
        if (found == index_.end()) throw std::logic_error("no feature of that name: " + std::string(id));
        return found->second;
    }
    [[nodiscard]] const Feature& operator[](std::size_t index) const { return list_[index]; }
    [[nodiscard]] std::size_t size() const { return list_.size(); }

  private:
    std::span<const Feature> list_;
    std::unordered_map<std::string_view, std::uint16_t> index_;
};

/// Gathers a document's features: each once, with its largest amount.
class FeatureSet {
  public:
    explicit FeatureSet(const FeatureTable& table) : table_(table), amounts_(table.size(), 0) {}
    void add(std::string_view id, std::uint64_t amount = 1) {
        std::uint64_t& known = amounts_[table_.index_of(id)];
        known = std::max(known, amount);
    }
    void add_if(bool holds, std::string_view id) {
        if (holds) add(id);
    }
    /// Sorted by index; features of amount 0 are left out.
    [[nodiscard]] std::vector<FeatureValue> values() const {
        std::vector<FeatureValue> out;
        for (std::size_t i = 0; i < amounts_.size(); ++i)
            if (amounts_[i] != 0) out.push_back({static_cast<std::uint16_t>(i), amounts_[i]});
        return out;
    }

  private:
    const FeatureTable& table_;
    std::vector<std::uint64_t> amounts_;
};

}  // namespace nachklang
