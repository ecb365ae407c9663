"""demjson: strict, and the reader of JavaScript-like text that it is by default."""

import demjson

from common import Rejected, library, print_other, print_value, serve, value_of, written


def load(document, mode):
    with library(UnicodeDecodeError, LookupError):
        try:
            return demjson.decode(document, strict=mode == "strict")
        except demjson.JSONDecodeError as error:
            position = getattr(error, "position", None)
            raise Rejected(error.pretty_description(show_positions=False), offset=getattr(position, "char_position", None),
                           unit="point")


def dump(value, mode):
    with library(demjson.JSONEncodeError):
        text = demjson.encode(value, strict=mode == "strict")
    return written(text)


serve(
    implementation="demjson " + demjson.__version__,
    capabilities={"json": {"decode": lambda document, trace, mode: print_value(load(document, mode), trace, print_other),
                     "round-trip": lambda document, mode: dump(load(document, mode), mode),
                     "encode": lambda trace, mode: dump(value_of(trace), mode)}},
    cannot_represent=("duplicates",),
    modes=["strict", "default"],
)
