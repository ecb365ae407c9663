<?php
// An adapter for @NAME@. Replace json_decode and json_encode by calls into your library, and JsonException by the error
// that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it.
require '@SDK@/nachklang_adapter.php';

function load(string $document): mixed
{
    try {
        return json_decode($document, null, 512, JSON_THROW_ON_ERROR);
    } catch (JsonException $error) {
        throw new Rejected($error->getMessage()); // only the documented failure; anything else is reported as `threw`
    }
}

nachklang_serve([
    'implementation' => '@NAME@ 0.1',
    'json' => [
        'decode' => fn($document, $trace, $mode) => print_value(load($document), $trace),
        'round-trip' => fn($document, $mode) => json_encode(load($document), JSON_THROW_ON_ERROR),
        'encode' => fn($trace, $mode) => json_encode(value_of($trace), JSON_THROW_ON_ERROR),
    ],
    'cannot_represent' => ['duplicates'],
]);
