"""A package's own tests over the corpus, without an adapter. Python's json is the package under test here."""

import json
import pathlib

import pytest

# What fails today: a case a line. A case that no longer fails is a failure, so that the list does not outlive its reasons.
KNOWN = set(pathlib.Path(__file__).with_name("known_failures.txt").read_text().split())


def test_decoder(case, request):
    if case["stance"] == "open":
        pytest.skip("implementations may choose")
    if case["case"] in KNOWN:
        request.applymarker(pytest.mark.xfail(strict=True))
    try:
        json.loads(case["bytes"])
        accepted = True
    except (ValueError, RecursionError):
        accepted = False
    assert accepted == (case["stance"] == "accept"), "%s [%s]" % (case.get("why", ""), case["clause"])
