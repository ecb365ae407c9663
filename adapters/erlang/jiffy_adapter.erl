%% jiffy: members as lists of pairs (duplicates kept), or as maps.
-module(jiffy_adapter).
-export([main/0]).

main() ->
    {ok, _} = application:ensure_all_started(kernel),
    _ = application:load(jiffy),
    {ok, Version} = application:get_key(jiffy, vsn),
    nachklang_adapter:serve(<<"json">>,
        ["implementation jiffy ", Version, "\njson decode round-trip encode\nmode pairs\nmode maps\ncannot-represent order duplicates\n",
         "json decode round-trip\nmode escaped\njson encode\n"],
        fun answer/4),
    halt(0).

%% Thrown or raised as an error, by version: what jiffy documents for a text that is none.
documented({Position, Why}) when is_integer(Position) ->
    {io_lib:format("~p at ~p", [Why, Position]), [" offset=", integer_to_list(Position - 1), " unit=byte"]};
documented({error, Why}) -> {io_lib:format("~p", [Why]), ""};
documented(Why) when is_tuple(Why) -> {io_lib:format("~p", [Why]), ""};
documented(_) -> undocumented.

decoded(Document, Mode) ->
    nachklang_adapter:library(fun() -> jiffy:decode(Document, options(Mode)) end, fun documented/1).
encoded(Value, Mode) ->
    nachklang_adapter:library(fun() -> jiffy:encode(Value, writing(Mode)) end, fun documented/1).

answer(<<"decode">>, Document, Mode, Wanted) ->
    Value = decoded(Document, Mode),
    if Wanted -> lists:reverse(walk([{value, Value}], [])); true -> [] end;
answer(<<"round-trip">>, Document, Mode, _) -> encoded(decoded(Document, Mode), Mode);
answer(<<"encode">>, Trace, Mode, _) ->
    {[Value], []} = build(binary:split(Trace, <<"\n">>, [global, trim_all]), [], none),
    encoded(Value, Mode);
answer(_, _, _, _) -> nachklang_adapter:unsupported("unknown operation").

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

hex(Bytes) -> nachklang_adapter:hex(Bytes).
field(Bytes) -> ["u8:", hex(Bytes)].

%% Values of one container, in their order; members as pairs.
build([], Values, _) -> {lists:reverse(Values), []};
build([<<"]">> | Rest], Values, _) -> {lists:reverse(Values), Rest};
build([<<"}">> | Rest], Values, _) -> {lists:reverse(Values), Rest};
build([<<"key ", Field/binary>> | Rest], Values, none) ->
    case binary:match(Field, <<":">>) of
        nomatch -> nachklang_adapter:unsupported("");
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
        _ -> nachklang_adapter:unsupported("")
    end;
held(_) -> nachklang_adapter:unsupported("").

text(<<"u8:", Digits/binary>>) -> binary:decode_hex(Digits);
text(<<"u16:", Digits/binary>>) ->
    case unicode:characters_to_binary(binary:decode_hex(Digits), utf16) of
        Text when is_binary(Text) -> Text;
        _ -> nachklang_adapter:unsupported("")
    end;
text(_) -> nachklang_adapter:unsupported("").
