<?php
// PHP's DOM, XMLReader, XMLWriter and SimpleXML: all are built on libxml2. Nothing is fetched: no loader is allowed.
require __DIR__ . '/../sdk/nachklang_adapter.php';

libxml_use_internal_errors(true);
libxml_set_external_entity_loader(fn() => null);

/** A call without options keeps references to entities. */
const OPTIONS = ['default' => 0, 'expanded' => LIBXML_NOENT, 'huge' => LIBXML_NOENT | LIBXML_PARSEHUGE];

/** The errors after which libxml2 goes on, such as those against Namespaces 1.0; a fatal one is the refusal. */
function reports_or_refusal(bool $failed): array
{
    $errors = libxml_get_errors();
    libxml_clear_errors();
    foreach ($errors as $error) {
        if ($failed || $error->level === LIBXML_ERR_FATAL) throw Rejected::at(trim($error->message), ['line' => $error->line, 'column' => max(1, $error->column)]);
    }
    if ($failed) throw new Rejected('refused');
    return array_map(fn($error) => $error->message, array_values(array_filter($errors, fn($error) => $error->level === LIBXML_ERR_ERROR)));
}

/** The tree and what was reported; an empty text is an error of the call, thrown as such. */
function document(string $bytes, string $mode): array
{
    $document = new DOMDocument();
    $loaded = library(fn() => $document->loadXML($bytes, OPTIONS[$mode]), ValueError::class);
    return [$document, reports_or_refusal(!$loaded)];
}

function round_trip_dom(string $bytes, string $mode): array
{
    [$document, $reports] = document($bytes, $mode);
    return [library(fn() => $document->saveXML()), $reports];
}

function start(DOMElement $element, Trace $trace): void
{
    $trace->line('elem ' . field($element->nodeName) . ' ' . field($element->localName) . ' ' . field($element->namespaceURI ?? ''));
    foreach ($element->attributes as $a) {
        $trace->line('attr ' . field($a->nodeName) . ' ' . field($a->localName) . ' ' . field($a->namespaceURI ?? '') . ' ' . field($a->value) . ' -');
    }
}

function decode_dom(string $bytes, Trace $trace, string $mode): void
{
    [$document, $trace->reports] = document($bytes, $mode);
    if (!$trace->wanted) return;
    $node = $document->firstChild;
    while ($node !== null) {
        $inside = null;
        switch ($node->nodeType) {
            case XML_ELEMENT_NODE:
                start($node, $trace);
                $inside = $node->firstChild;
                if ($inside === null) $trace->line('end');
                break;
            case XML_TEXT_NODE: $trace->line('text ' . field($node->nodeValue)); break;
            case XML_CDATA_SECTION_NODE: $trace->line('cdata ' . field($node->nodeValue)); break;
            case XML_COMMENT_NODE: $trace->line('comment ' . field($node->nodeValue)); break;
            case XML_PI_NODE: $trace->line('pi ' . field($node->target) . ' ' . field($node->data)); break;
            case XML_ENTITY_REF_NODE: $trace->line('ref ' . field($node->nodeName)); break;
            case XML_DOCUMENT_TYPE_NODE: $trace->line('doctype ' . field($node->nodeName)); break;
        }
        if ($inside !== null) {
            $node = $inside;
            continue;
        }
        while ($node !== null && $node->nextSibling === null) {
            $node = $node->parentNode;
            if ($node === null || $node->nodeType === XML_DOCUMENT_NODE) return;
            $trace->line('end');
        }
        $node = $node->nextSibling;
    }
}

function decode_reader(string $bytes, Trace $trace, string $mode): void
{
    $reader = library(fn() => XMLReader::XML($bytes, null, OPTIONS[$mode]), ValueError::class);
    while (library(fn() => $reader->read())) {
        if (!$trace->wanted) continue;
        switch ($reader->nodeType) {
            case XMLReader::ELEMENT:
                $trace->line('elem ' . field($reader->name) . ' ' . field($reader->localName) . ' ' . field($reader->namespaceURI));
                $empty = $reader->isEmptyElement;
                while ($reader->moveToNextAttribute()) {
                    $parts = $reader->name === 'xmlns' || str_starts_with($reader->name, 'xmlns:') ? '- -' : field($reader->localName) . ' ' . field($reader->namespaceURI);
                    $trace->line('attr ' . field($reader->name) . ' ' . $parts . ' ' . field($reader->value) . ' -');
                }
                if ($empty) $trace->line('end');
                break;
            case XMLReader::END_ELEMENT: $trace->line('end'); break;
            case XMLReader::TEXT:
            case XMLReader::WHITESPACE:
            case XMLReader::SIGNIFICANT_WHITESPACE:
                $trace->line('text ' . field($reader->value));
                break;
            case XMLReader::CDATA: $trace->line('cdata ' . field($reader->value)); break;
            case XMLReader::COMMENT: $trace->line('comment ' . field($reader->value)); break;
            case XMLReader::PI: $trace->line('pi ' . field($reader->name) . ' ' . field($reader->value)); break;
            case XMLReader::ENTITY_REF: $trace->line('ref ' . field($reader->name)); break;
            case XMLReader::DOC_TYPE: $trace->line('doctype ' . field($reader->name)); break;
        }
    }
    $trace->reports = reports_or_refusal(false);
}

function encode_dom(string $trace, string $mode): string
{
    $document = new DOMDocument('1.0', 'UTF-8');
    $open = [$document];
    library(function () use ($trace, $document, &$open) {
        foreach (markup_of($trace, true) as $piece) {
            $top = end($open);
            switch ($piece[0]) {
                case 'elem': $open[] = $top->appendChild($document->createElementNS($piece[3] === '' ? null : $piece[3], $piece[1])); break;
                case 'attr': $top->setAttributeNS($piece[3] === '' ? null : $piece[3], $piece[1], $piece[4]); break;
                case 'ns': $top->setAttributeNS('http://www.w3.org/2000/xmlns/', $piece[1] === '' ? 'xmlns' : "xmlns:$piece[1]", $piece[2]); break;
                case 'end': array_pop($open); break;
                case 'text': $top->appendChild($document->createTextNode($piece[1])); break;
                case 'cdata': $top->appendChild($document->createCDATASection($piece[1])); break;
                case 'comment': $top->appendChild($document->createComment($piece[1])); break;
                case 'pi': $top->appendChild($document->createProcessingInstruction($piece[1], $piece[2])); break;
            }
        }
    }, DOMException::class, ValueError::class);
    $written = library(fn() => $document->saveXML());
    reports_or_refusal($written === false);
    return $written;
}

/** XMLWriter: declarations are its user's. Its calls return false where they refuse. */
function encode_writer(string $trace, string $mode): string
{
    $writer = new XMLWriter();
    $writer->openMemory();
    $writer->startDocument('1.0', 'UTF-8');
    foreach (markup_of($trace, false) as $piece) {
        $written = library(fn() => match ($piece[0]) {
            'elem' => $writer->startElement($piece[1]),
            'attr' => $writer->writeAttribute($piece[1], $piece[4]),
            'ns' => $writer->writeAttribute($piece[1] === '' ? 'xmlns' : "xmlns:$piece[1]", $piece[2]),
            'end' => $writer->endElement(),
            'text' => $writer->text($piece[1]),
            'cdata' => $writer->writeCdata($piece[1]),
            'comment' => $writer->writeComment($piece[1]),
            'pi' => $writer->writePi($piece[1], $piece[2]),
        }, ValueError::class);
        if (!$written) throw new Rejected("$piece[0] returned false");
    }
    $writer->endDocument();
    return $writer->outputMemory();
}

function round_trip_simple(string $bytes, string $mode): array
{
    $element = library(fn() => simplexml_load_string($bytes, 'SimpleXMLElement', OPTIONS[$mode]));
    $reports = reports_or_refusal($element === false);
    return [library(fn() => $element->asXML()), $reports];
}

$which = $argv[1];
nachklang_serve([
    'implementation' => "php-$which " . PHP_VERSION,
    'engine' => 'libxml2 ' . LIBXML_DOTTED_VERSION,
    'xml' => match ($which) {
        'dom' => ['decode' => decode_dom(...), 'round-trip' => round_trip_dom(...), 'encode' => encode_dom(...)],
        'xmlreader' => ['decode' => decode_reader(...)],
        'xmlwriter' => ['encode' => encode_writer(...)],
        'simplexml' => ['round-trip' => round_trip_simple(...)],
    },
    // Its DOM lists no namespace declarations.
    // Defaults of the document type are found by their names only.
    'cannot_represent' => match ($which) { 'dom' => ['declarations', 'defaults'], 'xmlreader' => ['defaults'], default => [] },
    'settings' => ['namespaces' => 'on', 'external' => 'none'],
    'modes' => $which === 'xmlwriter' ? [] : [
        'default' => ['settings' => ['entities' => 'kept']],
        'expanded' => ['settings' => ['entities' => 'expanded'], 'xml' => $which === 'xmlreader' ? ['decode'] : ($which === 'dom' ? ['decode', 'round-trip'] : [])],
        'huge' => ['settings' => ['entities' => 'expanded'], 'xml' => $which === 'xmlreader' ? ['decode'] : ($which === 'dom' ? ['decode', 'round-trip'] : [])],
    ],
]);
