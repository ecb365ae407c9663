// Mini-XML: text unchanged (opaque). Comments, instructions and CDATA come as elements whose names begin with
// their opening.
#include <nachklang/adapter_markup.hpp>

#include "raw_instruction.hpp"

#include <mxml.h>

#include <cstdlib>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

thread_local std::string last_error;  // its error callback takes no user data

void note(const char* message) {
    if (last_error.empty()) last_error = message;
}

/// True where what is inside has still to be printed.
bool start(mxml_node_t* node, TraceOut& out) {
    const std::string_view name = mxmlGetElement(node);
    const auto between = [&](std::string_view head, std::string_view tail) {
        std::string_view inside = name.substr(head.size());
        if (inside.ends_with(tail)) inside.remove_suffix(tail.size());
        return inside;
    };
    if (name.starts_with("!--")) {
        out.comment(between("!--", "--"));
        return false;
    }
    if (name.starts_with("![CDATA[")) {
        out.cdata(mxmlGetCDATA(node));
        return false;
    }
    if (name.starts_with("?")) {
        const std::string_view inside = between("?", "?");
        raw_instruction(inside, out);
        return true;
    }
    if (name.starts_with("!")) return true;
    out.element(name, std::nullopt, std::nullopt);
    for (int i = 0; i < mxmlElementGetAttrCount(node); ++i) {
        const char* attribute = nullptr;
        const char* value = mxmlElementGetAttrByIndex(node, i, &attribute);
        out.attribute(attribute, std::nullopt, std::nullopt, value == nullptr ? "" : value);
    }
    return true;
}

bool is_element(mxml_node_t* node) {
    if (mxmlGetType(node) != MXML_ELEMENT) return false;
    const char first = mxmlGetElement(node)[0];
    return first != '!' && first != '?';
}

void print(mxml_node_t* root, TraceOut& out) {
    mxml_node_t* node = root;
    while (node != nullptr) {
        bool inside = false;
        if (mxmlGetType(node) == MXML_ELEMENT)
            inside = start(node, out);
        else if (mxmlGetType(node) == MXML_OPAQUE)
            out.text(mxmlGetOpaque(node));
        if (inside && mxmlGetFirstChild(node) != nullptr) {
            node = mxmlGetFirstChild(node);
            continue;
        }
        if (inside && is_element(node)) out.element_end();
        while (node != nullptr && (node == root || mxmlGetNextSibling(node) == nullptr)) {
            if (node == root) return;
            node = mxmlGetParent(node);
            if (is_element(node)) out.element_end();
        }
        if (node != nullptr) node = mxmlGetNextSibling(node);
    }
}

class Builder final : public nachklang::adapter::MarkupBuilder {
  public:
    ~Builder() override {
        if (root_ != nullptr) mxmlDelete(root_);
    }
    void element(const nachklang::adapter::MarkupName& name) override {
        if (open_ == nullptr && root_ != nullptr)
            throw nachklang::adapter::CannotRepresentError("a tree has one root here");
        open_ = mxmlNewElement(open_ == nullptr ? MXML_NO_PARENT : open_, until_nul(name.qname));
        if (root_ == nullptr) root_ = open_;
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        mxmlElementSetAttr(open_, until_nul(name.qname), until_nul(value));
    }
    void element_end() override { open_ = mxmlGetParent(open_); }
    void text(const std::string& bytes) override { mxmlNewOpaque(inside(), until_nul(bytes)); }
    void cdata(const std::string& bytes) override { mxmlNewCDATA(inside(), until_nul(bytes)); }
    // A comment and an instruction are elements of such names; there is no other way.
    void comment(const std::string& bytes) override { mxmlNewElement(inside(), until_nul("!--" + bytes + "--")); }
    void instruction(const std::string& target, const std::string& data) override {
        mxmlNewElement(inside(), until_nul("?" + target + (data.empty() ? "" : " " + data) + "?"));
    }
    [[nodiscard]] mxml_node_t* root() const { return root_; }

  private:
    static const char* until_nul(const std::string& bytes) { return nachklang::adapter::until_nul(bytes); }
    mxml_node_t* inside() {
        if (open_ == nullptr) throw nachklang::adapter::CannotRepresentError("a tree is its root here");
        return open_;
    }
    mxml_node_t* root_ = nullptr;
    mxml_node_t* open_ = nullptr;
};

class Mxml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {.name = "mini-xml",
                .version = std::to_string(MXML_MAJOR_VERSION) + "." + std::to_string(MXML_MINOR_VERSION),
                .capabilities = {{"xml", {"decode", "round-trip", "encode"}}},
                .cannot_represent = {"doctype", "namespaces"},
                .settings = {{"namespaces", "off"}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view bytes, TraceOut& out) override {
        return with_tree(bytes, [&](mxml_node_t* root) {
            if (out.wanted()) print(root, out);
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view bytes) override {
        return with_tree(bytes, [](mxml_node_t* root) { return written(root); });
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        mxmlSetWrapMargin(0);
        Builder builder;
        nachklang::adapter::build_markup(trace, builder, false);
        if (builder.root() == nullptr) return Reply::unsupported("a tree is its root here");
        return written(builder.root());
    }

  private:
    static Reply written(mxml_node_t* root) {
        char* text = mxmlSaveAllocString(root, MXML_NO_CALLBACK);
        Reply reply =
            text == nullptr ? Reply::rejected("mxmlSaveAllocString returned NULL") : Reply::accepted(text);
        std::free(text);
        return reply;
    }
    template <class Use>
    static Reply with_tree(std::string_view bytes, Use use) {
        last_error.clear();
        mxmlSetErrorCallback(note);
        mxmlSetWrapMargin(0);
        const std::string copy(bytes);
        mxml_node_t* root = mxmlLoadString(nullptr, copy.c_str(), MXML_OPAQUE_CALLBACK);
        if (root == nullptr || !last_error.empty()) {
            if (root != nullptr) mxmlDelete(root);
            return Reply::rejected(last_error.empty() ? "refused" : last_error);
        }
        Reply reply = use(root);
        mxmlDelete(root);
        return reply;
    }
};

}  // namespace

int main() {
    Mxml codec;
    return nachklang::adapter::serve(codec);
}
