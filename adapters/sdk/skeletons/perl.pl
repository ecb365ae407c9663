# An adapter for @NAME@. Replace JSON::PP by your module. docs/protocol.md describes what an adapter must do; the kit does
# most of it.
use strict;
use warnings;
use lib '@SDK@';
use JSON::PP ();
use NachklangAdapter qw(serve library print_value value_of);

my $codec = JSON::PP->new->utf8->allow_nonref;

sub other {    # values that the kit does not know: this module's booleans
    my ($value) = @_;
    return $value ? 'true' : 'false' if ref($value) =~ /Boolean$/;
    return;
}

sub load {
    my ($document) = @_;
    # What dies inside library is the module's documented failure.
    my $value = library { $codec->decode($document) };
    return \$value;
}

serve(
    implementation => '@NAME@ 0.1',
    json => {
        decode => sub { my ($document, $trace) = @_; my $value = load($document); print_value($$value, $trace, \&other) if $trace },
        'round-trip' => sub { my ($document) = @_; my $value = load($document); return library { $codec->encode($$value) } },
        encode => sub { my ($trace) = @_; my $value = value_of($trace, JSON::PP::true, JSON::PP::false); return library { $codec->encode($value) } },
    },
    cannot_represent => [ 'order', 'duplicates' ],
);
