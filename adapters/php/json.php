<?php
// PHP's json_decode and json_encode: objects as stdClass, objects as arrays, big integers as text, and flags of the encoder.
require __DIR__ . '/../sdk/nachklang_adapter.php';

// The default depth is 512.
const DECODING = ['arrays' => JSON_OBJECT_AS_ARRAY, 'big-integers-as-text' => JSON_BIGINT_AS_STRING, 'ill-formed-replaced' => JSON_INVALID_UTF8_SUBSTITUTE];
const ENCODING = [
    'pretty' => JSON_PRETTY_PRINT,
    'plain' => JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES,
    'fraction-kept' => JSON_PRESERVE_ZERO_FRACTION,
    'html' => JSON_HEX_TAG | JSON_HEX_AMP | JSON_HEX_APOS | JSON_HEX_QUOT,
    'ill-formed-replaced' => JSON_INVALID_UTF8_SUBSTITUTE,
];

function load(string $document, string $mode): mixed
{
    return library(fn() => json_decode($document, null, 512, JSON_THROW_ON_ERROR | (DECODING[$mode] ?? 0)), JsonException::class);
}

function dump(mixed $value, string $mode): string
{
    return library(fn() => json_encode($value, JSON_THROW_ON_ERROR | (ENCODING[$mode] ?? 0)), JsonException::class);
}

nachklang_serve([
    'implementation' => 'php-json ' . PHP_VERSION,
    'json' => [
        'decode' => fn($document, $trace, $mode) => print_value(load($document, $mode), $trace),
        'round-trip' => fn($document, $mode) => dump(load($document, $mode), $mode),
        'encode' => fn($trace, $mode) => dump(value_of($trace), $mode),
    ],
    'cannot_represent' => ['duplicates'],
    'modes' => [
        'objects' => [],
        'arrays' => ['cannot_represent' => ['empty-kind'], 'json' => ['decode', 'round-trip']],
        'big-integers-as-text' => ['cannot_represent' => ['number-as-text'], 'json' => ['decode']],
        'ill-formed-replaced' => ['settings' => ['purpose' => 'repairs']],
        'pretty' => ['json' => ['encode']],
        'plain' => ['json' => ['encode']],
        'fraction-kept' => ['json' => ['round-trip', 'encode']],
        'html' => ['json' => ['encode']],
    ],
]);
