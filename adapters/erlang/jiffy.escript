#!/usr/bin/env escript
%% jiffy: members as lists of pairs (duplicates kept), or as maps.
%%! -noshell -env ERL_CRASH_DUMP_SECONDS 0
%% Compiled, since the evaluator takes a minute for a walk that compiled code does in a second.
-mode(compile).

main(_) ->
    ok = io:setopts(standard_io, [binary, {encoding, latin1}]),
    {ok, _} = application:ensure_all_started(kernel),
    _ = application:load(jiffy),
    {ok, Version} = application:get_key(jiffy, vsn),
    %% Started with the pipe as descriptor 3, and 1 where standard error goes: what a library prints must not come between.
    put(replies, open_port({fd, 3, 3}, [out, binary])),
    put_bytes(["nachklang-adapter 1\nimplementation jiffy ", Version, "\njson decode round-trip encode\n",
               "mode pairs\nmode maps\ncannot-represent order duplicates\njson decode round-trip\nmode escaped\njson encode\n\n"]),
    serve().

put_bytes(Bytes) -> port_command(get(replies), Bytes).

serve() ->
    case file:read_line(standard_io) of
        eof -> ok;
        {ok, Line} ->
            [Operation, Format, Length | Rest] =
                binary:split(string:trim(Line, trailing, "\n"), <<" ">>, [global]),
            Document = body(binary_to_integer(Length)),
            Keys = maps:from_list([list_to_tuple(binary:split(Word, <<"=">>)) || Word <- Rest]),
            Known = Format =:= <<"json">> andalso
                maps:size(maps:without([<<"id">>, <<"mode">>, <<"show">>], Keys)) =:= 0,
            {Kind, Body, Place} = case Known of
                true -> asked(Operation, Document, maps:get(<<"mode">>, Keys, <<>>),
                              maps:get(<<"show">>, Keys, <<>>) =/= <<"nothing">>);
                false -> {"unsupported", <<>>, ""}
            end,
            Bytes = iolist_to_binary(Body),
            put_bytes([Kind, " ", integer_to_list(byte_size(Bytes)), " id=", maps:get(<<"id">>, Keys), Place, "\n", Bytes]),
            serve()
    end.

body(0) -> <<>>;
body(Length) -> {ok, Bytes} = file:read(standard_io, Length), Bytes.

asked(Operation, Document, Mode, Show) ->
    try answer(Operation, Document, Mode, Show)
    catch
        throw:unsupported -> {"unsupported", <<>>, ""};
        %% Thrown or raised as an error, by version: what jiffy documents for a text that is none.
        _:{Position, Why} when is_integer(Position) ->
            {"rejected", io_lib:format("~p at ~p", [Why, Position]), [" offset=", integer_to_list(Position - 1), " unit=byte"]};
        _:{error, Why} -> {"rejected", io_lib:format("~p", [Why]), ""};
        _:Why when is_tuple(Why) -> {"rejected", io_lib:format("~p", [Why]), ""};
        _:Why -> {"threw", io_lib:format("~p", [Why]), ""}
    end.

answer(<<"decode">>, Document, Mode, Show) ->
    Value = jiffy:decode(Document, options(Mode)),
    {"accepted", if Show -> lists:reverse(walk([{value, Value}], [])); true -> [] end, ""};
answer(<<"round-trip">>, Document, Mode, _) ->
    {"accepted", jiffy:encode(jiffy:decode(Document, options(Mode)), writing(Mode)), ""};
answer(<<"encode">>, Trace, Mode, _) ->
    {[Value], []} = build(binary:split(Trace, <<"\n">>, [global, trim_all]), [], none),
    {"accepted", jiffy:encode(Value, writing(Mode)), ""};
answer(_, _, _, _) -> throw(unsupported).

options(<<"maps">>) -> [return_maps];
options(_) -> [].
writing(<<"escaped">>) -> [uescape, escape_forward_slashes];
writing(_) -> [].

%% A list of what is still to be printed takes the place of recursion.
walk([], Out) -> Out;
walk([{line, Line} | Rest], Out) -> walk(Rest, [[Line, "\n"] | Out]);
walk([{members, []} | Rest], Out) -> walk([{line, "}"} | Rest], Out);
walk([{members, [{Name, Value} | More]} | Rest], Out) ->
    walk([{line, ["key ", field(Name)]}, {value, Value}, {members, More} | Rest], Out);
walk([{elements, []} | Rest], Out) -> walk([{line, "]"} | Rest], Out);
walk([{elements, [Value | More]} | Rest], Out) -> walk([{value, Value}, {elements, More} | Rest], Out);
walk([{value, {Members}} | Rest], Out) -> walk([{line, "{"}, {members, Members} | Rest], Out);
walk([{value, Map} | Rest], Out) when is_map(Map) -> walk([{line, "{"}, {members, maps:to_list(Map)} | Rest], Out);
walk([{value, List} | Rest], Out) when is_list(List) -> walk([{line, "["}, {elements, List} | Rest], Out);
walk([{value, Value} | Rest], Out) -> walk([{line, scalar(Value)} | Rest], Out).

scalar(null) -> "null";
scalar(true) -> "true";
scalar(false) -> "false";
scalar(Value) when is_integer(Value) -> ["int ", integer_to_list(Value)];
scalar(Value) when is_float(Value) -> ["binary64 ", hex(<<Value:64/float>>)];
scalar(Value) when is_binary(Value) -> ["str ", field(Value)].

field(Bytes) -> ["u8:", hex(Bytes)].
hex(Bytes) -> string:lowercase(binary:encode_hex(Bytes)).

%% Values of one container, in their order; members as pairs.
build([], Values, _) -> {lists:reverse(Values), []};
build([<<"]">> | Rest], Values, _) -> {lists:reverse(Values), Rest};
build([<<"}">> | Rest], Values, _) -> {lists:reverse(Values), Rest};
build([<<"key ", Field/binary>> | Rest], Values, none) ->
    case binary:match(Field, <<":">>) of
        nomatch -> throw(unsupported);
        _ -> build(Rest, Values, {name, text(Field)})
    end;
build([Line | Rest], Values, Name) ->
    {Value, Left} = case Line of
        <<"[">> -> build(Rest, [], none);
        <<"{">> -> {Members, More} = build(Rest, [], none), {{Members}, More};
        _ -> {held(Line), Rest}
    end,
    Entry = case Name of none -> Value; {name, Text} -> {Text, Value} end,
    build(Left, [Entry | Values], none).

held(<<"null">>) -> null;
held(<<"true">>) -> true;
held(<<"false">>) -> false;
held(<<"int ", Digits/binary>>) -> binary_to_integer(Digits);
held(<<"str ", Field/binary>>) -> text(Field);
held(<<"binary64 ", Digits/binary>>) ->
    case binary:decode_hex(Digits) of
        <<Value:64/float>> -> Value;
        _ -> throw(unsupported)
    end;
held(_) -> throw(unsupported).

text(<<"u8:", Digits/binary>>) -> binary:decode_hex(Digits);
text(<<"u16:", Digits/binary>>) ->
    case unicode:characters_to_binary(binary:decode_hex(Digits), utf16) of
        Text when is_binary(Text) -> Text;
        _ -> throw(unsupported)
    end;
text(_) -> throw(unsupported).
