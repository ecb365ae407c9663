"""Whether a page of the documentation shows the code of a file, after its docstring: documented_adapter.py PAGE FILE"""

import sys
import textwrap

page, file = (open(path, encoding="utf-8").read() for path in sys.argv[1:3])
code = file.split("\n\n", 1)[1].rstrip("\n")
if textwrap.indent(code, "    ") not in page:
    sys.exit(f"{sys.argv[1]} does not show the code of {sys.argv[2]}")
