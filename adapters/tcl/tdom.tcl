# tDOM: a document to its tree and back. It is built on Expat. What it reads is text: bytes are decoded as its own file reader does it.
package require tdom

set document [tDOM::xmlReadFile [lindex $argv 0]]
# Without -keepEmpties it drops text of nothing but white space.
if {[catch {dom parse -keepEmpties $document tree} message]} {
    puts stderr $message
    exit 1
}
fconfigure stdout -encoding utf-8 -translation lf
puts -nonewline [$tree asXML -indent none]
