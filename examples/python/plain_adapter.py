"""A whole adapter without a kit (docs/protocol.md)."""

import json, os, struct, sys

replies = os.fdopen(os.dup(1), "wb")
os.dup2(2, 1)  # what a library prints goes to the log


def text(string):
    return "u8:" + string.encode("utf-8", "surrogatepass").hex()


def trace(value):
    out, todo = [], [value]  # a stack of its own: documents nest deep
    while todo:
        value = todo.pop()
        if isinstance(value, bytes):  # a line that is ready
            out.append(value.decode())
        elif value is None or isinstance(value, bool):
            out.append("null" if value is None else str(value).lower())
        elif isinstance(value, int):
            out.append(f"int {value}")
        elif isinstance(value, float):
            out.append(f"binary64 {struct.pack('>d', value).hex()}")
        elif isinstance(value, str):
            out.append(f"str {text(value)}")
        elif isinstance(value, list):
            out.append("[")
            todo += [b"]", *reversed(value)]
        else:
            out.append("{")
            todo.append(b"}")
            for name, member in reversed(value.items()):
                todo += [member, f"key {text(name)}".encode()]
    return "\n".join(out) + "\n"


def answer(operation, document, keys):
    if operation not in ("decode", "round-trip") or set(keys) - {"id", "mode", "show"}:
        return "unsupported", "an unknown operation or key"
    try:
        value = json.loads(document)
    except ValueError as error:
        return "rejected", str(error)
    except RecursionError as error:
        return "exhausted", str(error)
    try:
        if operation == "decode":
            return "accepted", "" if keys.get("show") == "nothing" else trace(value)
    except Exception as error:  # of this code, not of the library
        return "adapter-fault", repr(error)
    try:
        return "accepted", json.dumps(value)
    except RecursionError as error:
        return "exhausted", str(error)


replies.write(b"nachklang-adapter 1\nimplementation plain-python 1\njson decode round-trip\n\n")
replies.flush()
while head := sys.stdin.buffer.readline():
    operation, _, length, *rest = head.decode().split()
    keys = dict(word.split("=", 1) for word in rest)
    kind, body = answer(operation, sys.stdin.buffer.read(int(length)), keys)
    body = body.encode("utf-8", "surrogatepass")
    replies.write(f"{kind} {len(body)} id={keys['id']}\n".encode() + body)
    replies.flush()
