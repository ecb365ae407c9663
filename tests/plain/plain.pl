# Perl's libraries without any kit: plain.pl LIBRARY, then file names on standard input; for each one a line, accepted or rejected.
use strict;
use warnings;

my $name = shift @ARGV;
my $decode;
if ($name =~ /JSON/) {
    eval "require $name; 1" or die $@;
    $decode = sub { $name->new->utf8->allow_nonref->decode($_[0]) };
} elsif ($name eq 'XML::LibXML') {
    require XML::LibXML;
    XML::LibXML::externalEntityLoader(sub { '' });
    $decode = sub { XML::LibXML->load_xml(string => $_[0], no_network => 1, expand_entities => 1, huge => 1) };
} else {
    require XML::Parser;
    $decode = sub { XML::Parser->new(NoLWP => 1, Handlers => { ExternEnt => sub { '' }, ExternEntFin => sub { } })->parse($_[0]) };
}
$| = 1;
while (my $path = <STDIN>) {
    chomp $path;
    open my $file, '<:raw', $path or die "$path: $!";
    my $document = do { local $/; <$file> } // '';
    print eval { $decode->($document); 1 } ? "accepted\n" : "rejected\n";
}
