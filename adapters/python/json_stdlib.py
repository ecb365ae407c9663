"""Python's own json, in the ways its hooks and switches offer: `default` keeps dicts, `pairs` shows duplicates, `decimal` and
`number-text` take other number types, `finite` switches its own constants off, `ascii-off`, `sorted` and `indented` are
output paths, `text` gives it a str instead of bytes."""

import decimal
import json
import platform

from common import Pairs, Rejected, Spelled, Unsupported, library, print_other, print_value, serve, value_of, written


def refuse_constant(name):
    raise Rejected("%s is no number" % name)


def decimal_of(text):
    try:
        return decimal.Decimal(text)
    except decimal.DecimalException:
        raise Unsupported("Python's decimals have no such exponent")


READING = {
    "pairs": {"object_pairs_hook": Pairs},
    "decimal": {"parse_float": decimal_of},
    "number-text": {"parse_float": Spelled, "parse_int": Spelled},
    "finite": {"parse_constant": refuse_constant},
}
WRITING = {
    "ascii-off": {"ensure_ascii": False},
    "sorted": {"sort_keys": True},
    "indented": {"indent": 2},
    "finite": {"allow_nan": False},
}


def load(document, mode):
    with library(ValueError):  # also raised for more digits than sys.set_int_max_str_digits allows
        try:
            if mode == "text":
                document = document.decode("utf-8")
            return json.loads(document, **READING.get(mode, {}))
        except json.JSONDecodeError as error:
            raise Rejected(str(error), offset=error.pos, line=error.lineno, column=error.colno, unit="point")
        except UnicodeDecodeError as error:
            raise Rejected(str(error), offset=error.start, unit="byte")


def dump(value, mode):
    with library(TypeError, ValueError):  # both documented: what has no JSON, and cycles
        text = json.dumps(value, **WRITING.get(mode, {}))
    return written(text)


one_of_each = ("duplicates",)
decodes, encodes = {"json": ("decode",)}, {"json": ("encode",)}
serve(
    implementation="python-json " + platform.python_version(),
    capabilities={"json": {"decode": lambda document, trace, mode: print_value(load(document, mode), trace, print_other),
                     "round-trip": lambda document, mode: dump(load(document, mode), mode),
                     "encode": lambda trace, mode: dump(value_of(trace), mode)}},
    modes=[("default", one_of_each), ("pairs", (), decodes), ("finite", one_of_each)]
    + [(mode, one_of_each, decodes) for mode in ("decimal", "number-text", "text")]
    + [(mode, (), encodes) for mode in ("ascii-off", "sorted", "indented")],
)
