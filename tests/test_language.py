"""Texts, the languages that they are shown in, and the catalogue that holds them all."""

import ast
import pickle
import re
from datetime import datetime
from gettext import NullTranslations
from pathlib import Path

import catalogue
import pytest
from babel import Locale
from babel.messages.pofile import read_po
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.measures.display import say_amounts, show
from ufrin.core.measures.quantity_kinds import KINDS
from ufrin.core.wording.findings import SENTENCES
from ufrin.language import ENGLISH, NAMES, Counted, DateText, Joined, Language, Text, english, language, using

OTHERS = [code for code in NAMES if not code.startswith("en")]
# a gap, an amount that is written out in the workshop's units, or a tag
PARTS = re.compile(rf"\{{[^{{}}]*\}}|\[[^\[\]]* (?:{'|'.join(KINDS)})(?: ~\d?)?\]|</?[a-z]+\d*>")


class Marked(NullTranslations):
    """Every message between brackets, so that a text that no catalogue has shows."""

    def gettext(self, message: str) -> str:
        return f"⟦{message}⟧"

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return self.gettext(msgid1 if n == 1 else msgid2)


MARKED = Language(locale=Locale("de"), messages=Marked())


@pytest.mark.parametrize("code", OTHERS)
def test_a_catalogue_has_every_text_and_no_other(code: str) -> None:
    kept = read_po((catalogue.LOCALE / f"{code}.po").read_text("utf-8").splitlines(keepends=True), locale=code)
    there = {message.id if isinstance(message.id, str) else tuple(message.id) for message in kept if message.id}
    assert there == set(catalogue.messages()), "run ./run texts, and translate what is new"
    for message in kept:
        if not message.id:
            continue
        pairs = (
            [(message.id, message.string)]
            if isinstance(message.id, str)
            else zip(message.id, message.string, strict=True)
        )
        for written, translated in pairs:
            assert translated, written
            assert "fuzzy" not in message.flags, written
            # the same gaps, amounts and tags; how often and in which order is the language's own
            assert set(PARTS.findall(translated)) == set(PARTS.findall(written)), written
            assert (written[:1].isspace(), written[-1:].isspace()) == (
                translated[:1].isspace(),
                translated[-1:].isspace(),
            )


def test_every_text_in_the_code_is_one_that_can_be_gathered() -> None:
    # a text that is put together before it is looked up is in no catalogue
    for path in catalogue.SRC.rglob("*.py"):
        if path.parent.name == "language":
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in {"Text", "Counted"}:
                first = node.args[0]
                assert not isinstance(first, ast.JoinedStr | ast.BinOp | ast.IfExp), f"{path}:{node.lineno}"


def test_a_text_in_the_gap_of_another_or_in_a_drawing_is_gathered() -> None:
    assert {"a day", "no time for it"} <= set(catalogue.messages())


def test_a_text_is_english_until_it_is_shown() -> None:
    net = Text("The {what} takes {net:.1f} ml.", what=Text("Box"), net=12.5)
    assert net == "The Box takes 12.5 ml."
    with using(MARKED):
        assert net == "The Box takes 12.5 ml."
        assert english(net) == "The Box takes 12.5 ml."
        assert str(net) == "⟦The ⟦Box⟧ takes 12,5 ml.⟧"
        assert f"{net}" == f"{pickle.loads(pickle.dumps(net))}" == str(net)  # noqa: S301 - our own
        # made while another language is in use it is the same text
        assert Text("The {what} takes {net:.1f} ml.", what=Text("Box"), net=12.5) == net
    assert str(net) == "The Box takes 12.5 ml."


def test_a_language_is_in_use_until_its_block_ends() -> None:
    with pytest.raises(ValueError, match="enough"), using(MARKED):
        raise ValueError("enough")
    assert str(Text("Box")) == "Box"


@given(number=st.integers(0, 10_000))
def test_what_is_counted_reads_right_in_each_language(number: int) -> None:
    counted = Counted("{n} batch", "{n} batches", n=number)
    assert counted == (f"{number} batch" if number == 1 else f"{number} batches")
    with using(language("de")):
        assert str(counted) == (f"{number} Ansatz" if number == 1 else f"{number} Ansätze")


def test_lists_cases_dates_and_decimals_follow_the_language() -> None:
    listed = Joined([Text("Gate"), Text("Vents")], Text(" and "))
    at = datetime(2026, 11, 28, 14, 5)
    assert (listed, DateText(at, "day", "%H:%M")) == ("Gate and Vents", "28 Nov 2026 14:05")
    assert Text("Wax").lower() == "wax"
    with using(language("de")):
        assert str(listed) == "Einguss und Entlüftungen"
        assert str(DateText(at, "day", "%H:%M")) == "28. Nov. 2026 14:05"
        assert str(show(12.34, "length")) == "12,3 mm"
        assert show(12.34, "length") == "12.3 mm"
        # a noun keeps its capital inside of a sentence
        assert str(Text("Wax").lower()) == "Wachs"
    with using(language("en-US")):
        assert str(DateText(at)) == "Nov 28, 2026"


@pytest.mark.parametrize("code", OTHERS)
def test_findings_can_be_told_in_each_language(code: str) -> None:
    with using(language(code)):
        assert not [key for key, (_, sentence) in SENTENCES.items() if str(sentence) == english(sentence)]


def test_a_plain_english_page_is_what_its_author_wrote() -> None:
    assert language(ENGLISH.code) is ENGLISH
    assert Path(catalogue.LOCALE, "en-GB.po").exists() is False


def test_amounts_in_a_sentence_are_written_out_whatever_the_decimal_sign() -> None:
    sentence = Text("That took [{took_min:.2f} time].", took_min=2.5)
    assert say_amounts(sentence) == "That took 2.5 min."
    with using(language("de")):
        assert "2,5 min" in say_amounts(sentence)
        assert "[" not in say_amounts(Text("[{g:.2f} mass ~] of it", g=31.82))
