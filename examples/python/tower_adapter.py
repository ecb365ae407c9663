"""The adapter for tower_json: all it takes to put a codec of one's own under test."""

import os
import sys

here = os.path.dirname(os.path.abspath(__file__))
sys.path[:0] = [here, os.path.join(here, "..", "..", "adapters", "sdk")]
import tower_json
from nachklang_adapter import library, print_value, serve


def decode(document, trace, mode):
    with library(tower_json.TowerError, UnicodeDecodeError):
        value = tower_json.loads(document.decode("utf-8"))
    print_value(value, trace)


serve(implementation="tower-json 0.1", capabilities={"json": {"decode": decode}}, cannot_represent=["duplicates"], settings={"input": "text"})
