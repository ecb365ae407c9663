// Features of characters by their place, and of the declarations in an internal subset.
#pragma once

#include <cstdint>
#include <set>
#include <string>
#include <string_view>

#include <nachklang/feature_set.hpp>
#include <nachklang/number.hpp>

namespace nachklang::xml {

constexpr std::string_view spaces = " \t\r\n";

/// The characters of a text, by its place: "text", "value", "cdata" …
class Characters {
  public:
    Characters(FeatureSet& out, std::string_view place) : out_(out), place_(place) {}

    void take(std::string_view text) const {
        add_if(!text.empty() && (is_space(text.front()) || is_space(text.back())), "outer-space");
        add_if(text.find_first_of("\r\n") != std::string_view::npos, "line-end");
        add_if(text.find('\r') != std::string_view::npos, "any-cr");
        add_if(text.find_first_of("\r\n\t") != std::string_view::npos, "no-plain-space");
        for (const auto& [what, name] : {std::pair<std::string_view, std::string_view>{"\r\n", "cr-lf"},
                                         {"  ", "double-space"},
                                         {"]]", "bracket"},
                                         {"]]>", "section-end"},
                                         {"--", "hyphens"},
                                         {"?>", "question-mark"}})
            add_if(text.find(what) != std::string_view::npos, name);
        add_if(Decimal::parse(text).has_value(), "number");
        if (place_ == "text" || place_ == "value") as_field(text);
        for (std::size_t at = 0; at < text.size();) {
            const auto step = text::decode_utf8(text, at);
            const bool before_lf = text.substr(at).starts_with("\r\n");
            one(step.well_formed ? step.scalar : surrogate_at(text, at), before_lf);
            at += step.length;
        }
    }

  private:
    /// What a text says to a field that it is read into.
    void as_field(std::string_view text) const {
        const auto first = text.find_first_not_of(spaces);
        if (first == std::string_view::npos) return;
        const auto value = Decimal::parse(text.substr(first, text.find_last_not_of(spaces) + 1 - first));
        add_if(!value, "no-number");
        if (!value) return;
        out_.add(std::string(place_) + "-digits", value->digits().size());
        add_if(!value->is_integer(), "fraction");
        const auto is_past = [&](std::string_view largest, std::string_view smallest) {
            const auto bound = Decimal::parse(value->negative() ? smallest : largest);
            return Decimal::compare_magnitude(*value, *bound) > 0;
        };
        add_if(is_past("2147483647", "-2147483648"), "beyond-int32");
        add_if(is_past("9223372036854775807", "-9223372036854775808"), "beyond-int64");
    }
    static bool is_space(char c) { return spaces.find(c) != std::string_view::npos; }
    void add_if(bool holds, std::string_view what) const {
        if (holds) out_.add(std::string(place_) + "-" + std::string(what));
    }
    /// ED and two bytes that continue it are a surrogate.
    static char32_t surrogate_at(std::string_view text, std::size_t at) {
        return static_cast<unsigned char>(text[at]) == 0xED ? 0xD800 : 0xFFFD;
    }
    void one(char32_t c, bool before_lf) const {
        if (c >= 'a' && c <= 'z') return;
        add_if(c == '\r' && !before_lf, "cr");
        add_if(c == '\n', "lf");
        add_if(c == '\t', "tab");
        const bool control = c < 0x20 && c != '\t' && c != '\n' && c != '\r';
        add_if(control, "control");
        out_.add_if(control, "control");  // wherever it is
        add_if(c == 0x85, "next-line");
        add_if(c == 0x2028, "line-separator");
        add_if(c >= 0x7F && c < 0xA0, "c1");
        add_if(c >= 0x80, "beyond-ascii");
        add_if(c > 0xFFFF, "beyond-bmp");
        add_if(c == 0xFFFE || c == 0xFFFF, "noncharacter");
        add_if(c >= 0xD800 && c < 0xE000, "surrogate");
        add_if(c == '>', "greater-than");
        add_if(c == '<', "less-than");
        add_if(c == '&', "ampersand");
        add_if(c == '"', "double-quote");
        add_if(c == '\'', "apostrophe");
        add_if(c == 0xFEFF, "byte-order-mark");
        add_if(c == '%' && place_ == "entity", "percent");
    }

    FeatureSet& out_;
    std::string_view place_;
};

/// The code point that a character reference names by what follows its "&#".
std::uint64_t code_point_of(std::string_view digits);
bool is_tab_or_line_end(std::uint64_t code_point);

/// Adds the features of an internal subset; gives the names of the general entities that it declares.
std::set<std::string, std::less<>> declared_entities(FeatureSet& out, std::string_view subset);

}  // namespace nachklang::xml
