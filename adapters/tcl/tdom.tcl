# tDOM: a document to its tree and back. It is built on Expat, and reads from a channel that it has opened itself: it
# finds the encoding, and Expat is given the bytes. Text that Tcl has decoded before has lost what was ill-formed.
package require tdom

set channel [tDOM::xmlOpenFile [lindex $argv 0]]
# Line ends are the parser's matter; Tcl would also change bytes of UTF-16 that look like them.
fconfigure $channel -translation lf
# Without -keepEmpties it drops text of nothing but white space.
if {[catch {dom parse -keepEmpties -channel $channel tree} message]} {
    puts stderr $message
    exit 1
}
fconfigure stdout -encoding utf-8 -translation lf
puts -nonewline [$tree asXML -indent none]
