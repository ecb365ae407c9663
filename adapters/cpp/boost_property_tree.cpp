// Boost.PropertyTree's XML: what it holds of a document is texts and children by name, so that round trips and
// `native` items show it. It is built on RapidXML.
#include <nachklang/adapter_markup.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#include <boost/property_tree/ptree.hpp>
#include <boost/property_tree/xml_parser.hpp>
#pragma GCC diagnostic pop
#include <boost/version.hpp>

#include <sstream>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;
namespace pt = boost::property_tree;

/// An element's own text comes before its children: the tree does not keep its place between them.
void print(const pt::ptree& document, TraceOut& out) {
    struct Level {
        pt::ptree::const_iterator at, end;
        bool element;
    };
    std::vector<Level> levels{{document.begin(), document.end(), false}};
    while (!levels.empty()) {
        Level& level = levels.back();
        if (level.at == level.end) {
            if (level.element) out.element_end();
            levels.pop_back();
            continue;
        }
        const auto& [name, child] = *level.at++;
        if (name == "<xmlattr>") continue;
        if (name == "<xmlcomment>") {
            out.comment(child.data());
            continue;
        }
        if (name == "<xmltext>") {
            out.text(child.data());
            continue;
        }
        out.element(name, std::nullopt, std::nullopt);
        if (const auto attributes = child.get_child_optional("<xmlattr>"))
            for (const auto& [attribute, value] : *attributes)
                out.attribute(attribute, std::nullopt, std::nullopt, value.data());
        if (!child.data().empty()) out.text(child.data());
        levels.push_back({child.begin(), child.end(), true});
    }
}

/// Texts are stored among children as "<xmltext>": the only way to keep their places.
class Builder final : public nachklang::adapter::MarkupBuilder {
  public:
    explicit Builder(pt::ptree& document) : open_{&document} {}
    void element(const nachklang::adapter::MarkupName& name) override {
        open_.push_back(&open_.back()->push_back({name.qname, pt::ptree()})->second);
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        pt::ptree& element = *open_.back();
        if (element.empty()) element.push_back({"<xmlattr>", pt::ptree()});
        element.front().second.push_back({name.qname, pt::ptree(value)});
    }
    void element_end() override { open_.pop_back(); }
    void text(const std::string& bytes) override { open_.back()->push_back({"<xmltext>", pt::ptree(bytes)}); }
    void comment(const std::string& bytes) override { open_.back()->push_back({"<xmlcomment>", pt::ptree(bytes)}); }

  private:
    std::vector<pt::ptree*> open_;
};

class PropertyTree final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const std::string version =
            std::to_string(BOOST_VERSION / 100000) + "." + std::to_string(BOOST_VERSION / 100 % 1000);
        return {.name = "boost-property-tree",
                .version = version,
                .engine = "rapidxml",
                .engine_version = "1.13",
                .capabilities = {{"xml", {"decode", "round-trip", "encode"}}},
                .cannot_represent = {"doctype", "instructions", "cdata", "namespaces"},
                .settings = {{"namespaces", "off"}},
                .modes = {{.name = "default"},
                          {.name = "texts-apart", .capabilities = {{"xml", {"decode", "round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view bytes, TraceOut& out) override {
        return with_tree(mode, bytes, [&](const pt::ptree& tree) {
            if (out.wanted()) print(tree, out);
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view bytes) override {
        return with_tree(mode, bytes, [](const pt::ptree& tree) {
            std::ostringstream out;
            nachklang::adapter::library<pt::xml_parser_error>([&] { pt::write_xml(out, tree); });
            return Reply::accepted(out.str());
        });
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        pt::ptree tree;
        Builder builder(tree);
        nachklang::adapter::build_markup(trace, builder, false);
        std::ostringstream out;
        nachklang::adapter::library<pt::xml_parser_error>([&] { pt::write_xml(out, tree); });
        return Reply::accepted(out.str());
    }

  private:
    template <class Use>
    static Reply with_tree(std::string_view mode, std::string_view bytes, Use use) {
        std::istringstream in{std::string(bytes)};
        pt::ptree tree;
        std::optional<Reply> refused;
        nachklang::adapter::library([&] {
            try {
                pt::read_xml(in, tree, mode == "texts-apart" ? pt::xml_parser::no_concat_text : 0);
            } catch (const pt::xml_parser_error& error) {
                refused = Reply::rejected(error.message()).at_line(error.line());
            }
        });
        return refused ? *refused : use(tree);
    }
};

}  // namespace

int main() {
    PropertyTree codec;
    return nachklang::adapter::serve(codec);
}
