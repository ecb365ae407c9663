"""ujson: as its defaults are, and with forward slashes and non-ASCII left alone."""

import ujson

from common import library, print_value, serve, value_of, written

WRITING = {"plain": {"escape_forward_slashes": False, "ensure_ascii": False}, "html": {"encode_html_chars": True}}


def load(document, mode):
    with library(ValueError):  # ujson.JSONDecodeError, and UnicodeDecodeError
        return ujson.loads(document)


def dump(value, mode):
    with library(TypeError, ValueError, OverflowError):
        text = ujson.dumps(value, **WRITING.get(mode, {}))
    return written(text)


serve(
    implementation="ujson " + ujson.__version__,
    capabilities={"json": {"decode": lambda document, trace, mode: print_value(load(document, mode), trace),
                     "round-trip": lambda document, mode: dump(load(document, mode), mode),
                     "encode": lambda trace, mode: dump(value_of(trace), mode)}},
    cannot_represent=("duplicates",),
    modes=["default", ("plain", (), {"json": ("encode",)}), ("html", (), {"json": ("encode",)})],
)
