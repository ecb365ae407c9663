"""An adapter that misbehaves on purpose: rogue_adapter.py WAY [FILE]. It accepts every document as null but for its way."""

import os
import resource
import signal
import sys
import tempfile
import time

way = sys.argv[1]
requests, replies = sys.stdin.buffer, sys.stdout.buffer
seen = []


def reply(kind, body, request_id, length=None):
    replies.write(b"%s %d id=%d\n%s" % (kind, len(body) if length is None else length, request_id, body))
    replies.flush()


def misbehave(document, request_id):
    """True where the request was dealt with."""
    marked = b"bell" in document
    if way == "garbage" and marked:
        replies.write(b"ding dong\n")
        replies.flush()
    elif way == "lies-long" and marked:
        reply(b"accepted", b"null\n", request_id, 50)
    elif way == "lies-short" and marked:
        reply(b"accepted", b"null\nnull\n", request_id, 5)
    elif way == "wrong-id" and marked:
        reply(b"accepted", b"null\n", request_id + 7)
    elif way == "bad-trace" and marked:
        reply(b"accepted", b"ding\n", request_id)
    elif way == "talks-at-length" and marked:
        reply(b"rejected", b"ding " * 1000000, request_id)
    elif way == "admits" and marked:
        reply(b"adapter-fault", b"KeyError: 'bell'", request_id)
    elif way == "over-reports" and marked:
        replies.write(b"accepted 5 id=%d reported=6\nnull\n" % request_id)
        replies.flush()
    elif way == "reports" and marked:
        replies.write(b"accepted 20 id=%d reported=15\nprefix unbound\nnull\n" % request_id)
        replies.flush()
    elif way == "crash" and marked:
        os.kill(os.getpid(), signal.SIGSEGV)
    elif way == "leave" and marked:
        sys.exit(3)
    elif way == "leaves-a-daemon" and marked:
        if os.fork() == 0:
            os.setsid()
            if os.fork() == 0:
                os.execvp("sleep", ["rogue-daemon " + sys.argv[2], "300"])
            os._exit(0)
        reply(b"accepted", b"null\n", request_id)
    elif way == "leaves-a-file" and marked:
        with open(os.path.join(tempfile.mkdtemp(), "casting"), "w") as file:
            file.write("bronze\n")
        with open(sys.argv[2] + "/left", "w") as seen_at:
            seen_at.write(file.name)
        time.sleep(60)
    elif way in ("hang", "hangs-in-both") and marked:
        time.sleep(60)
    elif way == "spins" and marked:
        with open(sys.argv[2], "a") as begun:
            begun.write("request\n")
        while True:
            pass
    elif way == "takes-its-time" and len(document) > 1:
        with open(sys.argv[2], "a") as begun:
            begun.write("request\n")
        time.sleep(1.5)
        reply(b"accepted", b"null\n", request_id)
    elif way == "counts-files":
        reply(b"rejected", b"%d" % resource.getrlimit(resource.RLIMIT_NOFILE)[0], request_id)
    elif way == "stalls-once" and marked and not os.path.exists(sys.argv[2]):
        open(sys.argv[2], "w").close()
        time.sleep(60)
    elif way == "flood" and marked:
        while True:
            replies.write(b"x" * 65536)
            replies.flush()
    elif way == "late" and marked:
        replies.write(b"accepted 100000000 id=%d\n" % request_id)
        while True:
            replies.write(b"x" * 1000)
            replies.flush()
            time.sleep(0.005)
    elif way == "memory" and marked:
        hoard = []
        while True:
            hoard.append(bytearray(b"x" * (16 << 20)))
            time.sleep(0.01)
    elif way == "talks" and marked:
        sys.stderr.write("ding " * 100000)
        sys.stderr.flush()
        reply(b"accepted", b"null\n", request_id)
    elif way == "sequence" and marked and b"frame" in seen:
        os.kill(os.getpid(), signal.SIGABRT)
    elif way == "remembers" and seen and seen[-1] == b"frame":
        reply(b"rejected", b"still thinking of the frame", request_id)
    elif way.startswith("reply:") and marked:
        replies.write(way[6:].replace("ID", str(request_id)).replace("\\n", "\n").encode())
        replies.flush()
    elif way == "choked-by-size" and (len(document) > 1 << 20 or seen and len(seen[-1]) > 1 << 20):
        reply(b"rejected", b"no more", request_id)
    elif way == "walks-recursively" and not silent and len(document) > 1 << 20 and document.startswith(b"[["):
        sys.exit(7)
    elif way == "shows-nothing-deep" and not silent and document.startswith(b"[["):
        reply(b"unsupported", b"too deep to show", request_id)
    elif way == "computes" and marked:
        while time.process_time() < 0.5:
            pass
        reply(b"accepted", b"null\n", request_id)
    elif way == "damaged" and any(d.startswith(b"{") for d in [document] + seen):
        reply(b"threw", b"broken at request %d" % request_id, request_id)
    elif way == "shows-slowly" and marked and not silent:
        time.sleep(60)
    elif way == "slow":
        time.sleep(0.15)
        reply(b"accepted", b"null\n", request_id)
    else:
        return False
    return True


if way == "no-hello":
    replies.write(b"good morning\n\n")
    replies.flush()
    sys.exit(0)
if way == "silent":
    time.sleep(60)
if way == "dies-first":
    sys.exit(9)
while way == "endless-hello":
    replies.write(b"x" * 65536)
while way == "hoards-first":
    seen.append(bytearray(b"x" * (16 << 20)))
    time.sleep(0.01)
if way.startswith("hello:"):
    replies.write(way[6:].encode().decode("unicode_escape").encode("latin-1") + b"\n\n")
else:
    also = b" round-trip" if way == "hangs-in-both" else b""
    replies.write(b"nachklang-adapter 1\nimplementation rogue 1.0\njson decode%s\n\n" % also)
replies.flush()
if way == "deaf":
    # It closes its input while requests are under way: writing to it gives EPIPE.
    os.close(requests.fileno())
    time.sleep(0.3)
    sys.exit(5)
while True:
    head = requests.readline()
    if not head:
        break
    words = head.split()
    document = requests.read(int(words[2]))
    number = int([w for w in words if w.startswith(b"id=")][0][3:])
    silent = b"show=nothing" in words
    if not misbehave(document, number):
        reply(b"accepted", b"null\n", number)
    seen.append(document.strip(b'"'))
if way == "bad-end":
    sys.exit(4)
if way == "last-words":
    replies.write(b"and one more thing")
