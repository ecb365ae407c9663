"""The record types of docs/records-of-fields.md, decoded by pydantic or cattrs; the first argument names which. Both take what Python's
json decodes."""

import json
import sys

from typing import List, Optional

from common import Unsupported, library, print_value, serve, value_of

if sys.argv[1] == "pydantic":
    import pydantic

    VERSION, DOCUMENTED = pydantic.VERSION, (pydantic.ValidationError,)

    class Base(pydantic.BaseModel):
        pass

    def decoded(document, cls):
        return cls.parse_raw(document)

    def members(value):
        return {name: getattr(value, name) for name in value.__fields__}

    def encoded(value):
        return value.json()

    def declared(cls):
        return cls
else:
    import attr
    import cattr
    import cattr.errors
    from importlib.metadata import version

    VERSION, DOCUMENTED = version("cattrs"), (cattr.errors.BaseValidationError, cattr.errors.StructureHandlerNotFoundError, ValueError)
    Base, declared = object, attr.s(auto_attribs=True)

    def decoded(document, cls):
        return cattr.structure(json.loads(document), cls)

    def members(value):
        return {a.name: getattr(value, a.name) for a in attr.fields(type(value))}

    def encoded(value):
        return json.dumps(cattr.unstructure(value))


@declared
class OneInt32(Base):
    value: int


@declared
class OneBinary64(Base):
    value: float


@declared
class OneBoolean(Base):
    value: bool


@declared
class OneText(Base):
    value: str


@declared
class OneList(Base):
    value: List[int]


@declared
class OneRecord(Base):
    value: OneInt32


@declared
class Bell(Base):
    name: str
    weight_kg: int
    hum_hz: float
    note: Optional[str] = None


# Python's int has no width: both are one type.
TYPES = {"one-int32": OneInt32, "one-int64": OneInt32, "one-binary64": OneBinary64, "one-boolean": OneBoolean, "one-text": OneText,
         "one-list": OneList, "one-record": OneRecord, "bell": Bell}
RECORDS = tuple(set(TYPES.values()))


def plain(value):
    """A record as a dictionary of its fields."""
    return {name: plain(member) for name, member in members(value).items()} if isinstance(value, RECORDS) else value


def bound(document, record):
    if record not in TYPES:
        raise Unsupported("no such record type")
    with library(*DOCUMENTED):
        return decoded(document, TYPES[record])


def bind(document, trace, record, mode):
    value = bound(document, record)
    if trace.wanted:
        print_value(plain(value), trace)


def round_trip(document, record, mode):
    value = bound(document, record)
    with library():
        return encoded(value).encode("utf-8")


def filled(cls, fields):
    """A record with these fields."""
    if any(isinstance(value, bytes) for value in fields.values()):
        raise Unsupported("a str holds no bytes")
    if any(value is None and name != "note" for name, value in fields.items()):
        raise Unsupported("the field is not declared optional")
    return cls(**{name: filled(OneInt32, value) if isinstance(value, dict) else value for name, value in fields.items()})


def encode(trace, record, mode):
    if record not in TYPES:
        raise Unsupported("no such record type")
    try:
        value = filled(TYPES[record], value_of(trace))
    except DOCUMENTED as error:
        raise Unsupported("the record cannot hold this: %s" % error)
    with library():
        return encoded(value).encode("utf-8", "surrogatepass")


serve(implementation="%s %s" % (sys.argv[1], VERSION), engine="python-json %d.%d" % sys.version_info[:2], capabilities={"json": {"bind": bind, "bind-round-trip": round_trip, "bind-encode": encode}})
