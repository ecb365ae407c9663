"""simplejson: dicts, pairs, decimals, and JSON that is safe
inside a script."""

import simplejson

from common import Pairs, Rejected, library, print_other, print_value, serve, value_of, written

READING = {"pairs": {"object_pairs_hook": Pairs}, "decimal": {"use_decimal": True}}
WRITING = {
    "default": {"use_decimal": False},
    "decimal": {"use_decimal": True},
    "script-safe": {"for_json": False, "ensure_ascii": False, "cls": simplejson.JSONEncoderForHTML},
    "no-nan": {"ignore_nan": True},
}


def load(document, mode):
    with library(ValueError):
        try:
            return simplejson.loads(document, **READING.get(mode, {}))
        except simplejson.JSONDecodeError as error:
            raise Rejected(str(error), offset=error.pos, line=error.lineno, column=error.colno, unit="point")
        except UnicodeDecodeError as error:
            raise Rejected(str(error), offset=error.start, unit="byte")


def dump(value, mode):
    with library(TypeError, ValueError):
        text = simplejson.dumps(value, **WRITING.get(mode, {}))
    return written(text)


serve(
    implementation="simplejson " + simplejson.__version__,
    capabilities={"json": {"decode": lambda document, trace, mode: print_value(load(document, mode), trace, print_other),
                     "round-trip": lambda document, mode: dump(load(document, mode), mode), "encode": lambda trace, mode: dump(value_of(trace), mode)}},
    modes=[("default", ("duplicates",)), ("pairs", (), {"json": ("decode",)}), ("decimal", ("duplicates",)),
           ("script-safe", (), {"json": ("encode",)}), ("no-nan", (), {"json": ("encode",)})],
)
