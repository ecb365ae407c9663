"""The record types of docs/records-of-fields.md, decoded by pydantic or cattrs; the first argument names which. Both take what Python's
json decodes."""

import json
import sys

from datetime import datetime, timezone
from typing import Annotated, Dict, List, Literal, Optional, Union

from common import Rejected, Unsupported, field, library, print_value, serve, value_of

if sys.argv[1] == "pydantic":
    import pydantic

    VERSION, DOCUMENTED = pydantic.VERSION, (pydantic.ValidationError,)

    class Base(pydantic.BaseModel):
        pass

    def decoded(document, cls):
        if hasattr(cls, "parse_raw"):
            return cls.parse_raw(document)
        try:
            return pydantic.parse_raw_as(cls, document)
        except json.JSONDecodeError as error:  # as json's documentation says
            raise Rejected(str(error))

    def members(value):
        return {known.alias: getattr(value, name) for name, known in value.__fields__.items()}

    def encoded(value):
        return value.json(by_alias=True)

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
class OneMap(Base):
    value: Dict[int, int]


@declared
class OneRecord(Base):
    value: OneInt32


@declared
class Bell(Base):
    name: str
    weight_kg: int
    hum_hz: float
    note: Optional[str] = None


if sys.argv[1] == "pydantic":
    @declared
    class OneInstant(Base):
        value: datetime

    class CastBell(Base):
        kind: Literal["bell"] = pydantic.Field(alias="$type")
        name: str
        weight_kg: int
        hum_hz: float

    class Tower(Base):
        kind: Literal["tower"] = pydantic.Field(alias="$type")
        name: str

    OF_KINDS = (OneInstant, CastBell, Tower)
    # bytes are a text there, in UTF-8.
    OWN = {"one-instant": OneInstant, "bell-or-tower": Annotated[Union[CastBell, Tower], pydantic.Field(discriminator="kind")]}
else:
    OF_KINDS, OWN = (), {}  # a field that is a datetime needs a function of the application's own

# Python's int has no width: both are one type.
TYPES = {"one-int32": OneInt32, "one-int64": OneInt32, "one-binary64": OneBinary64, "one-boolean": OneBoolean, "one-text": OneText,
         "one-list": OneList, "one-map": OneMap, "one-record": OneRecord, "bell": Bell}
RECORDS = tuple(set(TYPES.values())) + OF_KINDS
TYPES.update(OWN)


def plain(value):
    """A record as a dictionary of its fields."""
    return {name: plain(member) for name, member in members(value).items()} if isinstance(value, RECORDS) else value


def print_instant(value):
    """An instant in UTC; one without an offset is a local time."""
    utc = value if value.tzinfo is None else value.astimezone(timezone.utc)
    text = utc.strftime("%Y-%m-%dT%H:%M:%S").rjust(19, "0") + (".%06d" % utc.microsecond).rstrip("0").rstrip(".")
    return "native %s %s" % (("local-time", field(text)) if value.tzinfo is None else ("instant", field(text + "Z")))


def bound(document, record):
    if record not in TYPES:
        raise Unsupported("no such record type")
    with library(*DOCUMENTED):
        return decoded(document, TYPES[record])


def bind(document, trace, record, mode):
    value = bound(document, record)
    if trace.wanted:
        print_value(plain(value), trace, print_instant)


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
    if record not in TYPES or record in OWN:
        raise Unsupported("no such record type is filled here")
    try:
        value = filled(TYPES[record], value_of(trace))
    except DOCUMENTED as error:
        raise Unsupported("the record cannot hold this: %s" % error)
    with library():
        return encoded(value).encode("utf-8", "surrogatepass")


serve(implementation="%s %s" % (sys.argv[1], VERSION), engine="python-json %d.%d" % sys.version_info[:2], capabilities={"json": {"bind": bind, "bind-round-trip": round_trip, "bind-encode": encode}})
