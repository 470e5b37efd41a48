"""Examples in docstrings give what they say."""

import doctest
from importlib import import_module
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1] / "src"
WITH_EXAMPLES = [
    ".".join(file.relative_to(ROOT).with_suffix("").parts)
    for file in sorted(ROOT.rglob("*.py"))
    if ">>>" in file.read_text("utf-8")
]


@pytest.mark.parametrize("name", WITH_EXAMPLES)
def test_examples_give_what_they_say(name: str) -> None:
    result = doctest.testmod(import_module(name))
    assert result.attempted
    assert not result.failed
