"""demjson: strict, and the reader of JavaScript-like text that it is by default."""

import demjson

from common import Rejected, print_other, print_value, serve, value_of, written


def load(document, mode):
    try:
        return demjson.decode(document, strict=mode == "strict")
    except demjson.JSONDecodeError as error:
        position = getattr(error, "position", None)
        raise Rejected(error.pretty_description(show_positions=False), offset=getattr(position, "char_position", None),
                       unit="point")
    except (UnicodeDecodeError, LookupError) as error:
        raise Rejected(str(error))


def dump(value, mode):
    try:
        return written(demjson.encode(value, strict=mode == "strict"))
    except demjson.JSONEncodeError as error:
        raise Rejected(str(error))


serve(
    implementation="demjson " + demjson.__version__,
    capabilities={"json": {"decode": lambda document, trace, mode: print_value(load(document, mode), trace, print_other),
                     "round-trip": lambda document, mode: dump(load(document, mode), mode),
                     "encode": lambda trace, mode: dump(value_of(trace), mode)}},
    cannot_represent=("duplicates",),
    modes=["strict", "default"],
)
