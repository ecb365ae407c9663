# tcllib's json package: whether it takes a document. Its values are strings, in which numbers, strings and lists look alike.
# The interpreter looks for a package in every folder of its path; these two are enough.
set auto_path [list $tcl_library {*}[glob /usr/share/tcltk/tcllib*/json]]
package require json

set file [open [lindex $argv 0] rb]
set document [read $file]
close $file
if {[catch {json::json2dict [encoding convertfrom utf-8 $document]} message]} {
    puts stderr $message
    exit 1
}
