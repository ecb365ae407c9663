"""Python's own json: `default` keeps dicts, `pairs` shows duplicates through object_pairs_hook."""

import json
import os
import platform
import sys

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import Pairs, Rejected, print_value, serve


def load(document, mode):
    hook = Pairs if mode == "pairs" else None
    try:
        return json.loads(document, object_pairs_hook=hook)
    except json.JSONDecodeError as error:
        raise Rejected(str(error), offset=error.pos, line=error.lineno, column=error.colno, unit="point")
    except UnicodeDecodeError as error:
        raise Rejected(str(error), offset=error.start, unit="byte")
    except ValueError as error:  # more digits than sys.set_int_max_str_digits allows
        raise Rejected(str(error))


def decode(document, trace, mode):
    print_value(load(document, mode), trace)


def as_text(value):
    return json.dumps(value, default=lambda pairs: dict(pairs.pairs))


serve(
    implementation="python-json " + platform.python_version(),
    offers={"json": {"decode": decode, "lap": lambda document, mode: as_text(load(document, mode)).encode("utf-8")}},
    modes=[("default", ("duplicates",)), "pairs"],
)
