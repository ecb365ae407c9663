# tDOM: a document to its tree and back. It is built on Expat, which is given the bytes by way of a channel: a text that
# Tcl has decoded before has lost what was ill-formed. tDOM's own way to open a file is a mode of its own: it finds the
# encoding, and leaves out all up to the first ">" of a file that begins with "<?xm".
#
# Started with the pipe of the replies as descriptor 3, and 1 where standard error goes (docs/protocol.md).
package require tdom

set replies [open /dev/fd/3 w]
fconfigure stdin -translation binary
fconfigure $replies -translation binary

proc reply {kind body id {place ""}} {
    puts -nonewline $::replies "$kind [string length $body] id=$id$place\n$body"
    flush $::replies
}

# tDOM opens files only.
set scratch [file tempfile path]
fconfigure $scratch -translation binary

proc opened {mode} {
    if {$mode eq "opened-by-tdom"} {return [tDOM::xmlOpenFile $::path]}
    set channel [open $::path]
    # By this name tDOM knows a channel of bytes, whatever their encoding is.
    fconfigure $channel -encoding utf-8 -eofchar {}
    return $channel
}

proc round_trip {document mode id} {
    chan truncate $::scratch 0
    seek $::scratch 0
    puts -nonewline $::scratch $document
    flush $::scratch
    # Without -keepEmpties it drops text of nothing but white space. The tree goes with the variable.
    set failed [catch {
        set channel [opened $mode]
        # Line ends are the parser's matter; Tcl would also change bytes of UTF-16 that look like them.
        fconfigure $channel -translation lf
        dom parse -keepEmpties -channel $channel tree
    } message]
    if {[info exists channel]} {close $channel}
    if {$failed} {
        set place ""
        if {[regexp {at line (\d+) character (\d+)} $message -> line column]} {
            set place " line=$line column=[expr {$column + 1}]"
        }
        reply rejected [encoding convertto utf-8 $message] $id $place
        return
    }
    set failed [catch {$tree asXML -indent none} written]
    reply [expr {$failed ? "threw" : "accepted"}] [encoding convertto utf-8 $written] $id
}

puts -nonewline $replies "nachklang-adapter 1\nimplementation tdom [package present tdom]\nengine expat\nxml round-trip\nmode default\nmode opened-by-tdom\n\n"
flush $replies
while {[gets stdin head] >= 0} {
    set keys [lassign [split $head " "] operation format length]
    set document [read stdin $length]
    set id 0
    set mode default
    set known [expr {$operation eq "round-trip" && $format eq "xml"}]
    foreach key $keys {
        if {![regexp {^(id|mode|show)=(.*)$} $key -> name value]} {
            set known 0
        } elseif {$name eq "id"} {
            set id $value
        } elseif {$name eq "mode"} {
            set mode $value
        }
    }
    if {$known} {
        round_trip $document $mode $id
    } else {
        reply unsupported "an unknown operation or key" $id
    }
}
close $scratch
file delete $path
