<?php
// PHP's libraries without any kit: plain.php LIBRARY, then file names on standard input. See README.md for the lines it prints.
libxml_use_internal_errors(true);
libxml_set_external_entity_loader(fn() => null);

function json_tokens(mixed $value, array &$out): void
{
    if (is_string($value)) $out[] = 's' . bin2hex($value);
    elseif (is_int($value)) $out[] = "n$value";
    elseif (is_float($value)) $out[] = 'n' . var_export($value, true);
    elseif (is_array($value)) {
        $out[] = '[';
        foreach ($value as $item) json_tokens($item, $out);
        $out[] = ']';
    } elseif (is_object($value)) {
        $out[] = '{';
        foreach ($value as $name => $item) {
            $out[] = 'k' . bin2hex((string)$name);
            json_tokens($item, $out);
        }
        $out[] = '}';
    } else $out[] = ['null', 'true', 'false'][$value === null ? 0 : ($value ? 1 : 2)];
}

function full(DOMNode $node): string
{
    return $node->namespaceURI !== null && $node->namespaceURI !== '' ? '{' . $node->namespaceURI . '}' . $node->localName : $node->nodeName;
}

function dom_tokens(DOMElement $element, array &$out): void
{
    $out[] = '<' . bin2hex(full($element));
    $attributes = [];
    foreach ($element->attributes as $attribute) $attributes[] = 'a' . bin2hex(full($attribute)) . '=' . bin2hex($attribute->value);
    sort($attributes, SORT_STRING);
    array_push($out, ...$attributes);
    foreach ($element->childNodes as $child) {
        if ($child instanceof DOMElement) dom_tokens($child, $out);
        elseif ($child instanceof DOMText) $out[] = 't' . bin2hex($child->data);
        elseif ($child instanceof DOMEntityReference) $out[] = 'r' . bin2hex($child->nodeName);
    }
    $out[] = '>';
}

[$decode, $show, $write] = match ($argv[1]) {
    'json' => [fn($document) => json_decode($document), 'json_tokens', fn($value) => json_encode($value)],
    'dom' => [
        function ($document) {
            $parsed = new DOMDocument();
            return $document !== '' && $parsed->loadXML($document) ? $parsed : null;
        },
        fn($document, &$out) => dom_tokens($document->documentElement, $out),
        fn($document) => $document->saveXML(),
    ],
    'simplexml' => [
        fn($document) => simplexml_load_string($document),
        fn($value, &$out) => null,
        fn($element) => $element->asXML(),
    ],
};
while (($path = fgets(STDIN)) !== false) {
    $value = $decode(file_get_contents(rtrim($path, "\n")));
    $tokens = [];
    if ($argv[1] === 'json' ? json_last_error() !== JSON_ERROR_NONE : !is_object($value)) {
        echo "rejected\n";
        continue;
    }
    $written = $write($value);
    $tokens[] = 'w' . ($written === false ? '!' : bin2hex($written));
    $show($value, $tokens);
    echo implode(' ', ['accepted', ...$tokens]), "\n";
}
