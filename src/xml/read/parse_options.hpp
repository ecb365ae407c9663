// What a parse of an XML document is given and what it leaves behind: options, notes, the stack of open elements,
// and the sink that keeps nothing.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "xml/read/subset.hpp"
#include "xml/read/version_1_1.hpp"

namespace nachklang::xml {

inline constexpr std::string_view xml_uri = "http://www.w3.org/XML/1998/namespace";
inline constexpr std::string_view xmlns_uri = "http://www.w3.org/2000/xmlns/";

/// Keeps nothing: a verdict.
struct NoSink {
    static constexpr bool wants_data = false;
    void doctype(std::string_view) {}
    void element(std::string_view, std::string_view, std::string_view) {}
    void attribute(std::string_view, std::string_view, std::string_view, std::string_view, bool) {}
    void declaration(std::string_view, std::string_view) {}
    void end() {}
    void text(std::string_view) {}
    void cdata(std::string_view) {}
    void comment(std::string_view) {}
    void instruction(std::string_view, std::string_view) {}
    void reference(std::string_view) {}
};

/// What a parse reports besides its verdict.
struct ParseNotes {
    std::string version;
    bool undeclared_entity = false, unread_entity = false;
    bool odd_space = false;           ///< xml:space with a value that the standard does not know (2.10)
    bool odd_namespace_name = false;  ///< a namespace name that is no URI reference (Namespaces 1.0, 2.1)
    std::size_t deepest = 0, most_attributes = 0, expanded = 0, longest_name = 0, deepest_entity = 0;
    SubsetNotes subset;
};

/// The names of the open elements, one behind the other.
class OpenElements {
  public:
    void push(std::string_view name) {
        starts_.push_back(names_.size());
        names_ += name;
    }
    void pop() {
        names_.resize(starts_.back());
        starts_.pop_back();
    }
    [[nodiscard]] std::string_view top() const { return std::string_view(names_).substr(starts_.back()); }
    [[nodiscard]] std::size_t size() const { return starts_.size(); }
    [[nodiscard]] bool empty() const { return starts_.empty(); }

  private:
    std::string names_;
    std::vector<std::size_t> starts_;
};

/// Other ways to read that implementations choose.
struct ParseOptions {
    bool keep_entities = false;            ///< report references in content instead of expanding them
    bool vector_code = true;               ///< skip plain text with vector instructions
    bool skip_parameter_entities = false;  ///< read no parameter entity, as a processor may (5.1)
    bool version_1_1 = false;              ///< read by XML 1.1 and Namespaces 1.1 what declares version 1.1
    /// Production 2 of the version by which a document is read.
    [[nodiscard]] auto characters() const { return version_1_1 ? is_char_1_1 : is_char; }
    bool process_after_undeclared = false;  ///< keep processing declarations after an undeclared parameter entity
};

}  // namespace nachklang::xml
