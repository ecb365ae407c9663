// std.json of D's standard library: its defaults, strict parsing, and numbers of special kinds.
import core.stdc.stdio;
import core.sys.posix.stdio : fdopen;
import core.sys.posix.unistd : dup, dup2;
import std.algorithm : canFind;
import std.array : Appender, appender, split;
import std.bitmanip : nativeToBigEndian;
import std.conv : to;
import std.json;
import std.string : fromStringz, indexOf, stripRight;
import std.utf : UTFException;

string hex(const(ubyte)[] bytes)
{
    auto text = appender!string;
    foreach (b; bytes)
    {
        text.put("0123456789abcdef"[b >> 4]);
        text.put("0123456789abcdef"[b & 15]);
    }
    return text[];
}

string field(string text)
{
    return "u8:" ~ hex(cast(const(ubyte)[]) text);
}

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

string[2] answer(string operation, string document, string mode, bool wanted)
{
    auto options = mode == "strict" ? JSONOptions.strictParsing
        : mode == "special-floats" ? JSONOptions.specialFloatLiterals : JSONOptions.none;
    try
    {
        const value = parseJSON(document, -1, options);
        if (operation == "round-trip")
            return ["accepted", value.toString(options)];
        auto lines = appender!string;
        if (wanted)
            print(value, lines);
        return ["accepted", lines[]];
    }
    catch (JSONException error)
        return ["rejected", error.msg.idup];
    catch (UTFException error)
        return ["rejected", error.msg.idup];
    catch (Exception error)
        return ["threw", typeid(error).name ~ ": " ~ error.msg.idup];
}

int main()
{
    FILE* replies = fdopen(dup(1), "wb");
    dup2(2, 1);
    void send(string text)
    {
        fwrite(text.ptr, 1, text.length, replies);
    }

    send("nachklang-adapter 1\nimplementation std-json " ~ (__VERSION__ / 1000).to!string ~ "." ~ (
            __VERSION__ % 1000).to!string ~ "\njson decode round-trip\ncannot-represent order duplicates\n" ~
            "mode default\nmode strict\nmode special-floats\n\n");
    fflush(replies);
    char[4096] line;
    while (fgets(line.ptr, line.length, stdin))
    {
        const words = fromStringz(line.ptr).idup.stripRight("\n").split(" ");
        auto bytes = new char[](words[2].to!size_t);
        if (fread(bytes.ptr, 1, bytes.length, stdin) != bytes.length)
            return 2;
        string id = "0", mode;
        bool wanted = true, known = words[1] == "json" && ["decode", "round-trip"].canFind(words[0]);
        foreach (word; words[3 .. $])
        {
            const at = word.indexOf('=');
            const key = word[0 .. at], value = word[at + 1 .. $];
            if (key == "id")
                id = value;
            else if (key == "mode")
                mode = value;
            else if (key == "show")
                wanted = value != "nothing";
            else
                known = false;
        }
        const result = known ? answer(words[0], bytes.idup, mode, wanted) : ["unsupported", ""];
        send(result[0] ~ " " ~ result[1].length.to!string ~ " id=" ~ id ~ "\n" ~ result[1]);
        fflush(replies);
    }
    return 0;
}
