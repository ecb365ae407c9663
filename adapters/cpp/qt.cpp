// QJsonDocument of Qt 5 or 6, whichever it is built with.
#include <nachklang/adapter.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wpedantic"
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QJsonValue>
#include <QVariant>
#pragma GCC diagnostic pop

namespace {

using namespace nachklang::adapter;

std::u16string units(const QString& text) {
    return {reinterpret_cast<const char16_t*>(text.utf16()), static_cast<std::size_t>(text.size())};
}

struct Cursor {
    QJsonArray array;
    QJsonObject object;
    QStringList names;
    bool is_object;
    int index;
    TraceOut* out;

    std::optional<QJsonValue> next() {
        if (is_object) {
            if (index == names.size()) return out->close_object(), std::nullopt;
            out->key_utf16(units(names[index]));
            return object.value(names[index++]);
        }
        if (index == array.size()) return out->close_array(), std::nullopt;
        return array.at(index++);
    }
};

std::optional<Cursor> visit(const QJsonValue& value, TraceOut& out) {
    switch (value.type()) {
        case QJsonValue::Array:
            out.open_array();
            return Cursor{value.toArray(), {}, {}, false, 0, &out};
        case QJsonValue::Object:
            out.open_object();
            return Cursor{{}, value.toObject(), value.toObject().keys(), true, 0, &out};
        case QJsonValue::Bool:
            out.boolean(value.toBool());
            break;
        case QJsonValue::String:
            out.string_utf16(units(value.toString()));
            break;
        case QJsonValue::Double: {
            // A value that was written as an integer is kept as one, which only its variant tells.
            const QVariant held = value.toVariant();
            if (static_cast<int>(held.type()) == static_cast<int>(QMetaType::LongLong)) {
                out.integer(held.toLongLong());
            } else {
                out.binary64(value.toDouble());
            }
            break;
        }
        default:
            out.null();
    }
    return std::nullopt;
}

class QtJson final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "qt" + std::to_string(QT_VERSION_MAJOR),
                .version = QT_VERSION_STR,
                .capabilities = {{"json", {"decode", "round-trip"}}},
                .cannot_represent = {"order", "duplicates"}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        return parse(document, [&](const QJsonDocument& root) {
            const QJsonValue value = root.isArray() ? QJsonValue(root.array()) : QJsonValue(root.object());
            if (out.wanted()) walk<QJsonValue>(value, [&](const QJsonValue& v) { return visit(v, out); });
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        return parse(document, [](const QJsonDocument& root) {
            const QByteArray text = root.toJson(QJsonDocument::Compact);
            return Reply::accepted({text.constData(), static_cast<std::size_t>(text.size())});
        });
    }

  private:
    template <class Then>
    static Reply parse(std::string_view document, Then then) {
        QJsonParseError error{};
        const QJsonDocument root =
            QJsonDocument::fromJson(QByteArray(document.data(), static_cast<int>(document.size())), &error);
        if (error.error != QJsonParseError::NoError)
            return Reply::rejected(error.errorString().toStdString())
                .at_offset(static_cast<std::uint64_t>(error.offset));
        return then(root);
    }
};

}  // namespace

int main() {
    QtJson codec;
    return serve(codec);
}
