"""A shop's own pairing tests as a JSON file, written and read. ``docs/pairing.md`` describes the format."""

import json
from collections.abc import Sequence
from typing import Any

from ufrin.core.materials.kinds import BETWEENS, LONGEST_OWN, POURS, SURFACES
from ufrin.core.pairing.rules import VERDICTS, OwnRule
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Refused

FORM = "ufrin own pairing tests, 1"
MOST_BYTES, MOST_RULES = 1_000_000, 2000
KEYS = {"pour", "touches", "between", "verdict", "why", "tried_on", "rubber"}

SCHEMA: dict[str, Any] = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "title": "A workshop's own pairing tests",
    "type": "object",
    "required": ["form", "tests"],
    "additionalProperties": False,
    "properties": {
        "form": {"const": FORM},
        "tests": {
            "type": "array",
            "maxItems": MOST_RULES,
            "items": {
                "type": "object",
                "required": ["pour", "touches", "verdict", "why", "tried_on"],
                "additionalProperties": False,
                "properties": {
                    "pour": {"enum": list(POURS), "description": "what was poured"},
                    "touches": {
                        "type": "string",
                        "minLength": 1,
                        "maxLength": LONGEST_OWN,
                        "examples": list(SURFACES),
                        "description": "what it touched: a kind, or a name of the workshop's own",
                    },
                    "between": {"enum": list(BETWEENS), "default": "none", "description": "what lay between"},
                    "verdict": {"enum": list(VERDICTS), "description": "what came of it"},
                    "why": {"type": "string", "minLength": 1, "maxLength": 400, "description": "what was seen"},
                    "tried_on": {"type": "string", "format": "date", "description": "when, such as 2026-11-03"},
                    "rubber": {
                        "type": "string",
                        "default": "",
                        "description": "name of the rubber on the Shelf that alone it holds for",
                    },
                },
            },
        },
    },
}


def written(rules: Sequence[OwnRule]) -> str:
    """Write tests as a file.

    Parameters
    ----------
    rules : sequence of OwnRule
        In any order.

    Returns
    -------
    str
        JSON.
    """
    tests = [
        {
            "pour": one.pour,
            "touches": one.touches,
            "between": one.between,
            "verdict": one.verdict,
            "why": one.why,
            "tried_on": one.tried_on,
            **({"rubber": one.rubber} if one.rubber else {}),
        }
        for one in rules
    ]
    return json.dumps({"form": FORM, "tests": tests}, indent=2, ensure_ascii=False) + "\n"


def read(data: bytes) -> tuple[OwnRule, ...]:
    """Read a file of tests; all of it, or nothing.

    Parameters
    ----------
    data : bytes
        The file.

    Returns
    -------
    tuple of OwnRule
        In the order of the file.

    Raises
    ------
    Refused
        Which says what is wrong, and in which test.
    """
    if len(data) > MOST_BYTES:
        raise Refused(
            "file", f"A rule file has at most {MOST_BYTES // 1_000_000} MB; this one is larger. Is it the right file?"
        )
    try:
        document = json.loads(data.decode("utf-8-sig"), parse_constant=_no_number)
    except (ValueError, RecursionError) as error:  # bad JSON, bad UTF-8, NaN, or nested without end
        raise Refused(
            "file", "This is not a rule file: it can't be read as JSON. Export one first to see its form."
        ) from error
    if (
        not isinstance(document, dict)
        or document.get("form") != FORM
        or set(document) != {"form", "tests"}
        or not isinstance(document["tests"], list)
    ):
        raise Refused(
            "file",
            f"This is not a rule file: it must hold “form”: “{FORM}” and a list “tests”. Export one first to "
            "see its form.",
        )
    if len(document["tests"]) > MOST_RULES:
        raise Refused("file", f"This file holds {len(document['tests'])} tests; {MOST_RULES} are the most.")
    return tuple(_rule(number, test) for number, test in enumerate(document["tests"], 1))


def _no_number(text: str) -> float:
    raise ValueError(text)


def _rule(number: int, test: object) -> OwnRule:
    where = f"Test {number} of the file: "
    if not isinstance(test, dict) or not all(isinstance(value, str) for value in test.values()):
        raise Refused("file", where + "it must be an object whose values are all text.")
    unknown = set(test) - KEYS
    missing = {"pour", "touches", "verdict", "why", "tried_on"} - set(test)
    if unknown or missing:
        what = f"“{str(min(unknown))[:40]}” is not one of its fields" if unknown else f"“{min(missing)}” is missing"
        raise Refused("file", f"{where}{what}.")
    fields: dict[str, Any] = {key: one_line(value) for key, value in test.items()}
    try:
        return OwnRule(**{"between": "none", **fields})
    except Refused as refused:
        raise Refused("file", where + refused.why) from refused
