"""The wording of a practice: its levels, its mishaps, what is at the table, and what came of it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.actions import Stored
from ufrin.actions.bench.practice import OpenPractice
from ufrin.core.practice.levels import STEP_G, LevelKey, MishapKind
from ufrin.core.practice.practice_review import PracticeReview, review
from ufrin.core.practice.practice_table import RESTS_S
from ufrin.core.shelf.scales import Scale
from ufrin.language import Counted, Joined, Text
from ufrin.web.contexts.bench_page import BenchLinks
from ufrin.web.drawings.practice import course_chart, table_drawing
from ufrin.web.frame.links import Links
from ufrin.web.frame.wording_in_units import UnitFormatter

SCALE_NAME = Text("Practice scale")
LEVEL_WORDS: Mapping[LevelKey, str] = {
    "first": Text("One mishap, and you are told which. The tins pour slowly."),
    "second": Text("Two mishaps, and you are not told which. The tins pour faster."),
    "third": Text("All four mishaps in one cup, fast tins, and no time to spare: know when to give a batch up."),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class MishapWording:
    """The wording of a mishap: its name, what to look out for, what is right at any bench, and the button for it."""

    name: str
    look_out: str
    right: str
    call: str


MISHAP_WORDS: Mapping[MishapKind, MishapWording] = {
    "too-much": MishapWording(
        name=Text("Too much ran in"),
        look_out=Text("A lump may let go of the tin after you put it upright."),
        right=Text(
            "Take the weight that the scale shows, never the one that it should show: too much A is matched by more B, "
            "and too much B by more A. Spoon nothing out: where B lies on A, nobody can tell what comes away."
        ),
        call=Text("Too much ran in"),
    ),
    "wrong-part": MishapWording(
        name=Text("The wrong tin"),
        look_out=Text("The tin that you are handed may not be the one that the bench asks for."),
        right=Text(
            "Read name and colour of the label aloud before every tin is tipped. What is in the cup of a wrong tin "
            "can't be taken out: set the cup aside, label it, and begin with a clean one."
        ),
        call=Text("This is the wrong tin"),
    ),
    "pot-life": MishapWording(
        name=Text("The pot life runs out"),
        look_out=Text("You may be called away while A and B are in the cup: watch the clock."),
        right=Text(
            "Mix and pour at once while there is time for both. Where there is not, throw the batch away: rubber that "
            "sets while it is poured traps air and does not copy the master."
        ),
        call=Text("The pot life is running out"),
    ),
    "drift": MishapWording(
        name=Text("The scale drifts"),
        look_out=Text("The reading may creep although nothing is poured."),
        right=Text(
            "Stop, and watch the reading for five seconds with the tin upright. Weigh the cup again on another scale, "
            "correct the record, and check the scale with a known weight before the next cup."
        ),
        call=Text("The scale drifts"),
    ),
}
_ANSWERS: Mapping[str, str] = {
    "too-much": Text("Right. Take the weight as it is shown: the bench says what brings the ratio right."),
    "wrong-part": Text("Right, that was the wrong tin. Here is the one that you asked for."),
    "pot-life": Text("Right. Pour at once if there is time to mix, and otherwise throw the batch away."),
    "drift": Text("Right. Another scale takes its place, and what was weighed is corrected."),
    "none": Text("There is nothing wrong with that. Go on."),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class TableWording:
    """The wording of the table: what is told, the label of the tin at hand, and what a call was answered."""

    told: str
    answer: str
    is_right: bool
    away: str
    tin_name: str
    tin_colour: str


def practice_scale(number: int) -> Stored[Scale]:
    """Return the scale of a practice, as the bench knows scales."""
    scale = Scale(name=SCALE_NAME, address="socket://127.0.0.1:1", step_g=STEP_G)
    return Stored(id=number, thing=scale, version=1, retired_at=None)


def bench_links(number: int) -> BenchLinks:
    """Return the addresses of the bench of a practice."""
    return BenchLinks(
        here=Links.practice(number),
        enter=Links.practice(number, "enter"),
        leave=Links.practices,
        now=Links.practice(number, "now"),
        stream=Links.practice(number, "stream"),
    )


def table_page(practice: OpenPractice) -> dict[str, Any]:
    """Return what the table beside the bench shows."""
    table, at_s = practice.table, practice.at_s
    return {
        "practice": practice,
        "table": table,
        "table_words": _table_words(practice),
        "drawing": table_drawing(table, at_s),
        "mishap_words": MISHAP_WORDS,
        "rests_ms": RESTS_S * 1000,
    }


def _table_words(practice: OpenPractice) -> TableWording:
    table, say = practice.table, UnitFormatter(practice.workshop.units, practice.workshop.currency)
    level = table.setup.level
    told = (
        Joined([MISHAP_WORDS[one.kind].look_out for one in table.setup.mishaps], " ")
        if level.is_told
        else Counted("{n} mishap is planted.", "{n} mishaps are planted.", n=level.mishaps)
    )
    away = (
        Text("Meanwhile {skipped} have gone by on the clock.", skipped=say.plain(table.skipped_s / 60, "time"))
        if table.skipped_s
        else ""
    )
    tin = next((one for one in table.bench.batch if one.key == table.tin), None)
    return TableWording(
        told=told,
        answer=_ANSWERS.get(table.answer, ""),
        is_right=table.answer != "none",
        away=away,
        tin_name=tin.name if tin else "",
        tin_colour=tin.colour if tin else "",
    )


def review_page(practice: OpenPractice) -> dict[str, Any]:
    """Return what the review of a practice shows."""
    found, say = review(practice.table), UnitFormatter(practice.workshop.units, practice.workshop.currency)
    names = {kind: words.name for kind, words in MISHAP_WORDS.items()}
    return {
        "practice": practice,
        "review": found,
        "verdict": _verdict(practice, found),
        "chart": course_chart(practice.table, found, names, say.plain),
        "mishap_words": MISHAP_WORDS,
        "say": say,
    }


def _verdict(practice: OpenPractice, found: PracticeReview) -> str:
    if found.is_well and practice.table.poured is None:
        return Text("Well done: the batch could not be poured in time, and you gave it up.")
    if found.is_well:
        return Text("Well done: the cup could be poured into a mould.")
    if practice.table.poured is None and any(one.kind == "pot-life" for one in found.met):
        return Text("The batch was given up while there was still time to mix and pour it.")
    if practice.table.poured is None:
        return Text("No cup was poured.")
    if practice.table.poured.is_spoilt:
        return Text("This cup would not set: something of the wrong tin is in it.")
    if not found.is_close:
        return Text("This cup would not set as it should: its ratio is off.")
    if found.left_s is not None and found.left_s < 0:
        return Text("This cup was poured too late.")
    return Text("The cup is good, but not everything was noticed.")
