# XML::Parser (Expat), XML::LibXML (libxml2), and XML::Simple, which folds a document into hashes: its round trips show what is left.
use strict;
use warnings;
use FindBin;
use lib "$FindBin::Bin/../sdk";
use NachklangAdapter qw(serve field library own);

my $library = shift @ARGV;

sub libxml_document {
    my ($document, $mode) = @_;
    my $parsed = eval { XML::LibXML->load_xml(string => $document, $mode eq 'huge' ? (huge => 1) : ()) };
    return $parsed if $parsed;
    my $error = $@;
    my ($message, %place) = ref $error ? ($error->message, line => $error->line, $error->column ? (column => $error->column) : ()) : ("$error");
    die NachklangAdapter::Rejected->new($message =~ s/\s+\z//r, %place);
}

sub libxml_start {
    my ($element, $trace) = @_;
    push @$trace, join ' ', 'elem', field($element->nodeName), field($element->localname), field($element->namespaceURI // '');
    for my $a ($element->attributes) {
        if ($a->nodeType == XML::LibXML::XML_NAMESPACE_DECL()) {
            push @$trace, join ' ', 'ns', field($a->declaredPrefix // ''), field($a->declaredURI // '');
        } else {
            push @$trace, join ' ', 'attr', field($a->nodeName), field($a->localname), field($a->namespaceURI // ''), field($a->value), '-';
        }
    }
    return;
}

sub libxml_decode {
    my ($document, $trace, $mode) = @_;
    my $parsed = libxml_document($document, $mode);
    return if !$trace;
    my @stack = reverse $parsed->childNodes;
    while (@stack) {
        my $node = pop @stack;
        if (!ref $node) { push @$trace, 'end'; next }
        my $type = $node->nodeType;
        if ($type == XML::LibXML::XML_ELEMENT_NODE()) {
            libxml_start($node, $trace);
            push @stack, 'end', reverse $node->childNodes;
        }
        elsif ($type == XML::LibXML::XML_TEXT_NODE())          { push @$trace, 'text ' . field($node->data) }
        elsif ($type == XML::LibXML::XML_CDATA_SECTION_NODE()) { push @$trace, 'cdata ' . field($node->data) }
        elsif ($type == XML::LibXML::XML_COMMENT_NODE())       { push @$trace, 'comment ' . field($node->data) }
        elsif ($type == XML::LibXML::XML_PI_NODE())            { push @$trace, join ' ', 'pi', field($node->nodeName), field($node->getData // '') }
        elsif ($type == XML::LibXML::XML_ENTITY_REF_NODE())    { push @$trace, 'ref ' . field($node->nodeName) }
        elsif ($type == XML::LibXML::XML_DTD_NODE())           { push @$trace, 'doctype ' . field($node->nodeName) }
    }
    return;
}

sub libxml_encode {
    my ($trace) = @_;
    my @pieces = NachklangAdapter::markup_of($trace, 1);
    my $document = XML::LibXML->createDocument('1.0', 'UTF-8');
    my @open;
    my $add = sub { my ($node) = @_; @open ? $open[-1]->appendChild($node) : $node->nodeType == XML::LibXML::XML_ELEMENT_NODE() ? $document->setDocumentElement($node) : $document->appendChild($node); return $node };
    my $built = eval {
        for my $i (0 .. $#pieces) {
            my ($word, @is) = @{ $pieces[$i] };
            if ($word eq 'elem') {
                die NachklangAdapter::Unsupported->new('a document has one root here') if !@open && $document->documentElement;
                push @open, $add->($is[2] eq '' ? $document->createElement($is[0]) : $document->createElementNS($is[2], $is[0]));
                # An element has its own declaration already.
                for (my $d = $i + 1; $pieces[$d][0] =~ /^(?:attr|ns)$/; ++$d) {
                    my (undef, $prefix, $uri) = @{ $pieces[$d] };
                    die NachklangAdapter::Unsupported->new('a default namespace is not undeclared here') if $pieces[$d][0] eq 'ns' && $uri eq '';
                    $open[-1]->setNamespace($uri, $prefix, 0) if $pieces[$d][0] eq 'ns' && !($uri eq $is[2] && $prefix eq ($is[0] =~ /^(.*):/ ? $1 : ''));
                }
            }
            elsif ($word eq 'attr') { $is[2] eq '' ? $open[-1]->setAttribute($is[0], $is[3]) : $open[-1]->setAttributeNS($is[2], $is[0], $is[3]) }
            elsif ($word eq 'end')     { pop @open }
            elsif ($word eq 'text')    { $add->($document->createTextNode($is[0])) }
            elsif ($word eq 'cdata')   { $add->($document->createCDATASection($is[0])) }
            elsif ($word eq 'comment') { $add->($document->createComment($is[0])) }
            elsif ($word eq 'pi')      { $add->($document->createProcessingInstruction($is[0], $is[1])) }
        }
        1;
    };
    if (!$built) {
        die $@ if ref($@) =~ /^NachklangAdapter::/;
        die NachklangAdapter::Rejected->new("$@" =~ s/ at \S+ line \d+\.?\s*\z//r);
    }
    return library { $document->toString };
}

sub expat_decode {
    my ($document, $trace) = @_;
    my ($text, $in_type) = ('', 0);
    my $kind = 'text';
    my $flush = sub { push @$trace, "$kind " . field($text) if $text ne '' || $kind eq 'cdata' && $_[0]; $text = '' };
    my %handlers = !$trace ? () : (
        Start => sub {
            my ($expat, $name, @attributes) = @_;
            $flush->();
            push @$trace, 'elem ' . field($name) . ' - -';
            while (my ($attribute, $value) = splice @attributes, 0, 2) {
                push @$trace, join ' ', 'attr', field($attribute), '- -', field($value), '-';
            }
        },
        End     => sub { $flush->(); push @$trace, 'end' },
        Char    => sub { $text .= $_[1] },
        Comment => sub { return if $in_type; $flush->(); push @$trace, 'comment ' . field($_[1]) },
        Proc    => sub { return if $in_type; $flush->(); push @$trace, join ' ', 'pi', field($_[1]), field($_[2] // '') },
        CdataStart => sub { $flush->(); $kind = 'cdata' },
        CdataEnd   => sub { $flush->(1); $kind = 'text' },
        Doctype    => sub { push @$trace, 'doctype ' . field($_[1]); $in_type = 1 },
        DoctypeFin => sub { $in_type = 0 },
    );
    $_ = own($_) for values %handlers;
    my $parser = XML::Parser->new(NoLWP => 1, Handlers => { %handlers, ExternEnt => sub { return '' }, ExternEntFin => sub { } });
    return if eval { $parser->parse($document); 1 };
    die $@ if ref $@;    # from a handler
    my $message = "$@";
    die NachklangAdapter::Rejected->new($message =~ s/^\s+|\s+at \S+ line \d+\.?\s*\z//gr,
        $message =~ /at line (\d+), column (\d+), byte (\d+)/ ? (line => $1, column => $2 + 1, offset => $3) : ());
}

# By itself it reads with whatever SAX parser is set up; Expat is what it asks for first where that is there.
sub simple_round_trip {
    my ($document) = @_;
    my $held = library { XML::Simple::XMLin($document, KeepRoot => 1, ForceArray => 0, NormaliseSpace => 0) };
    my $written = library { XML::Simple::XMLout($held, KeepRoot => 1, XMLDecl => 1) };
    utf8::encode($written) if utf8::is_utf8($written);
    return $written;
}

if ($library eq 'XML::Simple') {
    require XML::Parser;
    require XML::Simple;
    $XML::Simple::PREFERRED_PARSER = 'XML::Parser';
    serve(implementation => "perl-xml-simple $XML::Simple::VERSION", engine => 'expat', xml => { 'round-trip' => \&simple_round_trip }, settings => { namespaces => 'off', 'parameter-entities' => 'skipped' });
} elsif ($library eq 'XML::Parser') {
    require XML::Parser;
    serve(implementation => "perl-xml-parser $XML::Parser::VERSION", engine => 'expat', xml => { decode => \&expat_decode }, cannot_represent => ['namespaces'],
        settings => { namespaces => 'off', external => 'empty', 'parameter-entities' => 'skipped' });
} else {
    require XML::LibXML;
    XML::LibXML::externalEntityLoader(sub { return '' });    # it would open files, and without them expands nothing
    serve(implementation => "perl-xml-libxml $XML::LibXML::VERSION", engine => 'libxml2 ' . XML::LibXML::LIBXML_DOTTED_VERSION(),
        xml => { decode => \&libxml_decode, 'round-trip' => sub { my $parsed = libxml_document($_[0], $_[1]); return library { $parsed->toString } }, encode => \&libxml_encode },
        cannot_represent => ['defaults'], settings => { namespaces => 'on', external => 'empty' }, modes => [ 'default', [ 'huge', 'decode', 'round-trip' ] ]);
}
