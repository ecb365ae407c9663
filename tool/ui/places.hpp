// Values place by place: each place where they differ, with the values found there and the names of those that hold
// them.
#pragma once

#include <string>
#include <vector>

#include <nachklang/compare.hpp>

#include "ui/terminal.hpp"

namespace tool {

/// The values to compare, each with the name that is printed for it. The first one comes first at every place.
class PlaceColumn {
  public:
    struct Value {
        nachklang::Trace trace;
        nachklang::CannotRepresent cannot_represent;
        bool is_document = false;  ///< a document's, or a written text's: the reference reader stored it
    };
    void add(std::string name, Value value);
    [[nodiscard]] const std::vector<std::string>& names() const { return names_; }
    [[nodiscard]] bool is_document(std::size_t i) const { return values_[i].is_document; }
    [[nodiscard]] std::vector<nachklang::PlacedValue> values() const;

  private:
    std::vector<std::string> names_;
    std::vector<Value> values_;
};

/// The places of a column where its values differ.
struct ColumnPlaces {
    PlaceColumn column;
    std::vector<nachklang::DifferingPlace> places;
};
ColumnPlaces places_of(const nachklang::Format& format, PlaceColumn column);

/// Each place once; those that `before` has with the same answers of the same implementations are left out.
void print_places(const ColumnPlaces& found, const ColumnPlaces* before, const Style& style);

/// Names in lines that fit the terminal; of very many the first ones, and how many follow.
void print_names(const std::vector<std::string>& names, std::string_view indent, const Style& style);

/// At most so many columns of printable text; a longer one is cut, with its length.
std::string cut_text(const std::string& printable, std::size_t columns);

}  // namespace tool
