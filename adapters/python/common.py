"""What the adapters of Python's JSON libraries share."""

import os
import sys

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import LibraryFailure, Pairs, Rejected, Unsupported, field, library, print_value, serve, value_of  # noqa: E402,F401


class Spelled:
    """Takes the place of a number: its source text."""

    def __init__(self, text):
        self.text = text


def print_other(value):
    """Prints what the kit does not know: decimals, and numbers kept as text."""
    if isinstance(value, Spelled):
        return "spelled " + field(value.text)
    if type(value).__name__ == "Decimal" and value.is_finite():
        return "dec " + str(value).replace("E", "e").replace("e+", "e")
    return "native %s %s" % (type(value).__name__, field(str(value)))


def written(text):
    """An encoder's str as bytes; a lone surrogate in it is no text."""
    try:
        return text.encode("utf-8") if isinstance(text, str) else bytes(text)
    except UnicodeEncodeError as error:
        raise Rejected(str(error))
