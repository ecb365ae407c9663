<?php
// The adapter kit for PHP: describe the implementation, define functions, call nachklang_serve().
//
//     require 'nachklang_adapter.php';
//     $decode = fn($document, $trace, $mode) => print_value(library(fn() => tower_decode($document), TowerException::class), $trace);
//     nachklang_serve(['implementation' => 'tower 3.2', 'json' => ['decode' => $decode, 'round-trip' => round_trip(...)]]);
//
// decode(document, trace, mode) calls trace->line(); round_trip(document, mode) and encode(trace, mode) return bytes. Call your library
// inside library(): the exceptions that it documents become `rejected` (throw Rejected to add a position), others `threw`. An exception
// thrown anywhere else is a fault of the adapter (`adapter-fault`) and never booked on the library. docs/protocol.md has the rest.

class Rejected extends Exception
{
    public array $place = [];
    public static function at(string $message, array $place): Rejected
    {
        $out = new Rejected($message);
        $out->place = $place;
        return $out;
    }
}
class Unsupported extends Exception {}
/** What left the library and is not documented. */
class LibraryFailure extends Exception {}

/** Calls into the library under test; the other arguments are the classes that it documents for a text it refuses. */
function library(callable $call, string ...$documented): mixed
{
    try {
        return $call();
    } catch (Rejected | Unsupported | LibraryFailure $ours) {
        throw $ours;
    } catch (Throwable $error) {
        foreach ($documented as $class) if ($error instanceof $class) throw new Rejected($error->getMessage());
        throw new LibraryFailure(get_class($error) . ': ' . $error->getMessage());
    }
}

class Trace
{
    public array $lines = [];
    /** Errors that the library reports of a document that it accepts. */
    public array $reports = [];
    public function __construct(public bool $wanted) {}
    public function line(string $text): void
    {
        $this->lines[] = $text;
    }
}

function field(string $bytes): string
{
    return 'u8:' . bin2hex($bytes);
}

/** Prints null, scalars, arrays and stdClass, with a stack of its own. A PHP array is a list where its keys count up. */
function print_value(mixed $root, Trace $trace): void
{
    if (!$trace->wanted) return;
    $stack = [['', [$root], null, 0]];
    while ($stack) {
        $top = count($stack) - 1;
        [$closer, $values, $names, $next] = $stack[$top];
        if ($next === count($values)) {
            array_pop($stack);
            if ($closer !== '') $trace->line($closer);
            continue;
        }
        $stack[$top][3]++;
        $value = $values[$next];
        if ($names !== null) $trace->line('key ' . (is_int($names[$next]) ? 'u8:' . bin2hex((string)$names[$next]) : field($names[$next])));
        if (is_array($value) && $value === []) {
            $trace->line('(');
            $trace->line(')');
        } elseif (is_array($value) && array_is_list($value)) {
            $trace->line('[');
            $stack[] = [']', $value, null, 0];
        } elseif (is_array($value) || $value instanceof stdClass) {
            $members = (array)$value;
            $trace->line('{');
            $stack[] = ['}', array_values($members), array_keys($members), 0];
        } else {
            $trace->line(match (true) {
                $value === null => 'null',
                $value === true => 'true',
                $value === false => 'false',
                is_int($value) => 'int ' . $value,
                is_float($value) => 'binary64 ' . bin2hex(pack('E', $value)),
                default => 'str ' . field($value),
            });
        }
    }
}

function text_of(string $field): string
{
    [$units, $digits] = explode(':', $field);
    $bytes = hex2bin($digits);
    if ($units === 'u8') return $bytes;
    $out = '';
    $numbers = array_values(unpack($units === 'u16' ? 'n*' : 'N*', $bytes));
    for ($i = 0; $i < count($numbers); $i++) {
        $c = $numbers[$i];
        $low = $numbers[$i + 1] ?? 0;
        if ($units === 'u16' && ($c & 0xFC00) === 0xD800 && ($low & 0xFC00) === 0xDC00) {
            $c = 0x10000 + (($c & 0x3FF) << 10) + ($low & 0x3FF);
            $i++;
        }
        $out .= match (true) {
            $c < 0x80 => chr($c),
            $c < 0x800 => chr(0xC0 | $c >> 6) . chr(0x80 | $c & 0x3F),
            $c < 0x10000 => chr(0xE0 | $c >> 12) . chr(0x80 | $c >> 6 & 0x3F) . chr(0x80 | $c & 0x3F),
            default => chr(0xF0 | $c >> 18) . chr(0x80 | $c >> 12 & 0x3F) . chr(0x80 | $c >> 6 & 0x3F) . chr(0x80 | $c & 0x3F),
        };
    }
    return $out;
}

/** The pieces of a document of XML to be written: ['elem', qname, local, uri], ['attr', qname, local, uri, value], ['ns', prefix, uri], ['text', t] … Where a
 * library leaves declarations to its user, a value without them cannot be asked for. */
function markup_of(string $trace, bool $declares): array
{
    $pieces = [];
    $in_namespaces = $declared = false;
    foreach (explode("\n", rtrim($trace, "\n")) as $line) {
        $words = explode(' ', $line);
        foreach ($words as $i => $word) if ($i > 0) $words[$i] = $word === '-' ? '' : (str_contains($word, ':') ? text_of($word) : $word);
        if (in_array($words[0], ['elem', 'attr'])) $in_namespaces = $in_namespaces || !in_array($words[3], ['', 'http://www.w3.org/XML/1998/namespace']);
        $declared = $declared || $words[0] === 'ns';
        $pieces[] = $words;
    }
    if (!$declares && $in_namespaces && !$declared) throw new Unsupported('declarations are left to the user here');
    return $pieces;
}

/** The value that a trace tells, to be encoded: lists, and stdClass for objects. */
function value_of(string $trace): mixed
{
    $root = null;
    $levels = [];
    $name = '';
    foreach (explode("\n", rtrim($trace, "\n")) as $line) {
        [$word, $rest] = explode(' ', $line, 2) + [1 => ''];
        if ($word === 'key') {
            if (!str_contains($rest, ':')) throw new Unsupported('names are strings here');
            $name = text_of($rest);
            continue;
        }
        if ($word === ']' || $word === '}') {
            array_pop($levels);
            continue;
        }
        $value = match (true) {
            $word === '[' => new ArrayObject(),
            $word === '{' => new stdClass(),
            $word === 'null' => null,
            $word === 'true' => true,
            $word === 'false' => false,
            $word === 'str' => text_of($rest),
            $word === 'binary64' => unpack('E', hex2bin($rest))[1],
            $word === 'int' && (string)(int)$rest === $rest => (int)$rest,
            default => throw new Unsupported("no value for $word $rest"),
        };
        $level = end($levels);
        if ($level === false) $root = $value;
        elseif ($level instanceof ArrayObject) $level[] = $value;
        elseif (property_exists($level, $name)) throw new Unsupported('an object holds a name once');
        elseif (str_starts_with($name, "\0")) throw new Unsupported('a name beginning with NUL');
        else $level->{$name} = $value;
        if ($word === '[' || $word === '{') $levels[] = $value;
    }
    return plain($root);
}

/** Lists were objects while they grew, as arrays are values here; depth is small where one encodes. */
function plain(mixed $value): mixed
{
    if ($value instanceof ArrayObject) return array_map(plain(...), $value->getArrayCopy());
    if ($value instanceof stdClass) foreach ($value as $name => $member) $value->{$name} = plain($member);
    return $value;
}

function nachklang_answer(array $functions, string $operation, string $document, array $keys): array
{
    if (!isset($functions[$operation]) || array_diff(array_keys($keys), ['id', 'mode', 'show'])) return ['unsupported', '', []];
    $mode = $keys['mode'] ?? '';
    try {
        if ($operation !== 'decode') return nachklang_accepted(...(array)$functions[$operation]($document, $mode));
        $trace = new Trace(($keys['show'] ?? '') !== 'nothing');
        $functions['decode']($document, $trace, $mode);
        // Without a line: a document of XML that was accepted and holds nothing at all.
        $body = $trace->wanted ? ($trace->lines ? implode("\n", $trace->lines) : 'text u8:') . "\n" : '';
        return nachklang_accepted($body, $trace->reports);
    } catch (Rejected $error) {
        return ['rejected', $error->getMessage(), $error->place];
    } catch (Unsupported $error) {
        return ['unsupported', $error->getMessage(), []];
    } catch (LibraryFailure $error) {
        return ['threw', $error->getMessage(), []];
    } catch (Throwable $error) {
        return ['adapter-fault', get_class($error) . ': ' . $error->getMessage(), []];
    }
}

/** A round trip may return a text and a list of reports. */
function nachklang_accepted(string $body, array $reports = []): array
{
    $messages = '';
    foreach ($reports as $report) $messages .= str_replace("\n", ' ', trim($report)) . "\n";
    return ['accepted', $messages . $body, $messages === '' ? [] : ['reported' => strlen($messages)]];
}

/** Serves requests until standard input ends. What is echoed goes to standard error. */
function nachklang_serve(array $is): void
{
    ini_set('memory_limit', '-1');
    ini_set('display_errors', 'stderr');
    // The pipe is kept, and the next descriptor opened takes the place of the one closed.
    $replies = fopen('php://fd/1', 'w');
    fclose(STDOUT);
    $stray = fopen('php://fd/2', 'w');
    $lines = ['nachklang-adapter 1', 'implementation ' . $is['implementation']];
    if ($is['engine'] ?? '') $lines[] = 'engine ' . $is['engine'];
    foreach (['json', 'xml'] as $format) if (isset($is[$format])) $lines[] = $format . ' ' . implode(' ', array_keys($is[$format]));
    if ($is['cannot_represent'] ?? []) $lines[] = 'cannot-represent ' . implode(' ', $is['cannot_represent']);
    foreach ($is['settings'] ?? [] as $key => $value) $lines[] = "setting $key=$value";
    foreach ($is['modes'] ?? [] as $mode => $own) {
        $lines[] = "mode $mode";
        if ($own['cannot_represent'] ?? []) $lines[] = 'cannot-represent ' . implode(' ', $own['cannot_represent']);
        foreach ($own['settings'] ?? [] as $key => $value) $lines[] = "setting $key=$value";
        foreach (['json', 'xml'] as $format) if ($own[$format] ?? []) $lines[] = $format . ' ' . implode(' ', $own[$format]);
    }
    fwrite($replies, implode("\n", $lines) . "\n\n");
    while (($head = fgets(STDIN)) !== false) {
        [$operation, $format, $length] = $words = explode(' ', rtrim($head, "\n"));
        $document = '';
        while (strlen($document) < (int)$length) $document .= fread(STDIN, (int)$length - strlen($document));
        $keys = [];
        foreach (array_slice($words, 3) as $word) {
            [$key, $value] = explode('=', $word, 2) + [1 => ''];
            $keys[$key] = $value;
        }
        [$kind, $body, $place] = nachklang_answer($is[$format] ?? [], $operation, $document, $keys);
        $position = '';
        foreach ($place as $key => $value) $position .= " $key=$value";
        fwrite($replies, "$kind " . strlen($body) . ' id=' . ($keys['id'] ?? 0) . "$position\n$body");
    }
}
