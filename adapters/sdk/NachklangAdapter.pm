# The adapter kit for Perl: describe the implementation, define functions, call serve().
#
#     use NachklangAdapter qw(serve library print_value value_of);
#     sub decode { my ($document, $trace, $mode) = @_; print_value(library { Tower::JSON::decode($document) }, $trace) if … }
#     serve(implementation => "Tower::JSON 3.2", json => { decode => \&decode, 'round-trip' => \&round_trip });
#
# decode(document, trace, mode) prints to the trace; round_trip(document, mode) and encode(trace, mode) return bytes. Call your library
# inside `library { … }`: it dies with what it documents, which becomes `rejected`; or die with
# NachklangAdapter::Rejected->new(message, offset => N …) to add a position. Anything else that dies is a fault of the adapter
# (`adapter-fault`) and never booked on the library; wrap functions that the library calls back in own(sub { … }).
# docs/protocol.md describes what goes over the pipes.
package NachklangAdapter;

use strict;
use warnings;
use B ();
use Scalar::Util qw(blessed reftype);
use Exporter 'import';
our @EXPORT_OK = qw(serve library own print_value value_of field);

package NachklangAdapter::Rejected {
    sub new { my ($class, $message, %place) = @_; return bless { message => $message, place => \%place }, $class }
}
package NachklangAdapter::Unsupported {
    sub new { my ($class, $message) = @_; return bless { message => $message, place => {} }, $class }
}

package NachklangAdapter::Fault {
    sub new { my ($class, $message) = @_; return bless { message => $message, place => {} }, $class }
}

# Calls into the library under test.
sub library(&) {
    my ($call) = @_;
    my @result = eval { (1, wantarray ? $call->() : scalar $call->()) };
    if (!@result) {
        die $@ if blessed $@ && ref($@) =~ /^NachklangAdapter::/;
        die NachklangAdapter::Rejected->new("$@" =~ s/^\s+|\s+at \S+ line \d+\.?\s*\z//gr);
    }
    shift @result;
    return wantarray ? @result : $result[0];
}

# A function of the adapter that the library calls back: what dies in it is the adapter's.
sub own {
    my ($function) = @_;
    return sub {
        my @result = eval { (1, $function->(@_)) };
        die blessed $@ && ref($@) =~ /^NachklangAdapter::/ ? $@ : NachklangAdapter::Fault->new("$@") if !@result;
        return @result[1 .. $#result];
    };
}

# A FIELD of a string: its code points, whatever they are.
sub field {
    my ($text) = @_;
    return 'u8:' . unpack('H*', $text) if $text !~ /[^\x00-\x7f]/;
    return 'u32:' . join('', map { sprintf '%08x', $_ } unpack('W*', $text));
}

# What a scalar holds is read off its flags: Perl's own values do not tell.
sub scalar_line {
    my ($value, $other) = @_;
    return 'null' if !defined $value;
    if (ref $value) {
        my $printed = $other ? $other->($value) : undef;
        return $printed if defined $printed;
        return 'native ' . (ref($value) =~ s/\W/_/gr) . ' ' . field("$value");
    }
    my $flags = B::svref_2object(\$value)->FLAGS;
    return 'str ' . field($value) if $flags & B::SVf_POK;
    return 'binary64 ' . unpack('H*', pack('d>', $value)) if $flags & B::SVf_NOK && !($flags & B::SVf_IOK);
    # A scalar may hold an integer and a double; as text it would be the double's digits.
    return 'int ' . sprintf($flags & B::SVf_IVisUV ? '%u' : '%d', $value) if $flags & B::SVf_IOK;
    return 'binary64 ' . unpack('H*', pack('d>', $value));
}

# Prints undef, scalars, array and hash references with a stack of its own; `other` prints what else there is.
sub print_value {
    my ($root, $trace, $other) = @_;
    my @stack = ({ closer => '', values => [$root], names => undef, next => 0 });
    while (@stack) {
        my $level = $stack[-1];
        if ($level->{next} == @{ $level->{values} }) {
            pop @stack;
            push @$trace, $level->{closer} if $level->{closer} ne '';
            next;
        }
        my $at = $level->{next}++;
        push @$trace, 'key ' . field($level->{names}[$at]) if $level->{names};
        my $plain = !blessed $level->{values}[$at];
        my $kind = $plain ? reftype($level->{values}[$at]) // '' : '';
        if ($kind eq 'ARRAY') {
            push @$trace, '[';
            push @stack, { closer => ']', values => $level->{values}[$at], names => undef, next => 0 };
        } elsif ($kind eq 'HASH') {
            my $hash = $level->{values}[$at];
            my @names = keys %$hash;
            push @$trace, '{';
            push @stack, { closer => '}', values => [ map { $hash->{$_} } @names ], names => \@names, next => 0 };
        } else {
            push @$trace, scalar_line($level->{values}[$at], $other);
        }
    }
    return;
}

sub text_of {
    my ($units, $digits) = split /:/, $_[0], 2;
    my $bytes = pack 'H*', $digits;
    if ($units eq 'u8') {
        my $copy = $bytes;
        return utf8::decode($copy) ? $copy : $bytes;
    }
    return pack 'W*', unpack('N*', $bytes) if $units eq 'u32';
    my @units = unpack 'n*', $bytes;
    my $out = '';
    while (@units) {
        my $unit = shift @units;
        $unit = 0x10000 + (($unit & 0x3FF) << 10) + (shift(@units) & 0x3FF)
            if ($unit & 0xFC00) == 0xD800 && @units && ($units[0] & 0xFC00) == 0xDC00;
        no warnings 'surrogate';
        $out .= chr $unit;
    }
    return $out;
}

# The value that a trace tells, to be encoded; `true` and `false` are the library's own.
sub value_of {
    my ($trace, $true, $false) = @_;
    my ($root, @levels, $name);
    for my $line (split /\n/, $trace) {
        my ($word, $rest) = split / /, $line, 2;
        if ($word eq 'key') {
            die NachklangAdapter::Unsupported->new('names are strings here') if $rest !~ /:/;
            $name = text_of($rest);
            next;
        }
        if ($word eq ']' || $word eq '}') {
            pop @levels;
            next;
        }
        my $value =
              $word eq '['        ? []
            : $word eq '{'        ? {}
            : $word eq 'cycle'    ? $levels[ -$rest ]
            : $word eq 'null'     ? undef
            : $word eq 'true'     ? $true
            : $word eq 'false'    ? $false
            : $word eq 'str'      ? text_of($rest)
            : $word eq 'binary64' ? unpack('d>', pack('H*', $rest))
            : $word eq 'int' && $rest eq int($rest) ? int($rest)
            :   die NachklangAdapter::Unsupported->new("no value for $word $rest");
        if (!@levels) { $root = $value }
        elsif (ref $levels[-1] eq 'ARRAY') { push @{ $levels[-1] }, $value }
        elsif (exists $levels[-1]{$name}) { die NachklangAdapter::Unsupported->new('a hash holds a name once') }
        else { $levels[-1]{$name} = $value }
        push @levels, $value if $word eq '[' || $word eq '{';
    }
    return $root;
}

# The pieces of a document of XML to be written: ['elem', qname, local, uri], ['attr', qname, local, uri, value], ['ns', prefix, uri],
# ['text', t] … Where a library leaves declarations to its user, a value without them cannot be asked for.
sub markup_of {
    my ($trace, $declares) = @_;
    my @pieces = map { my ($word, @fields) = split / /; [$word, map { $_ eq '-' ? '' : /:/ ? text_of($_) : $_ } @fields] } split /\n/, $trace;
    my $in_namespaces = grep { $_->[0] =~ /^(?:elem|attr)$/ && $_->[3] ne '' && $_->[3] ne 'http://www.w3.org/XML/1998/namespace' } @pieces;
    die NachklangAdapter::Unsupported->new('declarations are left to the user here') if !$declares && $in_namespaces && !grep { $_->[0] eq 'ns' } @pieces;
    return @pieces;
}

sub answer {
    my ($functions, $operation, $document, $keys) = @_;
    my %unknown = %$keys;
    delete @unknown{qw(id mode show)};
    return ('unsupported', '', {}) if %unknown || !$functions->{$operation};
    my $mode = $keys->{mode} // '';
    my @answer = eval {
        local $SIG{__WARN__} = sub { print STDERR @_ };
        if ($operation eq 'decode') {
            my $wanted = ($keys->{show} // '') ne 'nothing';
            my @trace;
            $functions->{decode}->($document, $wanted ? \@trace : undef, $mode);
            # Without a line: a document of XML that was accepted and holds nothing at all.
            push @trace, 'text u8:' if $wanted && !@trace;
            return ('accepted', join('', map { "$_\n" } @trace), {});
        }
        return listed($functions->{$operation}, $document, ($keys->{show} // '') ne 'nothing', $mode) if $operation =~ /^(?:sequence|open-stream)$/;
        return ('accepted', $functions->{$operation}->($document, $mode), {});
    };
    return @answer if @answer;
    my $error = $@;
    my $message = ref $error && $error->{message} ? $error->{message} : "$error";
    utf8::encode($message) if utf8::is_utf8($message);
    my $kind = 'adapter-fault';
    $kind = 'rejected' if ref $error eq 'NachklangAdapter::Rejected';
    $kind = 'unsupported' if ref $error eq 'NachklangAdapter::Unsupported';
    return ($kind, $message, ref $error && $error->{place} ? $error->{place} : {});
}

# The values of several documents as a list, until one is refused; the function prints each to a trace.
sub listed {
    my ($function, $text, $wanted, $mode) = @_;
    my @trace = ('[');
    my $done = eval { $function->($text, $wanted ? \@trace : undef, $mode); 1 };
    die $@ if !$done && ref $@ ne 'NachklangAdapter::Rejected';
    push @trace, 'native refused -' if !$done;
    return ('accepted', $wanted ? join('', map { "$_\n" } @trace, ']') : '', {});
}

sub hello {
    my (%is) = @_;
    my @lines = ('nachklang-adapter 1', "implementation $is{implementation}");
    push @lines, "engine $is{engine}" if $is{engine};
    my @formats = grep { $is{$_} } qw(json xml);
    push @lines, join ' ', $_, sort keys %{ $is{$_} } for @formats;
    push @lines, join ' ', 'cannot-represent', @{ $is{cannot_represent} } if $is{cannot_represent};
    push @lines, "setting $_=$is{settings}{$_}" for sort keys %{ $is{settings} // {} };
    for my $mode (@{ $is{modes} // [] }) {
        # A name, or a name and its operations if it does not support all: ['sorted', 'encode']. A hash among them has its settings.
        my ($name, @rest) = ref $mode ? @$mode : $mode;
        my @operations = grep { !ref } @rest;
        push @lines, "mode $name";
        for my $settings (grep { ref } @rest) { push @lines, "setting $_=$settings->{$_}" for sort keys %$settings }
        push @lines, "$formats[0] @operations" if @operations;
    }
    return join("\n", @lines) . "\n\n";
}

# Serves requests until standard input ends. What a library prints to standard output goes to standard error.
sub serve {
    my (%is) = @_;
    open my $replies, '>&', \*STDOUT or die $!;
    open STDOUT, '>&', \*STDERR or die $!;
    binmode $_ for $replies, \*STDIN;
    $replies->autoflush(1);
    print {$replies} hello(%is);
    while (defined(my $head = <STDIN>)) {
        chomp $head;
        my ($operation, $format, $length, @rest) = split / /, $head;
        read(STDIN, my $document, $length) == $length or die 'input ended in a body';
        my %keys = map { split /=/, $_, 2 } @rest;
        my ($kind, $body, $place) = answer($is{$format} // {}, $operation, $document, \%keys);
        my $position = join '', map { defined $place->{$_} ? " $_=$place->{$_}" : '' } sort keys %$place;
        print {$replies} "$kind " . length($body) . " id=$keys{id}$position\n$body";
    }
    return;
}

1;
