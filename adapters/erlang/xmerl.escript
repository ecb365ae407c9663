#!/usr/bin/env escript
%% xmerl_sax_parser: its events. (xmerl_scan makes an atom of every name, which a long run cannot bear.)
%%! -noshell -env ERL_CRASH_DUMP_SECONDS 0
-mode(compile).

main(_) ->
    ok = io:setopts(standard_io, [binary, {encoding, latin1}]),
    _ = application:load(xmerl),
    {ok, Version} = application:get_key(xmerl, vsn),
    %% Started with the pipe as descriptor 3, and 1 where standard error goes: what a library prints must not come between.
    put(replies, open_port({fd, 3, 3}, [out, binary])),
    put_bytes(["nachklang-adapter 1\nimplementation xmerl-sax ", Version, "\nxml decode\nsetting namespaces=on\nsetting external=files\n\n"]),
    serve().

put_bytes(Bytes) -> port_command(get(replies), Bytes).

serve() ->
    case file:read_line(standard_io) of
        eof -> ok;
        {ok, Line} ->
            [Operation, Format, Length | Rest] = binary:split(string:trim(Line, trailing, "\n"), <<" ">>, [global]),
            Document = body(binary_to_integer(Length)),
            Keys = maps:from_list([list_to_tuple(binary:split(Word, <<"=">>)) || Word <- Rest]),
            Known = Format =:= <<"xml">> andalso Operation =:= <<"decode">> andalso maps:size(maps:without([<<"id">>, <<"mode">>, <<"show">>], Keys)) =:= 0,
            {Kind, Body, Place} = case Known of
                true -> decode(Document, maps:get(<<"show">>, Keys, <<>>) =/= <<"nothing">>);
                false -> {"unsupported", <<>>, ""}
            end,
            Bytes = iolist_to_binary(Body),
            put_bytes([Kind, " ", integer_to_list(byte_size(Bytes)), " id=", maps:get(<<"id">>, Keys), Place, "\n", Bytes]),
            serve()
    end.

body(0) -> <<>>;
body(Length) -> {ok, Bytes} = file:read(standard_io, Length), Bytes.

decode(Document, Show) ->
    Report = fun(Event, _, Lines) -> event(Event, Lines) end,
    %% It opens what a document names outside itself, where there is such a file; this version has no option against it.
    Options = [{event_fun, Report}, {event_state, {text, 0, []}}],
    try xmerl_sax_parser:stream(Document, Options) of
        {ok, {_, _, Lines}, Rest} ->
            case outside_root(Rest) of
                true when Show, Lines =:= [] -> {"accepted", "text u8:\n", ""};
                true when Show -> {"accepted", lists:reverse(Lines), ""};
                true -> {"accepted", [], ""};
                %% It stops after a document; who hands over one document looks at what is left.
                false -> {"rejected", "input is left after the document", ""}
            end;
        {fatal_error, Where, Why, _, _} -> refused(Where, Why);
        {Tag, Where, Why, _, _} when is_atom(Tag) -> refused(Where, Why);
        Undocumented -> {"threw", io_lib:format("~p", [Undocumented]), ""}
    catch
        Class:Why -> {"threw", io_lib:format("~p: ~p", [Class, Why]), ""}
    end.

refused({_, _, Line}, Why) when is_integer(Line) -> {"rejected", message(Why), [" line=", integer_to_list(max(1, Line))]};
refused(_, Why) -> {"rejected", message(Why), ""}.

message(Why) ->
    case io_lib:printable_unicode_list(Why) of
        true -> unicode:characters_to_binary(Why);
        false -> unicode:characters_to_binary(io_lib:format("~tp", [Why]))
    end.

outside_root(Rest) when is_binary(Rest) -> string:trim(Rest, both, " \t\r\n") =:= <<>>;
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
field(Text) -> ["u8:", hex(unicode:characters_to_binary(Text))].
hex(Bytes) -> string:lowercase(binary:encode_hex(Bytes)).
