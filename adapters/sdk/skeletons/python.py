"""An adapter for @NAME@. Replace json.loads and json.dumps by calls into your library, and JSONDecodeError by the
error that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it."""

import json
import sys

sys.path.insert(0, "@SDK@")
from nachklang_adapter import library, print_value, serve, value_of


def load(document):
    # What leaves the block is the library's: the exceptions named are a refusal, any other `threw`.
    with library(json.JSONDecodeError, UnicodeDecodeError):
        return json.loads(document)


def dump(value):
    with library(TypeError, ValueError):
        text = json.dumps(value)
    return text.encode("utf-8")


serve(
    implementation="@NAME@ 0.1",
    capabilities={
        "json": {
            "decode": lambda document, trace, mode: print_value(load(document), trace),
            "round-trip": lambda document, mode: dump(load(document)),
            "encode": lambda trace, mode: dump(value_of(trace)),
        }
    },
    cannot_represent=("duplicates",),
)
