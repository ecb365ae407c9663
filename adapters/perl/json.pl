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
        'round-trip' => sub { my ($document, $mode) = @_; return dump_value(load($document, $mode), $mode) },
        encode => sub { my ($trace, $mode) = @_; my $value = value_of($trace, $true, $false); return dump_value(\$value, $mode) },
    },
    cannot_represent => [ 'order', 'duplicates' ],
    modes => [
        'default',
        [ 'deep', 'decode', 'round-trip' ],
        [ 'relaxed', 'decode', { purpose => 'lax' } ],
        [ 'sorted', 'encode' ],
        [ 'pretty', 'encode' ],
        [ 'ascii', 'encode' ],
        $module eq 'JSON::XS' ? () : [ 'bignum', 'decode', 'round-trip' ],
    ],
);
