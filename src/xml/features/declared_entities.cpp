// Declarations are walked without a parser: enough of each is read to know what kind it is, well-formed or not.
#include "xml/features/declared_entities.hpp"

#include <algorithm>
#include <vector>

namespace nachklang::xml {
namespace {

/// The names and values of a declaration of entities: enough of it to know what kind it is.
class SubsetWalk {
  public:
    SubsetWalk(FeatureSet& out, std::string_view subset) : out_(out), rest_(subset) {}

    /// The names of the general entities that are declared.
    std::set<std::string, std::less<>> walk() {
        while (!rest_.empty()) {
            const std::size_t skipped = std::min(rest_.find_first_of("<%"), rest_.size());
            rest_.remove_prefix(skipped);
            if (rest_.empty()) break;
            if (rest_.front() == '%') {
                out_.add("parameter-reference");
                rest_.remove_prefix(1);
            } else if (taken("<!--", "-->", "doctype-comment") || taken("<?", "?>", "doctype-instruction")) {
            } else {
                declaration();
            }
        }
        return names_;
    }

  private:
    bool taken(std::string_view open, std::string_view close, std::string_view feature) {
        if (!rest_.starts_with(open)) return false;
        out_.add(feature);
        rest_.remove_prefix(std::min(rest_.find(close, open.size()), rest_.size() - 1) + 1);
        return true;
    }

    void declaration() {
        // To the ">" outside literals.
        char quote = 0;
        std::size_t end = 1;
        std::vector<std::string_view> literals;
        std::size_t opened = 0;
        for (; end < rest_.size() && (quote != 0 || rest_[end] != '>'); ++end) {
            const char c = rest_[end];
            out_.add_if(quote != 0 && c == '>', "subset-greater-than");
            out_.add_if(c == ']', "subset-bracket");
            if (quote != 0 && c == quote) {
                literals.push_back(rest_.substr(opened, end - opened));
                quote = 0;
            } else if (quote == 0 && (c == '"' || c == '\'')) {
                quote = c;
                opened = end + 1;
            }
        }
        const std::string_view whole = rest_.substr(0, end);
        rest_.remove_prefix(std::min(end + 1, rest_.size()));
        const auto holds = [&](std::string_view word) { return whole.find(word) != std::string_view::npos; };
        if (whole.starts_with("<!ENTITY")) return entity(whole, literals);
        out_.add_if(whole.starts_with("<!ELEMENT"), "element-declaration");
        out_.add_if(whole.starts_with("<!NOTATION"), "notation");
        out_.add_if(whole.starts_with("<!["), "conditional-section");
        if (!whole.starts_with("<!ATTLIST")) return;
        out_.add("attribute-list");
        out_.add_if(!literals.empty(), "attribute-default");
        const std::size_t fixed = whole.find("#FIXED"), value = whole.find_first_of("\"'", fixed);
        out_.add_if(fixed != std::string_view::npos, "attribute-fixed");
        out_.add_if(value != std::string_view::npos && fixed != std::string_view::npos && whole[value] == '\'',
                    "attribute-fixed-single");
        out_.add_if(holds(" ID "), "attribute-id");
        out_.add_if(holds("(") || holds("TOKEN") || holds(" ID") || holds("ENTIT"), "attribute-tokenised");
        out_.add_if(holds("("), "attribute-enumeration");
        out_.add_if(holds("xmlns") && !literals.empty(), "namespace-declared-by-default");
    }

    void entity(std::string_view whole, const std::vector<std::string_view>& literals) {
        const auto holds = [&](std::string_view word) { return whole.find(word) != std::string_view::npos; };
        const std::size_t at = std::min(whole.find_first_not_of(spaces, 8), whole.size());
        const bool parameter = whole.substr(at).starts_with('%');
        const bool external = holds(" SYSTEM ") || holds(" PUBLIC ");
        const std::size_t begin = std::min(whole.find_first_not_of(" \t\r\n%", at), whole.size());
        const std::string_view name = whole.substr(begin, whole.find_first_of(spaces, begin) - begin);
        out_.add(parameter ? "parameter-entity" : "entity-declared");
        out_.add_if(external, parameter ? "parameter-external" : "entity-external");
        out_.add_if(holds("NDATA"), "entity-unparsed");
        if (!parameter) {
            out_.add_if(!names_.emplace(name).second, "entity-twice");
            for (const std::string_view predefined : {"lt", "gt", "amp", "apos", "quot"})
                out_.add_if(name == predefined, "entity-predefined-declared");
        }
        if (external || literals.empty()) return;
        const std::string_view value = literals.front();
        out_.add_if(value.empty(), "entity-empty");
        out_.add_if(value.find('<') != std::string_view::npos, "entity-markup");
        for (auto at = value.find("&#"); at != std::string_view::npos; at = value.find("&#", at + 2)) {
            out_.add("entity-character-reference");
            const std::string_view digits = value.substr(at + 2, value.find(';', at) - at - 2);
            out_.add_if(is_tab_or_line_end(code_point_of(digits)), "entity-space-referred");
        }
        const auto reference = value.find('&');
        out_.add_if(reference != std::string_view::npos && !value.substr(reference).starts_with("&#"),
                    "entity-nested");
        Characters(out_, "entity").take(value);
    }

    FeatureSet& out_;
    std::string_view rest_;
    std::set<std::string, std::less<>> names_;
};

}  // namespace

std::uint64_t code_point_of(std::string_view digits) {
    const bool hexadecimal = digits.starts_with('x');
    if (hexadecimal) digits.remove_prefix(1);
    std::uint64_t point = 0;
    for (const char c : digits.substr(0, 12)) {
        const int digit = c >= '0' && c <= '9' ? c - '0' : (c | 0x20) - 'a' + 10;
        point = point * (hexadecimal ? 16 : 10) + static_cast<std::uint64_t>(std::max(digit, 0));
    }
    return point;
}

bool is_tab_or_line_end(std::uint64_t code_point) {
    return code_point == '\t' || code_point == '\n' || code_point == '\r';
}

std::set<std::string, std::less<>> declared_entities(FeatureSet& out, std::string_view subset) {
    return SubsetWalk(out, subset).walk();
}

}  // namespace nachklang::xml
