// See xml_sequences.hpp. Documents are split by their markup alone; whether each is well-formed shows when it is
// read.
#include "seeded_faults/xml_sequences.hpp"

#include <algorithm>

namespace seeded_faults {
namespace {

constexpr std::string_view white_space = " \t\r\n";

class Splitter {
  public:
    Splitter(std::string_view text, const XmlSequenceMistakes& mistakes) : text_(text), mistakes_(mistakes) {}

    Documents split() {
        bool is_markup = true;
        while (at_ < text_.size() && !is_over_ && is_markup) is_markup = step();
        // What is left is no document, or the beginning of one.
        if (!is_markup || depth_ > 0) out_.emplace_back(text_.substr(begin_));
        return std::move(out_);
    }

  private:
    [[nodiscard]] bool is_at(std::string_view word) const { return text_.substr(at_).starts_with(word); }

    /// Goes behind the next `word`; false if there is none.
    bool behind(std::string_view word) {
        const auto found = text_.find(word, at_);
        if (found == std::string_view::npos) return false;
        at_ = found + word.size();
        return true;
    }

    /// Takes one piece of markup or text.
    bool step() {
        if (is_at("<!--")) return comment();
        if (is_at("<?")) return behind("?>");
        if (is_at("<![CDATA[")) return depth_ > 0 && behind("]]>");
        if (is_at("<!")) return document_type();
        if (is_at("<")) return tag();
        return text();
    }

    bool comment() {
        if (depth_ == 0 && !out_.empty() && mistakes_.ends_at_comment) is_over_ = true;
        return behind("-->");
    }

    bool document_type() {
        const std::size_t from = at_;
        const auto subset = text_.find('[', at_), end = text_.find('>', at_);
        if (!behind(subset < end ? "]>" : ">")) return false;
        if (mistakes_.document_type_kept) document_type_ = text_.substr(from, at_ - from);
        has_document_type_ = true;
        return true;
    }

    bool tag() {
        const std::size_t from = at_;
        char quote = '\0';
        for (; at_ < text_.size() && (quote != '\0' || text_[at_] != '>'); ++at_) {
            if (quote == text_[at_]) {
                quote = '\0';
            } else if (quote == '\0' && (text_[at_] == '"' || text_[at_] == '\'')) {
                quote = text_[at_];
            }
        }
        if (at_ == text_.size()) return false;
        ++at_;
        const std::string_view whole = text_.substr(from, at_ - from);
        const bool is_empty = whole.ends_with("/>"), is_end = whole.starts_with("</");
        if (is_end && depth_ == 0) return false;
        if (depth_ == 0) root_ = whole;
        depth_ = depth_ + (is_end || is_empty ? 0 : 1) - (is_end ? 1 : 0);
        if (depth_ == 0) end_document(from, is_empty);
        return true;
    }

    bool text() {
        const std::size_t from = at_;
        at_ = std::min(text_.find('<', at_), text_.size());
        const bool is_blank =
            text_.substr(from, at_ - from).find_first_not_of(white_space) == std::string_view::npos;
        if (depth_ > 0 || is_blank) {
            if (depth_ == 0 && at_begin(from)) begin_ = at_;
            return true;
        }
        // With what is behind it, a byte order mark would be a document.
        if (!mistakes_.text_skipped) out_.emplace_back(text_.substr(begin_, at_ - begin_));
        is_over_ = !mistakes_.text_skipped;
        begin_ = at_;
        return true;
    }
    [[nodiscard]] bool at_begin(std::size_t at) const { return at == begin_; }

    void end_document(std::size_t last_tag, bool is_empty) {
        std::string document(text_.substr(begin_, at_ - begin_));
        const bool is_left_out = mistakes_.empty_tags_left_out && is_empty && last_tag == begin_;
        if (!has_document_type_ && !document_type_.empty()) document.insert(root_begin() - begin_, document_type_);
        if (mistakes_.namespace_kept) keep_namespace(document);
        if (!is_left_out) out_.push_back(std::move(document));
        begin_ = at_;
        has_document_type_ = false;
        is_over_ = mistakes_.first_alone;
    }
    [[nodiscard]] std::size_t root_begin() const { return static_cast<std::size_t>(root_.data() - text_.data()); }

    void keep_namespace(std::string& document) {
        const auto declared = root_.find(" xmlns=");
        if (declared != std::string_view::npos) {
            const auto open = declared + std::string_view(" xmlns=").size();
            namespace_ = root_.substr(declared, root_.find(root_[open], open + 1) + 1 - declared);
        } else if (!namespace_.empty()) {
            const auto name_end = document.find_first_of(" \t\r\n/>", root_begin() - begin_ + 1);
            document.insert(name_end, namespace_);
        }
    }

    std::string_view text_;
    const XmlSequenceMistakes& mistakes_;
    Documents out_;
    std::size_t at_ = 0, begin_ = 0, depth_ = 0;
    std::string_view root_;  // its first tag
    std::string document_type_, namespace_;
    bool has_document_type_ = false, is_over_ = false;
};

}  // namespace

Documents xml_documents_of(std::string_view text, const XmlSequenceMistakes& mistakes) {
    return Splitter(text, mistakes).split();
}

}  // namespace seeded_faults
