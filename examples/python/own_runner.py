"""A runner of one's own: reads what `nachklang corpus export json` prints and calls json.loads, without an adapter."""

import collections
import json
import sys

counts = collections.Counter()
for line in sys.stdin:
    case = json.loads(line)
    if {"encode", "record", "sequence", "not_judged"} & case.keys():
        continue
    document = bytes.fromhex(case["document_hex"]) if "document_hex" in case else case["document"].encode()
    try:
        json.loads(document)
        accepted = True
    except (ValueError, RecursionError):
        accepted = False
    wrong = accepted != (case["stance"] == "accept") and case["stance"] != "open"
    counts["open" if case["stance"] == "open" else "wrong" if wrong else "right"] += 1
    if wrong:
        print(case["case"], "accepted" if accepted else "rejected", case["clause"])
print(dict(counts))
sys.exit(0 if counts["right"] > counts["wrong"] else 1)
