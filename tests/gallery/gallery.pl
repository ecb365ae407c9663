# Defects of Perl's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
use strict;
use warnings;
use JSON::PP ();
use JSON::XS ();
use Cpanel::JSON::XS ();

sub shown {
    my ($name, $call) = @_;
    my $result = eval { $call->() };
    $result = "dies: $@" if !defined $result;
    $result =~ s/ at \S+ line \d+\.?\s*\z//;
    print "$name\t$result\n";
    return;
}

shown('json-pp-two-to-53', sub { JSON::PP->new->encode([ 2**53 ]) });
shown('json-pp-number-becomes-text', sub { JSON::PP->new->encode([ 2**53 + 2 ]); JSON::PP->new->encode([ 2**53 + 2 ]) });
shown('json-xs-huge-exponent', sub { JSON::XS->new->encode(JSON::XS->new->decode('[1e-999999999999999999999]')) });
shown('json-xs-three-tenths', sub { sprintf '%.17g', JSON::XS->new->decode('[0.3]')->[0] });
shown('json-pp-huge-exponent', sub { JSON::PP->new->encode(JSON::PP->new->decode('[1e400]')) });
shown('cpanel-incremental-number', sub { Cpanel::JSON::XS->new->encode([ Cpanel::JSON::XS->new->allow_nonref->incr_parse('12[1]') ]) });
shown('cpanel-incremental-literal', sub { Cpanel::JSON::XS->new->encode([ Cpanel::JSON::XS->new->allow_nonref->incr_parse('null[1]') ]) });
shown('json-pp-incremental-cut', sub {
    local $SIG{ALRM} = sub { die "no answer within 2 s\n" };
    alarm 2;
    my @values = JSON::PP->new->incr_parse('[1] [2');
    alarm 0;
    return JSON::PP->new->encode(\@values);
});
