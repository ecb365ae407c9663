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

/// With what the record adds that a document is decoded into, for formats of documents that are. No text has these.
inline std::vector<Feature> with_field_features(std::vector<Feature> of_documents) {
    std::vector<Feature> out{
        {"field-integer", "the field is an integer"},
        {"field-int32", "the field is a 32-bit integer"},
        {"field-int64", "the field is a 64-bit integer"},
        {"field-binary64", "the field is a binary64"},
        {"field-boolean", "the field is a boolean"},
        {"field-text", "the field is a text"},
        {"field-list", "the field is a list"},
        {"holds-integers", "the field is an integer or a list of integers"},
        {"beyond-field", "an integer is beyond the range of its field"},
        {"field-record", "the field is a record"},
        {"field-instant", "the field is an instant"},
        {"field-bytes", "the field is bytes"},
        {"field-map", "the field is a map by number"},
        {"field-several", "the record has several fields"},
        {"field-kinds", "the record is of one of several kinds"},
        {"field-attribute", "the field is an attribute"},
    };
    out.insert(out.end(), of_documents.begin(), of_documents.end());
    return out;
}

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
    /// Of sizes and lengths: below `least` they tell nothing in a corpus of small documents.
    void add_from(std::uint64_t least, std::string_view id, std::uint64_t amount) {
        if (amount >= least) add(id, amount);
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

/// Which kinds of ill-formed UTF-8 occur (Unicode 15, table 3-7), as the features utf-8-stray, utf-8-overlong,
/// utf-8-surrogate, utf-8-beyond-last and utf-8-cut-short.
inline void add_ill_formed_kinds(FeatureSet& out, std::string_view bytes) {
    for (std::size_t at = 0; at < bytes.size();) {
        const auto step = text::decode_utf8(bytes, at);
        if (!step.well_formed) {
            const auto first = static_cast<unsigned char>(bytes[at]);
            const auto second = at + 1 < bytes.size() ? static_cast<unsigned char>(bytes[at + 1]) : 0U;
            const bool continues = (second & 0xC0U) == 0x80;
            if (first < 0xC0)
                out.add("utf-8-stray");
            else if (first < 0xC2 || (first == 0xE0 && continues && second < 0xA0) ||
                     (first == 0xF0 && continues && second < 0x90))
                out.add("utf-8-overlong");
            else if (first == 0xED && continues && second >= 0xA0)
                out.add("utf-8-surrogate");
            else if (first > 0xF4 || (first == 0xF4 && continues && second >= 0x90))
                out.add("utf-8-beyond-last");
            else
                out.add("utf-8-cut-short");
        }
        at += step.length;
    }
}

}  // namespace nachklang
