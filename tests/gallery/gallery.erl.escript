#!/usr/bin/env escript
%% Defects of Erlang's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
main(_) ->
    io:format("jiffy-smallest\t~p~n", [jiffy:decode(<<"[5e-324]">>)]),
    Text = fun({characters, T}, _, Texts) -> [T | Texts]; (_, _, Texts) -> Texts end,
    {ok, Texts, _} = xmerl_sax_parser:stream(<<"<!DOCTYPE a [<!ENTITY e '&#38;#60;'>]><a>&e;</a>">>, [{event_fun, Text}, {event_state, []}]),
    io:format("xmerl-entity\t~s~n", [lists:append(lists:reverse(Texts))]).
