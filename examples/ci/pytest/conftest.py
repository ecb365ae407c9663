"""Turns the cases of a corpus into tests: a fixture `case` runs a test once for each case that a decoder is judged by.

    pytest --corpus json
"""

import json
import os
import subprocess


def pytest_addoption(parser):
    parser.addoption("--corpus", default="json", help="json, xml, or a folder of your own")


def pytest_generate_tests(metafunc):
    if "case" not in metafunc.fixturenames:
        return
    tool = os.environ.get("NACHKLANG", "nachklang")
    lines = subprocess.run([tool, "corpus", "export", metafunc.config.getoption("--corpus")], stdout=subprocess.PIPE, check=True).stdout
    cases = [case for case in map(json.loads, lines.splitlines()) if not {"encode", "record", "sequence", "not_judged"} & case.keys()]
    for case in cases:
        case["bytes"] = bytes.fromhex(case["document_hex"]) if "document_hex" in case else case["document"].encode()
    metafunc.parametrize("case", cases, ids=[case["case"] for case in cases])
