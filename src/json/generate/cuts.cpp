// Cuts of JSON: ranges of siblings, a container in favour of one child or one descendant, the inside of strings,
// digits, white space, and at last bytes. A text that is not JSON is cut by bytes only, after the part that could
// be read.
#include "json/internal.hpp"

namespace nachklang::json {
namespace {

class Cutting {
  public:
    explicit Cutting(std::string_view bytes) : bytes_(bytes), document_(Document::read(bytes)) {}

    std::vector<Cut> run() {
        for (const Entry& entry : document_.tape()) take(entry);
        if (document_.accepted()) {
            cut_levels(bytes_, containers_, out_);
            cut_between(bytes_.size());
        }
        order_cuts(out_);
        if (!document_.accepted() || bytes_.size() <= small) cut_bytes(bytes_, out_);
        return std::move(out_);
    }

  private:
    static constexpr std::size_t small = 4096, few_children = 64;

    struct Container {
        std::size_t begin;
        std::vector<ByteRange> children;        // with their names, if they have any
        std::vector<std::size_t> values_begin;  // of each child, without its name
    };

    void take(const Entry& entry) {
        const bool opens = entry.kind == TokenKind::array_open || entry.kind == TokenKind::object_open;
        const bool closes = entry.kind == TokenKind::array_close || entry.kind == TokenKind::object_close;
        const std::size_t end = opens || closes ? entry.begin + 1 : entry.end;
        cut_between(entry.begin);
        last_ = end;
        if (closes) return close(end);
        if (!opens) cut_token(entry);
        if (entry.kind == TokenKind::name) {
            name_ = entry.begin;
            return;
        }
        if (!open_.empty()) {
            open_.back().children.push_back({name_.value_or(entry.begin), end});
            open_.back().values_begin.push_back(entry.begin);
        }
        name_.reset();
        if (opens) open_.push_back({entry.begin, {}, {}});
    }

    void close(std::size_t end) {
        const Container done = std::move(open_.back());
        open_.pop_back();
        containers_.push_back({done.begin, end});
        cut_siblings(done.children, out_);
        if (done.children.size() <= few_children)
            for (std::size_t i = 0; i < done.children.size(); ++i)
                out_.push_back({done.begin, end,
                                bytes_.substr(done.values_begin[i], done.children[i].end - done.values_begin[i])});
        if (!open_.empty()) open_.back().children.back().end = end;
    }

    void cut_token(const Entry& entry) {
        if (entry.kind == TokenKind::string || entry.kind == TokenKind::name) {
            if (entry.end - entry.begin > 3) cut_run(entry.begin + 1, entry.end - 1, out_);
        } else if (entry.kind == TokenKind::number && entry.end - entry.begin > 1) {
            out_.push_back({entry.begin, entry.end, "0"});
        }
    }

    /// White space from the token before up to `end`, a byte each.
    void cut_between(std::size_t end) {
        for (std::size_t at = last_; at < end; ++at)
            if (bytes_[at] != ',' && bytes_[at] != ':') out_.push_back({at, at + 1});
    }

    std::string_view bytes_;
    Document document_;
    std::vector<Cut> out_;
    std::vector<Container> open_;
    std::vector<ByteRange> containers_;
    std::optional<std::size_t> name_;
    std::size_t last_ = 0;
};

}  // namespace

std::vector<Cut> cuts_of(std::string_view bytes) {
    return Cutting(bytes).run();
}

}  // namespace nachklang::json
