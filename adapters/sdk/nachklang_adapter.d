/// The adapter kit for D: serve("json", hello, answer), where answer(operation, document, mode, wanted) gives the bytes of a reply
/// (docs/protocol.md). Call your library inside library(): the exceptions that it documents become `rejected`, others `threw`. An exception
/// thrown anywhere else is a fault of the adapter (`adapter-fault`) and never booked on the library.
module nachklang_adapter;

import core.stdc.stdio;
import core.sys.posix.stdio : fdopen;
import core.sys.posix.unistd : dup, dup2;
import std.array : appender, split;
import std.conv : to;
import std.string : fromStringz, indexOf, stripRight;

/// The answer to a request that is none of a value: kind, message and place, such as " offset=3 unit=byte".
class Failure : Exception
{
    string kind, place;
    this(string kind, string message, string place = "")
    {
        super(message);
        this.kind = kind;
        this.place = place;
    }
}

/// Calls into the library under test.
template library(Documented...)
{
    T library(T)(lazy T call)
    {
        try
            return call;
        catch (Failure ours)
            throw ours;
        catch (Exception error)
        {
            static foreach (Kind; Documented)
                if (cast(Kind) error)
                    throw new Failure("rejected", error.msg.idup);
            throw new Failure("threw", typeid(error).name ~ ": " ~ error.msg.idup);
        }
    }
}

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

alias Answer = string delegate(string operation, string document, string mode, bool wanted);

/// Serves requests until standard input ends; returns the exit status. What a library prints goes to standard error.
int serve(string format, string hello, Answer answer)
{
    FILE* replies = fdopen(dup(1), "wb");
    dup2(2, 1);
    void send(string text)
    {
        fwrite(text.ptr, 1, text.length, replies);
    }

    send("nachklang-adapter 1\n" ~ hello ~ "\n");
    fflush(replies);
    char[4096] line;
    while (fgets(line.ptr, line.length, stdin))
    {
        const words = fromStringz(line.ptr).idup.stripRight("\n").split(" ");
        auto bytes = new char[](words[2].to!size_t);
        if (fread(bytes.ptr, 1, bytes.length, stdin) != bytes.length)
            return 2;
        string id = "0", mode;
        bool wanted = true, known = words[1] == format;
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
        string kind = "accepted", body_, place;
        try
        {
            if (!known)
                throw new Failure("unsupported", "");
            body_ = answer(words[0], bytes.idup, mode, wanted);
        }
        catch (Failure failure)
        {
            kind = failure.kind;
            body_ = failure.msg;
            place = failure.place;
        }
        catch (Exception error)
        {
            kind = "adapter-fault";
            body_ = typeid(error).name ~ ": " ~ error.msg.idup;
        }
        send(kind ~ " " ~ body_.length.to!string ~ " id=" ~ id ~ place ~ "\n" ~ body_);
        fflush(replies);
    }
    return 0;
}
