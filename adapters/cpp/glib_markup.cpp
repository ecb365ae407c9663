// GLib's markup reader. It says of itself that it is no reader of XML: what it takes and refuses is shown all the
// same.
#include <nachklang/adapter.hpp>

#include "raw_instruction.hpp"

#include <glib.h>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

TraceOut& out_of(gpointer user) {
    return *static_cast<TraceOut*>(user);
}

void start(GMarkupParseContext*, const gchar* name, const gchar** attributes, const gchar** values, gpointer user,
           GError**) {
    out_of(user).element(name, std::nullopt, std::nullopt);
    for (; *attributes != nullptr; ++attributes, ++values)
        out_of(user).attribute(*attributes, std::nullopt, std::nullopt, *values);
}
void end(GMarkupParseContext*, const gchar*, gpointer user, GError**) {
    out_of(user).element_end();
}
void text(GMarkupParseContext*, const gchar* bytes, gsize size, gpointer user, GError**) {
    out_of(user).text({bytes, size});
}
/// Comments, instructions and types come through unchanged.
void passthrough(GMarkupParseContext*, const gchar* bytes, gsize size, gpointer user, GError**) {
    const std::string_view all(bytes, size);
    if (all.starts_with("<!--")) {
        out_of(user).comment(all.substr(4, all.size() - 7));
    } else if (all.starts_with("<![CDATA[")) {
        out_of(user).cdata(all.substr(9, all.size() - 12));
    } else if (all.starts_with("<?")) {
        const std::string_view inside = all.substr(2, all.size() - 4);
        raw_instruction(inside, out_of(user));
    }
}

class GlibMarkup final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {.name = "glib-markup",
                .version = std::to_string(glib_major_version) + "." + std::to_string(glib_minor_version) + "." +
                           std::to_string(glib_micro_version),
                .capabilities = {{"xml", {"decode"}}},
                .cannot_represent = {"doctype", "namespaces"},
                .settings = {{"namespaces", "off"}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        const GMarkupParser parser{start, end, text, passthrough, nullptr};
        GMarkupParseContext* context =
            g_markup_parse_context_new(&parser, static_cast<GMarkupParseFlags>(0), &out, nullptr);
        GError* error = nullptr;
        Reply reply = Reply::accepted();
        if (g_markup_parse_context_parse(context, document.data(), static_cast<gssize>(document.size()), &error) ==
                FALSE ||
            g_markup_parse_context_end_parse(context, &error) == FALSE) {
            gint line = 0, column = 0;
            g_markup_parse_context_get_position(context, &line, &column);
            reply = Reply::rejected(error == nullptr ? "refused" : error->message);
            reply.at_line(static_cast<std::uint64_t>(line)).at_column(static_cast<std::uint64_t>(column));
            g_clear_error(&error);
        }
        g_markup_parse_context_free(context);
        return reply;
    }
};

}  // namespace

int main() {
    GlibMarkup codec;
    return nachklang::adapter::serve(codec);
}
