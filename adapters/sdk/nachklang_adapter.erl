%% The adapter kit for Erlang: nachklang_adapter:serve(<<"json">>, Hello, Answer), where Answer(Operation, Document, Mode, Wanted) gives the
%% bytes of a reply (docs/protocol.md). Call your library inside library(Call, Documented): Documented gives {Message, Place} of an exception
%% that it documents, or undocumented, which is `threw`. An exception raised anywhere else is a fault of the adapter (`adapter-fault`) and
%% never booked on the library; wrap functions that the library calls back in own/1.
%%
%% Compile it beside your adapter with erlc, and start that with `erl -noshell -pa FOLDER -run MODULE main`.
-module(nachklang_adapter).
-export([serve/3, library/2, own/1, refuse/2, unsupported/1, field/1, hex/1]).

%% Started with the pipe of the replies as descriptor 3, and 1 where standard error goes: what a library prints must not come between.
serve(Format, Hello, Answer) ->
    ok = io:setopts(standard_io, [binary, {encoding, latin1}]),
    %% What a reply needs is loaded before a library may have used up all file descriptors.
    [{module, Module} = code:ensure_loaded(Module) || Module <- [io_lib_format, io_lib_pretty, string, unicode_util]],
    Replies = open_port({fd, 3, 3}, [out, binary]),
    port_command(Replies, ["nachklang-adapter 1\n", Hello, "\n"]),
    loop(Replies, Format, Answer).

loop(Replies, Format, Answer) ->
    case file:read_line(standard_io) of
        eof -> ok;
        {ok, Line} ->
            [Operation, Name, Length | Rest] = binary:split(string:trim(Line, trailing, "\n"), <<" ">>, [global]),
            Document = body(binary_to_integer(Length)),
            Keys = maps:from_list([list_to_tuple(binary:split(Word, <<"=">>)) || Word <- Rest]),
            Known = Name =:= Format andalso maps:size(maps:without([<<"id">>, <<"mode">>, <<"show">>], Keys)) =:= 0,
            Wanted = maps:get(<<"show">>, Keys, <<>>) =/= <<"nothing">>,
            {Kind, Body, Place} = case Known of
                true -> in_own_process(fun() -> answered(Answer, Operation, Document, maps:get(<<"mode">>, Keys, <<>>), Wanted) end);
                false -> {"unsupported", <<>>, ""}
            end,
            Bytes = iolist_to_binary(Body),
            port_command(Replies, [Kind, " ", integer_to_list(byte_size(Bytes)), " id=", maps:get(<<"id">>, Keys), Place, "\n", Bytes]),
            loop(Replies, Format, Answer)
    end.

body(0) -> <<>>;
body(Length) -> {ok, Bytes} = file:read(standard_io, Length), Bytes.

%% A request has a process of its own, as in a server: files that a library left open after an error are closed with it.
in_own_process(Call) ->
    {Process, Monitor} = spawn_monitor(fun() -> exit({answer, Call()}) end),
    receive
        {'DOWN', Monitor, process, Process, {answer, Answer}} -> Answer;
        {'DOWN', Monitor, process, Process, Why} -> {"adapter-fault", text("its process ended: ~p", [Why]), ""}
    end.

answered(Answer, Operation, Document, Mode, Wanted) ->
    try {"accepted", Answer(Operation, Document, Mode, Wanted), ""}
    catch
        throw:{nachklang, Kind, Message, Place} -> {Kind, Message, Place};
        Class:Why -> {"adapter-fault", text("~p: ~p", [Class, Why]), ""}
    end.

%% Calls into the library under test.
library(Call, Documented) ->
    try Call()
    catch
        throw:{nachklang, _, _, _} = Ours -> throw(Ours);
        Class:Why ->
            case Documented(Why) of
                {Message, Place} -> refuse(Message, Place);
                undocumented -> throw({nachklang, "threw", text("~p: ~p", [Class, Why]), ""})
            end
    end.

%% A function of the adapter that the library calls back with three values: what it raises is the adapter's.
own(Call) ->
    fun(A, B, C) ->
        try Call(A, B, C)
        catch Class:Why -> throw({nachklang, "adapter-fault", text("~p: ~p", [Class, Why]), ""})
        end
    end.

refuse(Message, Place) -> throw({nachklang, "rejected", Message, Place}).
unsupported(Why) -> throw({nachklang, "unsupported", Why, ""}).
text(Format, Values) -> unicode:characters_to_binary(io_lib:format(Format, Values)).

field(Text) -> ["u8:", hex(unicode:characters_to_binary(Text))].
hex(Bytes) -> string:lowercase(binary:encode_hex(Bytes)).
