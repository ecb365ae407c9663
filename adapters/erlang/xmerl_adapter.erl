%% xmerl_sax_parser: its events. (xmerl_scan makes an atom of every name, which a long run cannot bear.)
-module(xmerl_adapter).
-export([main/0]).

main() ->
    _ = application:load(xmerl),
    {ok, Version} = application:get_key(xmerl, vsn),
    nachklang_adapter:serve(<<"xml">>,
        ["implementation xmerl-sax ", Version, "\nxml decode sequence\nsetting namespaces=on\nsetting external=files\n"], fun answer/4),
    halt(0).

answer(<<"decode">>, Document, _, Show) -> decode(Document, Show);
answer(<<"sequence">>, Text, _, Show) ->
    List = ["[\n", roots(Text), "]\n"],
    case Show of true -> List; false -> [] end;
answer(_, _, _, _) -> nachklang_adapter:unsupported("unknown operation").

library(Document) ->
    Report = nachklang_adapter:own(fun(Event, _, Lines) -> event(Event, Lines) end),
    %% It opens what a document names outside itself, where there is such a file; this version has no option against it.
    Options = [{event_fun, Report}, {event_state, {text, 0, []}}],
    nachklang_adapter:library(fun() -> xmerl_sax_parser:stream(Document, Options) end, fun(_) -> undocumented end).

decode(Document, Show) ->
    case library(Document) of
        {ok, {_, _, Lines}, Rest} ->
            case outside_root(Rest) of
                true when Show, Lines =:= [] -> "text u8:\n";
                true when Show -> lists:reverse(Lines);
                true -> [];
                %% It stops after a document; a user with one document looks at what is left.
                false -> nachklang_adapter:refuse("input is left after the document", "")
            end;
        {fatal_error, Where, Why, _, _} -> refused(Where, Why);
        {Tag, Where, Why, _, _} when is_atom(Tag) -> refused(Where, Why);
        Undocumented -> throw({nachklang, "threw", message(Undocumented), ""})
    end.

%% It gives what is left behind a document, for the next call.
roots(Text) ->
    case outside_root(Text) of
        true -> [];
        false ->
            case library(Text) of
                {ok, {_, _, Lines}, Rest} -> [root(lists:reverse(Lines)) | roots(Rest)];
                Refusal when is_tuple(Refusal), tuple_size(Refusal) =:= 5 -> "native refused -\n";
                Undocumented -> throw({nachklang, "threw", message(Undocumented), ""})
            end
    end.

%% The lines of a document's root alone.
root(Lines) -> root(Lines, 0).
root([Line | Rest], Depth) ->
    case iolist_to_binary(Line) of
        <<"elem ", _/binary>> -> [Line | root(Rest, Depth + 1)];
        <<"end\n">> when Depth =:= 1 -> [Line];
        <<"end\n">> -> [Line | root(Rest, Depth - 1)];
        _ when Depth > 0 -> [Line | root(Rest, Depth)];
        _ -> root(Rest, Depth)
    end;
root([], _) -> [].

refused({_, _, Line}, Why) when is_integer(Line) ->
    nachklang_adapter:refuse(message(Why), [" line=", integer_to_list(max(1, Line))]);
refused(_, Why) -> nachklang_adapter:refuse(message(Why), "").

message(Why) ->
    case io_lib:printable_unicode_list(Why) of
        true -> unicode:characters_to_binary(Why);
        false -> unicode:characters_to_binary(io_lib:format("~tp", [Why]))
    end.

%% Of string:trim a line end of two characters would be another character.
outside_root(Rest) when is_binary(Rest) -> [] =:= [Byte || <<Byte>> <= Rest, not lists:member(Byte, " \t\r\n")];
outside_root(_) -> true.

%% What is being reported, how deep, and the lines so far; outside the root, white space is markup.
event({startElement, Uri, Local, Qualified, Attributes}, {Kind, Depth, Lines}) ->
    Start = line(["elem ", field(qname(Qualified)), " ", field(Local), " ", field(Uri)], Lines),
    {Kind, Depth + 1, lists:foldl(fun({AUri, Prefix, Name, Value}, Out) ->
        line(["attr ", field(qname({Prefix, Name})), " ", field(Name), " ", field(AUri), " ", field(Value), " -"], Out) end, Start, Attributes)};
event({endElement, _, _, _}, {Kind, Depth, Lines}) -> {Kind, Depth - 1, line("end", Lines)};
event({characters, Text}, {cdata, Depth, Lines}) -> {cdata, Depth, line(["cdata ", field(Text)], Lines)};
event({characters, Text}, {Kind, Depth, Lines}) when Depth > 0 -> {Kind, Depth, line(["text ", field(Text)], Lines)};
event({ignorableWhitespace, Text}, {Kind, Depth, Lines}) when Depth > 0 -> {Kind, Depth, line(["text ", field(Text)], Lines)};
event({comment, Text}, {Kind, Depth, Lines}) when Kind =/= type -> {Kind, Depth, line(["comment ", field(Text)], Lines)};
event({processingInstruction, Target, Data}, {Kind, Depth, Lines}) when Kind =/= type ->
    {Kind, Depth, line(["pi ", field(Target), " ", field(Data)], Lines)};
event(startCDATA, {_, Depth, Lines}) -> {cdata, Depth, Lines};
event(endCDATA, {_, Depth, Lines}) -> {text, Depth, Lines};
event({startDTD, Name, _, _}, {_, Depth, Lines}) -> {type, Depth, line(["doctype ", field(Name)], Lines)};
event(endDTD, {_, Depth, Lines}) -> {text, Depth, Lines};
event(_, State) -> State.

line(Text, Lines) -> [[Text, "\n"] | Lines].
qname({[], Local}) -> Local;
qname({Prefix, Local}) -> Prefix ++ ":" ++ Local.
field(Text) -> nachklang_adapter:field(Text).
