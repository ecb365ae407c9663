// JSON libraries of C and C++ without any kit: built once for each with -DPLAIN_name; file names on standard input.
// See README.md for the lines it prints.
#include "plain.hpp"

#if defined(PLAIN_nlohmann)
#include <nlohmann/json.hpp>
static void show(const nlohmann::json& value, Tokens& out) {
    if (value.is_object()) {
        out.push_back("{");
        for (const auto& [name, item] : value.items()) {
            out.push_back("k" + hexed(name));
            show(item, out);
        }
        out.push_back("}");
    } else if (value.is_array()) {
        out.push_back("[");
        for (const auto& item : value) show(item, out);
        out.push_back("]");
    } else if (value.is_string()) {
        out.push_back("s" + hexed(value.get<std::string>()));
    } else if (value.is_number_unsigned()) {
        out.push_back(shown_integer(value.get<std::uint64_t>()));
    } else if (value.is_number_integer()) {
        out.push_back(shown_integer(value.get<std::int64_t>()));
    } else if (value.is_number()) {
        out.push_back(shown(value.get<double>()));
    } else {
        out.push_back(value.dump());
    }
}
static bool decode(const std::string& d, Tokens& out) {
    const nlohmann::json root = nlohmann::json::parse(d);
    add_written(out, [&](std::string& text) {
        text = root.dump();
        return true;
    });
    show(root, out);
    return true;
}
#elif defined(PLAIN_rapidjson)
#include <rapidjson/document.h>
#include <rapidjson/stringbuffer.h>
#include <rapidjson/writer.h>
static void show(const rapidjson::Value& value, Tokens& out) {
    if (value.IsObject()) {
        out.push_back("{");
        for (const auto& member : value.GetObject()) {
            out.push_back("k" + hexed({member.name.GetString(), member.name.GetStringLength()}));
            show(member.value, out);
        }
        out.push_back("}");
    } else if (value.IsArray()) {
        out.push_back("[");
        for (const auto& item : value.GetArray()) show(item, out);
        out.push_back("]");
    } else if (value.IsString()) {
        out.push_back("s" + hexed({value.GetString(), value.GetStringLength()}));
    } else if (value.IsUint64()) {
        out.push_back(shown_integer(value.GetUint64()));
    } else if (value.IsInt64()) {
        out.push_back(shown_integer(value.GetInt64()));
    } else if (value.IsNumber()) {
        out.push_back(shown(value.GetDouble()));
    } else {
        out.push_back(value.IsNull() ? "null" : value.IsTrue() ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    rapidjson::Document document;
    if (document.Parse(d.data(), d.size()).HasParseError()) return false;
    add_written(out, [&](std::string& text) {
        rapidjson::StringBuffer buffer;
        rapidjson::Writer<rapidjson::StringBuffer> writer(buffer);
        const bool done = document.Accept(writer);
        text.assign(buffer.GetString(), buffer.GetSize());
        return done;
    });
    show(document, out);
    return true;
}
#elif defined(PLAIN_jsoncpp)
#include <json/json.h>
#include <memory>
static void show(const Json::Value& value, Tokens& out) {
    if (value.isObject()) {
        out.push_back("{");
        for (const std::string& name : value.getMemberNames()) {
            out.push_back("k" + hexed(name));
            show(value[name], out);
        }
        out.push_back("}");
    } else if (value.isArray()) {
        out.push_back("[");
        for (const Json::Value& item : value) show(item, out);
        out.push_back("]");
    } else if (value.isString()) {
        out.push_back("s" + hexed(value.asString()));
    } else if (value.type() == Json::uintValue) {
        out.push_back(shown_integer(value.asUInt64()));
    } else if (value.type() == Json::intValue) {
        out.push_back(shown_integer(value.asInt64()));
    } else if (value.isDouble()) {
        out.push_back(shown(value.asDouble()));
    } else {
        out.push_back(value.isNull() ? "null" : value.asBool() ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    const std::unique_ptr<Json::CharReader> reader(Json::CharReaderBuilder().newCharReader());
    Json::Value root;
    std::string errors;
    if (!reader->parse(d.data(), d.data() + d.size(), &root, &errors)) return false;
    add_written(out, [&](std::string& text) {
        Json::StreamWriterBuilder compact;
        compact["indentation"] = "";
        text = Json::writeString(compact, root);
        return true;
    });
    show(root, out);
    return true;
}
#elif defined(PLAIN_jansson)
#include <jansson.h>
static void show(json_t* value, Tokens& out) {
    if (json_is_object(value)) {
        out.push_back("{");
        const char* name;
        json_t* item;
        json_object_foreach(value, name, item) {
            out.push_back("k" + hexed(name));
            show(item, out);
        }
        out.push_back("}");
    } else if (json_is_array(value)) {
        out.push_back("[");
        for (std::size_t i = 0; i < json_array_size(value); ++i) show(json_array_get(value, i), out);
        out.push_back("]");
    } else if (json_is_string(value)) {
        out.push_back("s" + hexed({json_string_value(value), json_string_length(value)}));
    } else if (json_is_integer(value)) {
        out.push_back(shown_integer(json_integer_value(value)));
    } else if (json_is_real(value)) {
        out.push_back(shown(json_real_value(value)));
    } else {
        out.push_back(json_is_null(value) ? "null" : json_is_true(value) ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    json_t* root = json_loadb(d.data(), d.size(), JSON_DECODE_ANY, nullptr);
    if (root == nullptr) return false;
    add_written(out, [&](std::string& text) {
        char* bytes = json_dumps(root, JSON_ENCODE_ANY | JSON_COMPACT);
        if (bytes != nullptr) text = bytes;
        std::free(bytes);
        return bytes != nullptr;
    });
    show(root, out);
    json_decref(root);
    return true;
}
#elif defined(PLAIN_json_c)
#include <json-c/json.h>
static void show(json_object* value, Tokens& out) {
    switch (json_object_get_type(value)) {
        case json_type_object: {
            out.push_back("{");
            json_object_object_foreach(value, name, item) {
                out.push_back("k" + hexed(name));
                show(item, out);
            }
            out.push_back("}");
            break;
        }
        case json_type_array:
            out.push_back("[");
            for (std::size_t i = 0; i < json_object_array_length(value); ++i)
                show(json_object_array_get_idx(value, i), out);
            out.push_back("]");
            break;
        case json_type_string:
            out.push_back("s" +
                          hexed({json_object_get_string(value), std::size_t(json_object_get_string_len(value))}));
            break;
        case json_type_int: {
            const std::int64_t number = json_object_get_int64(value);
            out.push_back(number == INT64_MAX ? shown_integer(json_object_get_uint64(value))
                                              : shown_integer(number));
            break;
        }
        case json_type_double:
            out.push_back(shown(json_object_get_double(value)));
            break;
        case json_type_boolean:
            out.push_back(json_object_get_boolean(value) ? "true" : "false");
            break;
        case json_type_null:
            out.push_back("null");
            break;
    }
}
static bool decode(const std::string& d, Tokens& out) {
    json_tokener* tokener = json_tokener_new();
    json_object* root = json_tokener_parse_ex(tokener, d.c_str(), static_cast<int>(d.size() + 1));
    const bool done = json_tokener_get_error(tokener) == json_tokener_success;
    if (done) {
        add_written(out, [&](std::string& text) {
            std::size_t length = 0;
            const char* bytes = json_object_to_json_string_length(root, JSON_C_TO_STRING_PLAIN, &length);
            if (bytes != nullptr) text.assign(bytes, length);
            return bytes != nullptr;
        });
        show(root, out);
    }
    json_object_put(root);
    json_tokener_free(tokener);
    return done;
}
#elif defined(PLAIN_cjson)
#include <cjson/cJSON.h>
static void show(const cJSON* value, Tokens& out) {
    const cJSON* item = nullptr;
    if (cJSON_IsObject(value)) {
        out.push_back("{");
        cJSON_ArrayForEach(item, value) {
            out.push_back("k" + hexed(item->string));
            show(item, out);
        }
        out.push_back("}");
    } else if (cJSON_IsArray(value)) {
        out.push_back("[");
        cJSON_ArrayForEach(item, value) show(item, out);
        out.push_back("]");
    } else if (cJSON_IsString(value)) {
        out.push_back("s" + hexed(value->valuestring));
    } else if (cJSON_IsNumber(value)) {
        out.push_back(shown(value->valuedouble));
    } else {
        out.push_back(cJSON_IsNull(value) ? "null" : cJSON_IsTrue(value) ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    cJSON* root = cJSON_ParseWithLength(d.data(), d.size());
    if (root != nullptr) {
        add_written(out, [&](std::string& text) {
            char* bytes = cJSON_PrintUnformatted(root);
            if (bytes != nullptr) text = bytes;
            cJSON_free(bytes);
            return bytes != nullptr;
        });
        show(root, out);
    }
    cJSON_Delete(root);
    return root != nullptr;
}
#elif defined(PLAIN_yajl)
#include <yajl/yajl_parse.h>
static Tokens& tokens_of(void* context) {
    return *static_cast<Tokens*>(context);
}
static int add(void* context, std::string token) {
    tokens_of(context).push_back(std::move(token));
    return 1;
}
static std::string text_of(const unsigned char* bytes, std::size_t length) {
    return hexed({reinterpret_cast<const char*>(bytes), length});
}
static bool decode(const std::string& d, Tokens& out) {
    yajl_callbacks callbacks{};
    callbacks.yajl_null = [](void* c) { return add(c, "null"); };
    callbacks.yajl_boolean = [](void* c, int value) { return add(c, value != 0 ? "true" : "false"); };
    callbacks.yajl_integer = [](void* c, long long value) { return add(c, shown_integer(value)); };
    callbacks.yajl_double = [](void* c, double value) { return add(c, shown(value)); };
    callbacks.yajl_string = [](void* c, const unsigned char* s, std::size_t n) {
        return add(c, "s" + text_of(s, n));
    };
    callbacks.yajl_map_key = [](void* c, const unsigned char* s, std::size_t n) {
        return add(c, "k" + text_of(s, n));
    };
    callbacks.yajl_start_map = [](void* c) { return add(c, "{"); };
    callbacks.yajl_end_map = [](void* c) { return add(c, "}"); };
    callbacks.yajl_start_array = [](void* c) { return add(c, "["); };
    callbacks.yajl_end_array = [](void* c) { return add(c, "]"); };
    yajl_handle handle = yajl_alloc(&callbacks, nullptr, &out);
    const bool done =
        yajl_parse(handle, reinterpret_cast<const unsigned char*>(d.data()), d.size()) == yajl_status_ok &&
        yajl_complete_parse(handle) == yajl_status_ok;
    yajl_free(handle);
    return done;
}
#elif defined(PLAIN_simdjson)
#include <simdjson.h>
static void show(simdjson::dom::element value, Tokens& out) {
    using simdjson::dom::element_type;
    switch (value.type()) {
        case element_type::OBJECT:
            out.push_back("{");
            for (const auto member : simdjson::dom::object(value)) {
                out.push_back("k" + hexed(std::string(member.key)));
                show(member.value, out);
            }
            out.push_back("}");
            break;
        case element_type::ARRAY:
            out.push_back("[");
            for (const auto item : simdjson::dom::array(value)) show(item, out);
            out.push_back("]");
            break;
        case element_type::STRING:
            out.push_back("s" + hexed(std::string(std::string_view(value))));
            break;
        case element_type::INT64:
            out.push_back(shown_integer(std::int64_t(value)));
            break;
        case element_type::UINT64:
            out.push_back(shown_integer(std::uint64_t(value)));
            break;
        case element_type::DOUBLE:
            out.push_back(shown(double(value)));
            break;
        case element_type::BOOL:
            out.push_back(bool(value) ? "true" : "false");
            break;
        default:
            out.push_back("null");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    static simdjson::dom::parser parser;
    simdjson::dom::element root;
    if (parser.parse(d.data(), d.size()).get(root) != simdjson::SUCCESS) return false;
    add_written(out, [&](std::string& text) {
        text = simdjson::minify(root);
        return true;
    });
    show(root, out);
    return true;
}
#endif
