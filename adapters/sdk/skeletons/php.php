<?php
// An adapter for @NAME@. Replace json_decode and json_encode by calls into your library, and JsonException by the error
// that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it.
require '@SDK@/nachklang_adapter.php';

// What leaves library() is the library's: the classes named are a refusal, any other exception `threw`.
function load(string $document): mixed
{
    return library(fn() => json_decode($document, null, 512, JSON_THROW_ON_ERROR), JsonException::class);
}

function dump(mixed $value): string
{
    return library(fn() => json_encode($value, JSON_THROW_ON_ERROR), JsonException::class);
}

nachklang_serve([
    'implementation' => '@NAME@ 0.1',
    'json' => [
        'decode' => fn($document, $trace, $mode) => print_value(load($document), $trace),
        'round-trip' => fn($document, $mode) => dump(load($document)),
        'encode' => fn($trace, $mode) => dump(value_of($trace)),
    ],
    'cannot_represent' => ['duplicates'],
]);
