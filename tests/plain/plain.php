<?php
// PHP's libraries without any kit: plain.php LIBRARY, then file names on standard input; for each one a line, accepted or rejected.
libxml_use_internal_errors(true);
libxml_set_external_entity_loader(fn() => null);
$flags = LIBXML_NONET | LIBXML_NOENT | LIBXML_PARSEHUGE;
$decode = match ($argv[1]) {
    'json' => fn($document) => json_decode($document) !== null || json_last_error() === JSON_ERROR_NONE,
    'dom' => fn($document) => $document !== '' && (new DOMDocument())->loadXML($document, $flags),
    'simplexml' => fn($document) => simplexml_load_string($document, 'SimpleXMLElement', $flags) !== false,
};
while (($path = fgets(STDIN)) !== false) echo $decode(file_get_contents(rtrim($path, "\n"))) ? "accepted\n" : "rejected\n";
