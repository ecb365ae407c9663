"""PostgreSQL's json and jsonb, through a private server in a scratch folder that lives and dies with this adapter."""

import atexit
import ctypes
import os
import pwd
import shutil
import signal
import subprocess
import tempfile
import time

import psycopg2

from common import LibraryFailure, Rejected, Unsupported, library, serve

BINARIES = "/usr/lib/postgresql/15/bin/"
PR_SET_PDEATHSIG = 1
CLONE_NEWIPC = 0x08000000

# Each value with the number of its container in the level above; json_ or jsonb_ in place of @. A container's own text is not needed.
# A path for each value, which would sort them at once, takes room that grows with the square of the depth.
WALK = """
with recursive held(depth, number, container, place, name, value) as (
  select 0, 1::bigint, 0::bigint, 1::bigint, null::text, convert_from($1, 'UTF8')::@
  union all
  select held.depth + 1, row_number() over (), held.number, inside.place, inside.name, inside.value
  from held cross join lateral (
    select null::text as name, e.value, e.place
    from @_array_elements(case @_typeof(held.value) when 'array' then held.value else '[]' end) with ordinality as e(value, place)
    union all
    select e.key, e.value, e.place
    from @_each(case @_typeof(held.value) when 'object' then held.value else '{}' end) with ordinality as e(key, value, place)
  ) inside)
select depth, number, container, place, encode(convert_to(name, 'UTF8'), 'hex'), @_typeof(value),
       case when @_typeof(value) in ('object', 'array') then null else encode(convert_to(value #>> '{}', 'UTF8'), 'hex') end
from held
"""


def as_postgres():
    """The server refuses to run as root; it must not outlive this adapter, however that ends, nor may its shared memory."""
    if os.getuid() == 0:
        ctypes.CDLL(None).unshare(CLONE_NEWIPC)
        user = pwd.getpwnam("postgres")
        os.setgroups([])
        os.setgid(user.pw_gid)
        os.setuid(user.pw_uid)
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGQUIT)


def start_server():
    folder = tempfile.mkdtemp(prefix="postgresql-")
    if os.getuid() == 0:
        shutil.chown(folder, "postgres")
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    data = folder + "/data"
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL, "stdin": subprocess.DEVNULL}
    subprocess.run([BINARIES + "initdb", "-D", data, "-E", "UTF8", "--locale=C.UTF-8", "-A", "trust", "-N", "-U", "postgres"],
                   preexec_fn=as_postgres, check=True, cwd="/", **quiet)
    server = subprocess.Popen([BINARIES + "postgres", "-D", data, "-k", "@" + folder, "-c", "listen_addresses=", "-c", "fsync=off",
                               "-c", "shared_buffers=8MB", "-c", "autovacuum=off", "-c", "dynamic_shared_memory_type=mmap"],
                              preexec_fn=as_postgres, cwd="/", **quiet)

    def stop():  # at once: nothing is kept
        server.send_signal(signal.SIGQUIT)
        server.wait(10)

    atexit.register(stop)
    for _ in range(200):
        try:
            return psycopg2.connect(host="@" + folder, user="postgres", dbname="postgres")
        except psycopg2.OperationalError:
            time.sleep(0.05)
    raise RuntimeError("the server did not come up")


# A container is taken apart, a document written again; planned once, for a plan takes longer than most documents.
QUERIES = {"walk": WALK, "rewrite": "select convert_to((convert_from($1, 'UTF8')::@)::text, 'UTF8')"}

connection = start_server()
connection.autocommit = True
with connection.cursor() as cursor:
    for name, query in QUERIES.items():
        for kind in ("json", "jsonb"):
            cursor.execute("prepare %s_%s(bytea) as %s" % (name, kind, query.replace("@", kind)))


def ask(query, kind, document):
    with connection.cursor() as cursor:
        cursor.execute("execute %s_%s(%%s)" % (query, kind), (psycopg2.Binary(document),))
        return cursor.fetchall()


def refused(error):
    return Rejected((error.diag.message_primary or str(error)) + (" " + error.diag.message_detail if error.diag.message_detail else ""))


def round_trip(document, mode):
    try:
        text = ask("rewrite", mode or "jsonb", document)[0][0]
    except (psycopg2.errors.StatementTooComplex, psycopg2.errors.ProgramLimitExceeded) as error:
        raise LibraryFailure("exhausted", str(error))
    except psycopg2.Error as error:
        raise refused(error)
    return bytes(text)


def line_of(kind, text, mode):
    if kind == "null":
        return "null"
    if kind == "string":
        return "str u8:" + text
    # A json that is one number or literal comes as it was written, with the white space around it.
    written = bytes.fromhex(text).strip()
    if kind == "boolean":
        return written.decode("ascii")
    return "spelled u8:" + written.hex() if mode == "json" else "dec " + written.decode("ascii")


def decode(document, trace, mode):
    round_trip(document, mode)
    if not trace.wanted:
        return
    try:
        rows = ask("walk", mode or "jsonb", document)
    except psycopg2.Error as error:  # json keeps the text: its content may not be a string of the server
        raise Unsupported("accepted, but to take it apart is an error: " + str(error))
    inside = {}  # by depth and number of the container
    for depth, number, container, place, name, kind, text in rows:
        inside.setdefault((depth - 1, container), []).append((place, depth, number, name, kind, text))
    for values in inside.values():
        values.sort(reverse=True)
    rest = inside[-1, 0]
    while rest:
        place, depth, number, name, kind, text = rest.pop()
        if name is not None:
            trace.line("key u8:" + name)
        if kind in ("array", "object"):
            trace.line("[" if kind == "array" else "{")
            rest.append((place, depth, number, None, "end", "]" if kind == "array" else "}"))
            rest.extend(inside.get((depth, number), ()))
        elif kind == "end":
            trace.line(text)
        else:
            trace.line(line_of(kind, text, mode))


serve(
    implementation="postgresql %s" % connection.info.parameter_status("server_version").split()[0],
    capabilities={"json": {"decode": decode, "round-trip": round_trip}},
    modes=["json", ("jsonb", ("duplicates", "order"))],
)
