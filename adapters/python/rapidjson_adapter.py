"""python-rapidjson: its defaults, numbers as decimals, native numbers, and its own constants switched off."""

import re

import rapidjson

from common import Rejected, library, print_other, print_value, serve, value_of, written

NUMBERS = {"decimal": rapidjson.NM_DECIMAL, "native": rapidjson.NM_NATIVE, "finite": 0}


def keywords(mode):
    return {"number_mode": NUMBERS[mode]} if mode in NUMBERS else {}


def load(document, mode):
    with library():
        try:
            return rapidjson.loads(document, **keywords(mode))
        except rapidjson.JSONDecodeError as error:
            place = re.search(r"offset (\d+)", str(error))
            raise Rejected(str(error), offset=int(place.group(1)) if place else None, unit="byte")
        except UnicodeDecodeError as error:
            raise Rejected(str(error), offset=error.start, unit="byte")


def dump(value, mode):
    with library(TypeError, ValueError, OverflowError):
        text = rapidjson.dumps(value, **keywords(mode))
    return written(text)


serve(
    implementation="python-rapidjson " + rapidjson.__version__,
    engine="rapidjson " + rapidjson.__rapidjson_version__,
    capabilities={"json": {"decode": lambda document, trace, mode: print_value(load(document, mode), trace, print_other),
                     "round-trip": lambda document, mode: dump(load(document, mode), mode),
                     "encode": lambda trace, mode: dump(value_of(trace), mode)}},
    cannot_represent=("duplicates",),
    modes=["default", "decimal", ("native", (), {"json": ("decode", "round-trip")}), "finite"],
)
