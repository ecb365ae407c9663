# tcllib's json package: whether it takes a document. Its values are strings, in which numbers, strings and lists look alike.
package require json

set file [open [lindex $argv 0] rb]
set document [read $file]
close $file
if {[catch {json::json2dict [encoding convertfrom utf-8 $document]} message]} {
    puts stderr $message
    exit 1
}
