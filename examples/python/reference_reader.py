"""The reference readers from Python, by ctypes: reads a document and compares it with what json.loads holds of it.

    reference_reader.py LIBRARY DOCUMENT
"""

import ctypes
import json
import sys

library = ctypes.CDLL(sys.argv[1])
library.nachklang_read.restype = ctypes.c_void_p
library.nachklang_read.argtypes = [ctypes.c_char_p, ctypes.c_char_p, ctypes.c_size_t]
library.nachklang_free_reading.argtypes = [ctypes.c_void_p]
library.nachklang_verdict.argtypes = [ctypes.c_void_p]
for name in ("message", "clause"):
    getattr(library, "nachklang_" + name).restype = ctypes.c_char_p
    getattr(library, "nachklang_" + name).argtypes = [ctypes.c_void_p]
library.nachklang_trace.restype = ctypes.c_char_p
library.nachklang_trace.argtypes = [ctypes.c_void_p, ctypes.c_void_p]
library.nachklang_compare.restype = ctypes.c_void_p
library.nachklang_compare.argtypes = [ctypes.c_char_p, ctypes.c_char_p, ctypes.c_size_t, ctypes.c_char_p, ctypes.c_size_t]
library.nachklang_free.argtypes = [ctypes.c_void_p]


def trace_of(value):
    """The trace of a value that Python holds (docs/trace.md)."""
    if value is None or value is True or value is False:
        return {None: "null", True: "true", False: "false"}[value] + "\n"
    if isinstance(value, str):
        return "str u8:" + value.encode("utf-8", "surrogatepass").hex() + "\n"
    if isinstance(value, int):
        return "int %d\n" % value
    if isinstance(value, float):
        return "binary64 %s\n" % ctypes.c_uint64.from_buffer(ctypes.c_double(value)).value.to_bytes(8, "big").hex()
    if isinstance(value, list):
        return "[\n" + "".join(map(trace_of, value)) + "]\n"
    return "{\n" + "".join("key u8:" + k.encode("utf-8", "surrogatepass").hex() + "\n" + trace_of(v) for k, v in value.items()) + "}\n"


document = sys.argv[2].encode()
reading = library.nachklang_read(b"json", document, len(document))
if library.nachklang_verdict(reading) != 1:
    print("%s [%s]" % (library.nachklang_message(reading).decode(), library.nachklang_clause(reading).decode()))
else:
    expected, got = library.nachklang_trace(reading, None), trace_of(json.loads(document)).encode()
    differences = library.nachklang_compare(b"json", expected, len(expected), got, len(got))
    print(ctypes.string_at(differences).decode() or "the same value")
    library.nachklang_free(differences)
library.nachklang_free_reading(reading)
