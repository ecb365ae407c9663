# Perl's libraries without any kit: plain.pl LIBRARY, then file names on standard input. See README.md for the lines it prints.
use strict;
use warnings;
no warnings 'recursion';
use B ();

sub hexed {
    my $bytes = shift;
    utf8::encode($bytes);
    return unpack 'H*', $bytes;
}

sub json_value {
    my ($value, $out) = @_;
    if (!defined $value) { push @$out, 'null' }
    elsif (ref $value eq 'ARRAY') { push @$out, '['; json_value($_, $out) for @$value; push @$out, ']' }
    elsif (ref $value eq 'HASH') {
        push @$out, '{';
        for my $name (keys %$value) { push @$out, 'k' . hexed($name); json_value($value->{$name}, $out) }
        push @$out, '}';
    }
    elsif (ref $value) { push @$out, $value ? 'true' : 'false' }
    else {
        my $flags = B::svref_2object(\$value)->FLAGS;
        if ($flags & B::SVf_POK) { push @$out, 's' . hexed($value) }
        elsif ($flags & B::SVf_IOK) { push @$out, "n$value" }
        else { push @$out, sprintf 'n%.17g', $value }
    }
}

sub dom_value {
    my ($element, $out) = @_;
    my $full = sub { my $uri = $_[0]->namespaceURI; return defined $uri ? "{$uri}" . $_[0]->localname : $_[0]->nodeName };
    push @$out, '<' . hexed($full->($element));
    push @$out, sort map { 'a' . hexed($full->($_)) . '=' . hexed($_->value) } grep { $_->nodeType == 2 } $element->attributes;
    for my $child ($element->childNodes) {
        my $type = $child->nodeType;
        if ($type == 1) { dom_value($child, $out) }
        elsif ($type == 3 || $type == 4) { push @$out, 't' . hexed($child->data) }
        elsif ($type == 5) { push @$out, 'r' . hexed($child->nodeName) }
    }
    push @$out, '>';
}

my $name = shift @ARGV;
my ($decode, $show, $write);
if ($name =~ /JSON/) {
    eval "require $name; 1" or die $@;
    $decode = sub { $name->new->utf8->allow_nonref->decode($_[0]) };
    $show = \&json_value;
    $write = sub { $name->new->utf8->allow_nonref->encode($_[0]) };
} elsif ($name eq 'XML::LibXML') {
    require XML::LibXML;
    XML::LibXML::externalEntityLoader(sub { '' });
    $decode = sub { XML::LibXML->load_xml(string => $_[0]) };
    $show = sub { dom_value($_[0]->documentElement, $_[1]) };
    $write = sub { $_[0]->toString };
} else {
    require XML::Parser;
    $decode = sub {
        my @events;
        XML::Parser->new(NoLWP => 1, Handlers => {
            ExternEnt => sub { '' }, ExternEntFin => sub { },
            Start => sub {
                my ($parser, $element, @pairs) = @_;
                push @events, '<' . hexed($element);
                my @attributes;
                while (my ($key, $value) = splice @pairs, 0, 2) { push @attributes, 'a' . hexed($key) . '=' . hexed($value) }
                push @events, sort @attributes;
            },
            End => sub { push @events, '>' },
            Char => sub { push @events, 't' . hexed($_[1]) },
        })->parse($_[0]);
        return \@events;
    };
    $show = sub { push @{$_[1]}, @{$_[0]} };
}
$| = 1;
while (my $path = <STDIN>) {
    chomp $path;
    open my $file, '<:raw', $path or die "$path: $!";
    my $document = do { local $/; <$file> } // '';
    my $value;
    if (!eval { $value = $decode->($document); 1 }) { print "rejected\n"; next }
    my @tokens;
    push @tokens, eval { 'w' . unpack 'H*', $write->($value) } // 'w!' if $write;
    $show->($value, \@tokens);
    print join(' ', 'accepted', @tokens), "\n";
}
