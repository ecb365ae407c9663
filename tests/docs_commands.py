"""Runs every command of the README and the documentation, as written: docs_commands.py TOOL SOURCE

A command may find failures (status 1), but must not be refused (2), fail (3) or not exist. One that takes long is ended: it was
accepted. Commands of scripts that install packages are not run.
"""

import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile

tool, source = sys.argv[1:3]
SECONDS = 2
# What later commands need must end.
NEEDED = re.compile(r"--store|--results|--update-baseline|--page|--output|--json >|corpus export|new-adapter|g\+\+")
# Commands that begin so are run; others are output, or belong to other programs.
OURS = re.compile(r"^(~/nachklang/scripts/new-adapter|g\+\+|nachklang)\s")
# What a command needs that the texts before it do not make.
MISSING = {"our-documents": "documents of the reader's own", "collected": "the same", "index.csv": "an index of them"}


def commands(path):
    """The commands of a page, with the numbers of their lines. A comment ends a line."""
    with open(path, encoding="utf-8") as file:
        for number, line in enumerate(file, 1):
            if not line.startswith("    ") or not OURS.match(line.strip()):
                continue
            command = re.sub(r"\s{2,}# .*$| +# .*$", "", line.strip())
            if "…" in command or "..." in command or re.search(r"\b(FILE|NAME|CAUSE|QUESTION|COMMAND)\b", command):
                continue
            yield number, command.split("; or")[0]


def run(command, folder):
    home = os.path.dirname(folder)
    environment = dict(os.environ, HOME=home, PATH=os.path.dirname(tool) + ":" + os.environ["PATH"], NO_COLOR="1")
    seconds = 120 if NEEDED.search(command) else SECONDS
    # A session of its own: what is ended is the command with all that it started.
    started = subprocess.Popen(["bash", "-c", command], cwd=folder, env=environment, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True,
                               errors="replace", start_new_session=True)
    try:
        problem = started.communicate(timeout=seconds)[1]
    except subprocess.TimeoutExpired:
        os.killpg(started.pid, signal.SIGTERM)
        started.communicate()
        return None
    return None if started.returncode in (0, 1) else "status %d: %s" % (started.returncode, problem.strip()[-300:])


def main():
    pages = [os.path.join(source, "README.md")]
    pages += sorted(os.path.join(source, "docs", name) for name in os.listdir(os.path.join(source, "docs")) if name.endswith(".md"))
    ran, wrong = 0, 0
    with tempfile.TemporaryDirectory() as scratch:
        os.symlink(source, os.path.join(scratch, "nachklang"))
        for page in pages:
            folder = os.path.join(scratch, os.path.basename(page) + ".folder")
            os.mkdir(folder)
            os.symlink(os.path.join(source, "demo"), os.path.join(folder, "demo"))
            for name in ("examples", "corpora"):
                os.symlink(os.path.join(source, name), os.path.join(folder, name))
            for number, command in commands(page):
                if any(word in command for word in MISSING):
                    continue
                ran += 1
                # A skeleton is never written over another; each language begins anew.
                if "new-adapter" in command:
                    for left in os.listdir(folder):
                        if left.startswith("tower-json") or left == "nachklang.toml":
                            os.remove(os.path.join(folder, left))
                problem = run(command, folder)
                if problem:
                    wrong += 1
                    print("%s:%d: %s\n    %s" % (os.path.basename(page), number, command, problem))
            shutil.rmtree(folder, ignore_errors=True)
    print("%d commands, %d refused" % (ran, wrong))
    return 1 if wrong or ran < 40 else 0


sys.exit(main())
