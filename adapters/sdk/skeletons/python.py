"""An adapter for @NAME@. Replace json.loads and json.dumps by calls into your library, and JSONDecodeError by the
error that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it."""

import json
import sys

sys.path.insert(0, "@SDK@")
from nachklang_adapter import Rejected, print_value, serve, value_of


def load(document):
    try:
        return json.loads(document)
    except (json.JSONDecodeError, UnicodeDecodeError) as error:
        raise Rejected(str(error))  # only the documented failure; anything else is reported as `threw`


def dump(value):
    return json.dumps(value).encode("utf-8")


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
