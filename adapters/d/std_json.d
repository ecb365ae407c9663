// std.json of D's standard library: its defaults, strict parsing, and numbers of special kinds.
import nachklang_adapter;
import std.array : Appender, appender;
import std.bitmanip : nativeToBigEndian;
import std.conv : ConvException, to;
import std.json;
import std.utf : UTFException;

struct Level
{
    string closer;
    string[] names;
    const(JSONValue)[] values;
    size_t next;
}

void print(const JSONValue root, ref Appender!string lines)
{
    Level[] stack = [Level("", null, [root], 0)];
    while (stack.length)
    {
        auto level = &stack[$ - 1];
        if (level.next == level.values.length)
        {
            if (level.closer.length)
                lines.put(level.closer ~ "\n");
            stack.length -= 1;
            continue;
        }
        const at = level.next++;
        if (level.closer == "}")
            lines.put("key " ~ field(level.names[at]) ~ "\n");
        const value = level.values[at];
        final switch (value.type)
        {
        case JSONType.null_:
            lines.put("null\n");
            break;
        case JSONType.true_:
            lines.put("true\n");
            break;
        case JSONType.false_:
            lines.put("false\n");
            break;
        case JSONType.string:
            lines.put("str " ~ field(value.str) ~ "\n");
            break;
        case JSONType.integer:
            lines.put("int " ~ value.integer.to!string ~ "\n");
            break;
        case JSONType.uinteger:
            lines.put("int " ~ value.uinteger.to!string ~ "\n");
            break;
        case JSONType.float_:
            lines.put("binary64 " ~ hex(nativeToBigEndian(value.floating)) ~ "\n");
            break;
        case JSONType.array:
            lines.put("[\n");
            stack ~= Level("]", null, value.arrayNoRef, 0);
            break;
        case JSONType.object:
            lines.put("{\n");
            const(JSONValue)[] values;
            string[] names;
            foreach (name, inner; value.objectNoRef)
            {
                names ~= name;
                values ~= inner;
            }
            stack ~= Level("}", names, values, 0);
            break;
        }
    }
}

string answer(string operation, string document, string mode, bool wanted)
{
    auto options = mode == "strict" ? JSONOptions.strictParsing
        : mode == "special-floats" ? JSONOptions.specialFloatLiterals : JSONOptions.none;
    // ConvException is documented for a number that no native type holds.
    const value = library!(JSONException, ConvException, UTFException)(parseJSON(document, -1, options));
    if (operation == "round-trip")
        return library!(JSONException, ConvException, UTFException)(value.toString(options));
    if (operation != "decode")
        throw new Failure("unsupported", "unknown operation");
    auto lines = appender!string;
    if (wanted)
        print(value, lines);
    return lines[];
}

int main()
{
    import std.functional : toDelegate;

    return serve("json", "implementation std-json " ~ (__VERSION__ / 1000).to!string ~ "." ~ (
            __VERSION__ % 1000).to!string ~ "\njson decode round-trip\ncannot-represent order duplicates\n" ~
            "mode default\nmode strict\nmode special-floats\nsetting purpose=lax\n", toDelegate(&answer));
}
