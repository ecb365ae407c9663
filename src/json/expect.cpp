// What the standard says of a document that no sheet describes.
#include <algorithm>
#include <array>

#include "json/internal.hpp"
#include "json/questions.hpp"

namespace nachklang::json {
namespace {

constexpr std::string_view byte_order_mark = "\xEF\xBB\xBF";

std::optional<Trace> trace_if_json(std::string_view bytes) {
    const Document document = Document::read(bytes);
    if (!document.accepted()) return std::nullopt;
    return document.trace();
}

/// An extension in the sense of RFC 8259, 9: another way to write a value. The other departures are questions, too,
/// but no grammar anybody wrote down allows them.
bool is_extension(std::string_view id) {
    constexpr std::array<std::string_view, 11> extensions{
        "comments",     "trailing-comma", "single-quotes", "bare-names",        "non-finite",      "hexadecimal",
        "leading-plus", "bare-point",     "leading-zeros", "control-in-string", "escaped-line-end"};
    return std::find(extensions.begin(), extensions.end(), id) != extensions.end();
}

Answer refused(std::string question) {
    return {std::move(question), "refused", std::nullopt};
}

/// The document with each ill-formed sequence put through `replacement`.
std::string without_ill_formed(std::string_view bytes, std::string_view replacement) {
    std::string out;
    for (std::size_t at = 0; at < bytes.size();) {
        const auto step = text::decode_utf8(bytes, at);
        if (step.well_formed) {
            out += bytes.substr(at, step.length);
        } else {
            out += replacement;
        }
        at += step.length;
    }
    return out;
}

/// A trace's line with every carried byte as that byte again.
std::string with_bytes_back(std::string_view line, char32_t plane) {
    constexpr std::size_t head = 7;  // "str u8:" or "key u8:"
    if (!line.starts_with("str u8:") && !line.starts_with("key u8:")) return std::string(line);
    const std::string bytes = *text::from_hex(line.substr(head, line.size() - head - 1));
    std::string out;
    for (std::size_t at = 0; at < bytes.size();) {
        const auto step = text::decode_utf8(bytes, at);
        const bool carried = step.well_formed && step.scalar >= plane && step.scalar < plane + 256;
        out += carried ? std::string(1, static_cast<char>(step.scalar - plane)) : bytes.substr(at, step.length);
        at += step.length;
    }
    return std::string(line.substr(0, head)) + text::to_hex(out) + "\n";
}

/// Stray bytes go through the reader as characters that the document does not use, and come back as bytes.
std::optional<Trace> trace_with_stray_bytes(std::string_view bytes) {
    std::string carried;
    constexpr char32_t plane = 0x10FE00;  // private use; byte b travels as plane + b
    for (std::size_t at = 0; at < bytes.size();) {
        const auto step = text::decode_utf8(bytes, at);
        if (step.well_formed) {
            if (step.scalar >= plane && step.scalar < plane + 256) return std::nullopt;
            carried += bytes.substr(at, step.length);
            at += step.length;
        } else {
            text::append_utf8(carried, plane + static_cast<unsigned char>(bytes[at]));
            ++at;
        }
    }
    const auto trace = trace_if_json(carried);
    if (!trace) return std::nullopt;
    std::string out;
    std::string_view rest = trace->text();
    while (!rest.empty()) {
        const std::size_t end = rest.find('\n') + 1;
        out += with_bytes_back(rest.substr(0, end), plane);
        rest.remove_prefix(end);
    }
    return Trace::parse(std::move(out));
}

std::optional<std::string> as_utf8_from_wider(std::string_view bytes) {
    const auto zero = [&](std::size_t i) { return i < bytes.size() && bytes[i] == '\0'; };
    std::vector<text::Utf> forms;
    if (bytes.starts_with("\xFF\xFE") && zero(2) && zero(3))
        forms = {text::Utf::utf32le};
    else if (bytes.size() >= 4 && zero(0) && zero(1) && (!zero(3) || bytes.substr(2, 2) == "\xFE\xFF"))
        forms = {text::Utf::utf32be};
    else if (bytes.size() >= 4 && !zero(0) && zero(1) && zero(2) && zero(3))
        forms = {text::Utf::utf32le};
    else if (bytes.starts_with("\xFF\xFE") || (bytes.size() >= 2 && !zero(0) && zero(1)))
        forms = {text::Utf::utf16le};
    else if (bytes.starts_with("\xFE\xFF") || (bytes.size() >= 2 && zero(0) && !zero(1)))
        forms = {text::Utf::utf16be};
    for (const text::Utf form : forms) {
        auto out = text::to_utf8(bytes, form);
        if (!out) continue;
        if (out->starts_with(byte_order_mark)) out->erase(0, byte_order_mark.size());
        return out;
    }
    return std::nullopt;
}

/// An open point that decides whether there is a document at all: refusing is as good an answer as the other one.
Expectation open_with(std::string question, std::string answer, Trace value, std::size_t amount) {
    Expectation out;
    out.stance = Stance::open;
    out.clause = question_named(question).clause;
    out.occurrences.push_back({question, 0, amount, 1});
    out.answers = {refused(question), {question, std::move(answer), value}};
    out.is_no_text = true;
    out.acceptance_cause = "verdict/accepted-non-text";
    return out;
}

/// A document that breaks off deep inside may exhaust a decoder before it comes to the error.
void add_limits(Expectation& out, const Document& document) {
    for (const auto& [id, amount] : {std::pair<std::string_view, std::size_t>{"depth", document.deepest()},
                                     {"document-size", document.bytes().size()}})
        if (amount >= question_named(id).raised_from) add_occurrence(out.occurrences, id, 0, amount);
}

/// A text that begins with a document: a decoder may take that and leave the rest, whatever the rest is.
void add_cut_short(Expectation& out, const Document& document) {
    const std::string_view bytes = document.bytes();
    const auto first = bytes.find_first_not_of(" \t\r\n");
    std::size_t end = document.rejection()->position.offset;
    auto value = trace_if_json(bytes.substr(0, end));
    // A number may be cut inside: of `1.x` a decoder may take the 1.
    const bool number = first < end && std::string_view("-0123456789").find(bytes[first]) != std::string_view::npos;
    for (; number && !value && end > first; --end) value = trace_if_json(bytes.substr(0, end - 1));
    if (!value) return;
    std::erase_if(out.occurrences, [](const Occurrence& o) { return o.question == "text-after-end"; });
    add_occurrence(out.occurrences, "text-after-end", end, 1);
    out.cut_short = CutShort{"text-after-end", "verdict/rest-ignored", std::move(*value), "[1] x"};
}

Expectation rejected_with(const Rejection& rejection) {
    Expectation out;
    out.stance = Stance::reject;
    out.clause = rejection.clause;
    // RFC 8259, 9: a parser may accept other forms.
    out.acceptance_basis = Basis::permitted;
    out.acceptance_cause = "verdict/accepted-non-text";
    out.acceptance_explained = false;
    return out;
}

}  // namespace

Expectation expectation_of(std::string_view bytes) {
    const Document document = Document::read(bytes);
    if (document.accepted()) {
        Expectation out;
        out.stance = Stance::accept;
        out.clause = "RFC 8259, 9";
        out.value = document.trace();
        out.occurrences = occurrences_of(document);
        return out;
    }
    if (bytes.starts_with(byte_order_mark))
        if (auto value = trace_if_json(bytes.substr(byte_order_mark.size())))
            return open_with("byte-order-mark", "ignored", *value, 1);
    if (const auto utf8 = as_utf8_from_wider(bytes))
        if (auto value = trace_if_json(*utf8)) return open_with("encoding", "read", *value, 1);

    Expectation out = rejected_with(*document.rejection());
    add_limits(out, document);
    if (const auto at = text::first_ill_formed(bytes)) {
        if (const auto replaced = trace_if_json(without_ill_formed(bytes, "\xEF\xBF\xBD"))) {
            out.clause = "RFC 3629, 3";
            out.acceptance_cause = "verdict/accepted-ill-formed-utf8";
            out.occurrences.push_back({"ill-formed-utf8", *at, 1, 1});
            out.answers = {refused("ill-formed-utf8"), {"ill-formed-utf8", "replaced", replaced}};
            if (const auto kept = trace_with_stray_bytes(bytes))
                out.answers.push_back({"ill-formed-utf8", "kept", kept});
            if (const auto dropped = trace_if_json(without_ill_formed(bytes, "")))
                out.answers.push_back({"ill-formed-utf8", "dropped", dropped});
        }
        add_cut_short(out, document);
        return out;
    }
    if (const auto extended = read_extended(bytes)) {
        if (std::all_of(extended->uses.begin(), extended->uses.end(),
                        [](const auto& use) { return is_extension(use.extension); })) {
            out.acceptance_basis = Basis::permitted;
            out.acceptance_cause = "verdict/accepted-extension";
        }
        if (std::any_of(extended->uses.begin(), extended->uses.end(), [](const auto& use) {
                return use.extension == "text-after-end" || use.extension == "missing-commas";
            }))
            out.explained_value = trace_if_json(extended->strict_text);
        for (const auto& use : extended->uses) add_occurrence(out.occurrences, use.extension, use.offset, 1);
        for (const auto& use : extended->uses) out.answers.push_back(refused(use.extension));
    }
    add_cut_short(out, document);
    return out;
}

}  // namespace nachklang::json
