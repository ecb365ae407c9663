# JSON::PP, JSON::XS or Cpanel::JSON::XS, which share one interface: the module is named by the first argument.
use strict;
use warnings;
use FindBin;
use lib "$FindBin::Bin/../sdk";
use NachklangAdapter qw(serve print_value value_of field);

my $module = shift @ARGV;
$module =~ /^[\w:]+$/ && eval "require $module; 1" or die $@;

sub codec {
    my ($mode) = @_;
    my $codec = $module->new->utf8->allow_nonref;
    $codec->max_depth(1_000_000_000) if $mode eq 'deep';
    $codec->relaxed if $mode eq 'relaxed';
    $codec->canonical if $mode eq 'sorted';
    $codec->pretty if $mode eq 'pretty';
    $codec->ascii if $mode eq 'ascii';
    $codec->allow_bignum if $mode eq 'bignum';
    return $codec;
}

sub other {
    my ($value) = @_;
    return $value ? 'true' : 'false' if ref($value) =~ /Boolean$/;
    if (ref $value eq 'Math::BigInt') { return $value->is_nan ? undef : 'int ' . $value->bstr }
    if (ref $value eq 'Math::BigFloat' && !$value->is_nan && !$value->is_inf) {
        return 'dec ' . ($value->bsstr =~ s/e\+/e/r);
    }
    return;
}

sub load {
    my ($document, $mode) = @_;
    my $value;
    eval { $value = codec($mode)->decode($document); 1 } or do {
        my $message = "$@";
        die NachklangAdapter::Rejected->new($message, $message =~ /offset (\d+)/ ? (offset => $1, unit => 'point') : ());
    };
    return \$value;
}

# In list context incr_parse gives all documents, and none if one of them is refused; then those before it come one at a
# time. What is left at the end, incr_text holds; while a document is half read it dies.
sub sequence {
    my ($text, $trace, $mode) = @_;
    my $codec = codec($mode);
    my (@values, $refusal);
    if (!eval { @values = $codec->incr_parse($text); 1 }) {
        $refusal = "$@";
        $codec = codec($mode);
        $codec->incr_parse($text);
        eval {
            while (defined(my $value = $codec->incr_parse)) { push @values, $value }
        };
    }
    if ($trace) { print_value($_, $trace, \&other) for @values }
    $refusal //= 'text is left at the end' if !eval { $codec->incr_text !~ /\S/ };
    die NachklangAdapter::Rejected->new($refusal) if defined $refusal;
    return;
}

# What the library gives for each byte, and is not asked for at an end. Its interface for that is made for arrays and objects: of a number
# or literal it does not know the end.
sub open_stream {
    my ($text, $trace, $mode) = @_;
    my $inside = qr/[^\[\]{}"]|"(?:[^"\\]|\\.)*"/s;
    (my $outside = $text) =~ s/([\[{](?:$inside|(?1))*[\]}])|"(?:[^"\\]|\\.)*"//gs;
    die NachklangAdapter::Unsupported->new('numbers and literals have no end in a stream here') if $outside =~ /^\s*[-\w]/;
    my $codec = codec($mode);
    for my $byte (split //, $text) {
        my @values;
        eval { @values = $codec->incr_parse($byte); 1 } or die NachklangAdapter::Rejected->new("$@");
        if ($trace) { print_value($_, $trace, \&other) for @values }
    }
    return;
}

sub dump_value {
    my ($value, $mode) = @_;
    my $text = eval { codec($mode)->encode($$value) };
    die NachklangAdapter::Rejected->new("$@") if !defined $text;
    return $text;
}

my $booleans = $module eq 'JSON::PP' ? 'JSON::PP' : $module eq 'JSON::XS' ? 'Types::Serialiser' : 'Cpanel::JSON::XS';
my ($true, $false) = ($booleans->can('true')->(), $booleans->can('false')->());

serve(
    implementation => "$module " . $module->VERSION,
    json => {
        decode => sub {
            my ($document, $trace, $mode) = @_;
            my $value = load($document, $mode);
            print_value($$value, $trace, \&other) if $trace;
        },
        sequence => \&sequence,
        $module eq 'JSON::PP' ? () : ('open-stream' => \&open_stream),    # it never returns from a piece that ends inside a document
        'round-trip' => sub { my ($document, $mode) = @_; return dump_value(load($document, $mode), $mode) },
        encode => sub { my ($trace, $mode) = @_; my $value = value_of($trace, $true, $false); return dump_value(\$value, $mode) },
    },
    cannot_represent => [ 'order', 'duplicates' ],
    modes => [
        [ 'default', 'decode', 'round-trip', 'encode', 'sequence', $module eq 'JSON::PP' ? () : 'open-stream' ],
        [ 'deep', 'decode', 'round-trip' ],
        [ 'relaxed', 'decode', { purpose => 'lax' } ],
        [ 'sorted', 'encode' ],
        [ 'pretty', 'encode' ],
        [ 'ascii', 'encode' ],
        $module eq 'JSON::XS' ? () : [ 'bignum', 'decode', 'round-trip' ],
    ],
);
