// Cuts of XML: ranges of neighbours in an element's content, an element in favour of its content or of a
// descendant, attributes, declarations, the inside of values, texts and markup, and at last bytes. The scan
// assumes a well-formed document and checks nothing; the caller refuses a cut that leaves no document.
#include <algorithm>
#include <optional>

#include "xml/internal.hpp"
#include "xml/read/cursor.hpp"

namespace nachklang::xml {
namespace {

class Cutting {
  public:
    explicit Cutting(std::string_view document) : document_(document), open_(1) {}

    std::vector<Cut> run() {
        while (at_ < document_.size()) take();
        while (!open_.empty()) close(document_.size(), document_.size());
        cut_levels(document_, elements_, out_);
        order_cuts(out_);
        cut_bytes(document_, out_);
        return std::move(out_);
    }

  private:
    struct Element {
        std::size_t begin = 0, content = 0;
        std::vector<ByteRange> children{};
    };

    static constexpr std::string_view smallest = "<a/>";

    [[nodiscard]] bool is(std::string_view word) const { return document_.substr(at_).starts_with(word); }
    [[nodiscard]] std::size_t past(std::string_view end, std::size_t from) const {
        const auto found = document_.find(end, std::min(from, document_.size()));
        return found == std::string_view::npos ? document_.size() : found + end.size();
    }

    void take() {
        if (is("<!--")) return markup(4, "-->");
        if (is("<![CDATA[")) return markup(9, "]]>");
        if (is("<?")) return markup(2, "?>");
        if (is("<!")) return doctype();
        if (is("</")) {
            const std::size_t begin = at_;
            at_ = past(">", at_);
            // The outermost holds the whole document and has no tags.
            if (open_.size() > 1) close(begin, at_);
            return;
        }
        if (is("<")) return start_tag();
        const std::size_t begin = at_;
        at_ = std::min(document_.find('<', at_), document_.size());
        child(begin, at_);
        cut_run(begin, at_, out_);
    }

    void child(std::size_t begin, std::size_t end) { open_.back().children.push_back({begin, end}); }

    /// A comment, an instruction, a section: all of it, and its inside.
    void markup(std::size_t opener, std::string_view closer) {
        const std::size_t begin = at_;
        at_ = past(closer, at_ + opener);
        child(begin, at_);
        if (at_ - begin > opener + closer.size()) cut_run(begin + opener, at_ - closer.size(), out_);
    }

    void start_tag() {
        const std::size_t begin = at_;
        while (at_ < document_.size() && !is_space(document_[at_]) && document_[at_] != '>' &&
               document_[at_] != '/')
            ++at_;
        std::vector<ByteRange> attributes;
        while (at_ < document_.size() && document_[at_] != '>' && document_[at_] != '/') attribute(attributes);
        cut_siblings(attributes, out_);
        const bool empty = is("/");
        at_ = past(">", at_);
        child(begin, at_);
        if (empty) {
            out_.push_back({begin, at_, smallest});
        } else {
            open_.push_back({begin, at_, {}});
        }
    }

    /// With the white space before it.
    void attribute(std::vector<ByteRange>& out) {
        const std::size_t begin = at_;
        const std::size_t quote = document_.find_first_of("\"'>", at_);
        if (quote == std::string_view::npos || document_[quote] == '>') {
            at_ = std::min(document_.find_first_of("/>", at_ + 1), document_.size());
            return;
        }
        at_ = past(document_.substr(quote, 1), quote + 1);
        out.push_back({begin, at_});
        if (at_ > quote + 2) cut_run(quote + 1, at_ - 1, out_);
    }

    void close(std::size_t content_end, std::size_t end) {
        const Element done = std::move(open_.back());
        open_.pop_back();
        cut_siblings(done.children, out_);
        if (open_.empty()) return;
        open_.back().children.back().end = end;
        elements_.push_back({done.begin, end});
        out_.push_back({done.begin, end, document_.substr(done.content, content_end - done.content)});
        out_.push_back({done.content, content_end});
        out_.push_back({done.content - 1, end, "/>"});
        out_.push_back({done.begin, end, smallest});
    }

    /// The document type declaration: all of it, its subset, and each declaration in it.
    void doctype() {
        const std::size_t begin = at_;
        std::vector<ByteRange> inside;
        std::optional<std::size_t> subset;
        at_ += 2;
        while (at_ < document_.size() && document_[at_] != '>') {
            const char c = document_[at_];
            if (c == '"' || c == '\'') {
                at_ = past(document_.substr(at_, 1), at_ + 1);
            } else if (c == '[' && !subset) {
                subset = at_++;
            } else if (c == ']' && subset) {
                out_.push_back({*subset, ++at_});
            } else if (subset && c == '<') {
                const std::size_t from = at_;
                declaration();
                inside.push_back({from, at_});
            } else {
                ++at_;
            }
        }
        at_ = std::min(at_ + 1, document_.size());
        child(begin, at_);
        cut_siblings(inside, out_);
    }

    void declaration() {
        if (is("<!--")) {
            at_ = past("-->", at_ + 4);
            return;
        }
        if (is("<?")) {
            at_ = past("?>", at_ + 2);
            return;
        }
        while (at_ < document_.size() && document_[at_] != '>') {
            const char c = document_[at_];
            if (c != '"' && c != '\'') {
                ++at_;
                continue;
            }
            const std::size_t quote = at_;
            at_ = past(document_.substr(at_, 1), at_ + 1);
            if (at_ > quote + 2) cut_run(quote + 1, at_ - 1, out_);
        }
        at_ = std::min(at_ + 1, document_.size());
    }

    std::string_view document_;
    std::vector<Cut> out_;
    std::vector<Element> open_;
    std::vector<ByteRange> elements_;
    std::size_t at_ = 0;
};

}  // namespace

std::vector<Cut> cuts_of(std::string_view document) {
    return Cutting(document).run();
}

}  // namespace nachklang::xml
