<?php
// Defects of PHP's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
$writer = new XMLWriter();
$writer->openMemory();
$writer->startElement('a');
$writer->writeComment('x--y');
$writer->endElement();
echo "php-xmlwriter-comment\t", $writer->outputMemory(), "\n";
$document = new DOMDocument();
$document->appendChild($document->createElement('a'))->appendChild($document->createComment('x--y'));
echo "php-dom-comment\t", $document->saveXML($document->documentElement), "\n";
