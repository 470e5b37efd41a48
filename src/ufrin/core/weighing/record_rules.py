"""Rules of the record: which line may come next, and how its lines read afterwards."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.clocks.moment import Moment
from ufrin.core.rubber.cure_times import check_room
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import EntryKind, RecordEntry, Step, StepKind
from ufrin.core.weighing.top_up import check_short
from ufrin.errors import Refused
from ufrin.language import Text

CORRECTABLE: frozenset[EntryKind] = frozenset({"weigh", "leftover", "wrong", "mould"})
# what was tapped by mistake is taken back by a line of its own
RETRACTABLE: frozenset[EntryKind] = frozenset({"witness", "short", "mishap", "demould", "found"})
MISHAPS: Mapping[str, str] = {
    "leak": Text("it leaks"),
    "float": Text("the master floats"),
    "spill": Text("rubber was spilt"),
}
WITNESS_ANSWERS: Mapping[str, str] = {"liquid": Text("still liquid"), "sticky": Text("sticky"), "set": Text("set")}
DEMOULDED: Mapping[str, str] = {"well": Text("taken out of the box"), "too-soft": Text("still too soft to take out")}
FOUND: Mapping[str, str] = {
    "bubbles": Text("bubbles at the surface"),
    "torn": Text("torn"),
    "stuck": Text("stuck to the master or the box"),
    "sticky": Text("sticky spots"),
    "clean": Text("nothing wrong"),
}
_CHOICES: Mapping[EntryKind, Mapping[str, str]] = {
    "witness": WITNESS_ANSWERS,
    "mishap": MISHAPS,
    "demould": DEMOULDED,
    "found": FOUND,
}
TOO_FAST = 0.5  # of the least time: a step that took less is queried once
MOST_G = 1e6
LONGEST_TEXT = 400
MOST_ENTRIES = 2000
UNLIKELY_TIMES = 1.5  # a figure so many times over or under the target is queried: most likely a typing error
# what may still be noted once the pour is finished
AFTER_THE_END: frozenset[EntryKind] = frozenset(
    {"note", "temperature", "witness", "mishap", "short", "demould", "found", "photo"}
)
# the steps at which a kind of line may be written; kinds that are not listed may be written at any step before the end
_AT: Mapping[EntryKind, frozenset[StepKind]] = {
    "tare": frozenset({"cup", "hold", "weigh"}),
    "hold": frozenset({"hold"}),
    "down": frozenset({"weigh"}),
    "weigh": frozenset({"weigh"}),
    "wrong": frozenset({"hold", "weigh", "mix"}),
    "discard": frozenset({"hold", "weigh", "mix", "do", "pour"}),
    "step": frozenset({"do"}),
    "short": frozenset({"do", "leftover", "cup", "finish", "cure"}),
    "mixed": frozenset({"mix"}),
    "poured": frozenset({"pour"}),
    "mould": frozenset({"mould"}),
    "leftover": frozenset({"leftover"}),
    "finish": frozenset({"finish", "cup", "leftover"}),
}


def done_at(state: BenchState, came: Moment, late_s: float) -> Moment:
    """Return when something was done that a device kept while it could not reach the server.

    Parameters
    ----------
    state : BenchState
        The record so far.
    came : Moment
        When it came.
    late_s : float
        For how long the device had kept it, in seconds.

    Returns
    -------
    Moment
        Never before the line that came before it, whatever the device's own clock says.
    """
    most_s = came.since_s(state.entries[-1].at) if state.entries else late_s
    return came.before(min(late_s, most_s))


def check_entry(state: BenchState, entry: RecordEntry, *, sure: bool = False) -> None:
    """Refuse a line that can't come next.

    Parameters
    ----------
    state : BenchState
        As the record is now.
    entry : RecordEntry
        The line to be added.
    sure : bool, optional
        Whether the maker confirmed an unlikely weight.

    Raises
    ------
    Refused
        Which says what is wrong, and what to do.
    """
    if len(state.entries) >= MOST_ENTRIES:
        raise Refused("", Text("This record is full. Finish the pour, and start another for what is left."))
    if len(entry.text) > LONGEST_TEXT:
        raise Refused(
            "text",
            Text(
                "That is {length} characters; {longest} is the most. Shorten it.",
                length=len(entry.text),
                longest=LONGEST_TEXT,
            ),
        )
    if entry.temp_c is not None:
        check_room(entry.temp_c)
    if entry.kind == "correction":
        _check_correction(state, entry)
        return
    if entry.kind == "retract":
        _check_retraction(state, entry)
        return
    if state.is_finished and entry.kind not in AFTER_THE_END:
        raise Refused("", Text("This pour is finished. What was wrong in it can still be corrected in its record."))
    if entry.kind in _AT and state.step.kind not in _AT[entry.kind]:
        raise Refused("", Text("That is not what comes next. The page shows where the pour stands."))
    if entry.kind in {"hold", "weigh"} and (
        state.step.ingredient is None or entry.ingredient != state.step.ingredient.key
    ):
        raise Refused("", Text("That is not the part that comes next. Look at the name and the colour on the page."))
    if entry.kind in _CHOICES:
        _check_found(state, entry)
    _check_step(state, entry, sure=sure)
    _check_weighed(state, entry, sure=sure)
    if entry.kind in {"discard", "note"} and not entry.text.strip():
        raise Refused("text", Text("Say why in a few words: the record is read long after."))


def _check_found(state: BenchState, entry: RecordEntry) -> None:
    if entry.what not in _CHOICES[entry.kind]:
        raise Refused("", Text("That is not one of the answers. Reload the page: nothing is lost."))
    if not state.clocks.poured:
        raise Refused("", Text("Nothing is poured yet, so there is nothing to look at."))
    contact_s = state.clocks.contact_s
    if contact_s is not None and entry.at.wall_s < contact_s - 1 and entry.at.machine == state.entries[0].at.machine:
        raise Refused(
            "ago_min", Text("That is before A met B. Type how long ago it was, or leave the field empty for now.")
        )
    if entry.kind == "demould" and not state.is_finished:
        raise Refused("", Text("Finish the pour first: then it is taken out of the box."))
    if entry.kind == "demould" and state.is_demoulded:
        raise Refused("", Text("This mould is out of its box already."))


def _check_step(state: BenchState, entry: RecordEntry, *, sure: bool) -> None:
    if entry.kind == "short":
        if not state.has_poured:
            raise Refused("", Text("Nothing is poured yet, so nothing can have run short."))
        check_short(entry.volume_ml)
    if entry.kind == "step" and entry.what != state.step.key:
        raise Refused("", Text("That is not the step that comes next. The page shows where the pour stands."))
    if entry.kind not in {"step", "mixed"} or entry.text or sure or state.step_began is None:
        return
    took_s = entry.at.since_s(state.step_began)
    if took_s < 60 * state.step.least_min * TOO_FAST:
        raise Refused(
            "sure",
            Text(
                "That took [{took_s:.2f} time], and it needs at least [{least_min:.2f} time]. Go on, "
                "or say below that it is done.",
                took_s=took_s / 60,
                least_min=state.step.least_min,
            ),
        )


def _check_retraction(state: BenchState, entry: RecordEntry) -> None:
    about = next((one for one in state.valid if one.number == entry.of_number), None)
    if about is None or about.kind not in RETRACTABLE:
        raise Refused("of_number", Text("Only what was noted with a tap can be taken back. Choose one of those lines."))
    if about.kind == "short" and any(one.kind == "tare" and one.number > about.number for one in state.valid):
        raise Refused("of_number", Text("The batch that was added is at work already. Discard that cup instead."))


def without_tare_g(state: BenchState, net_g: float) -> float | None:
    """Return what was poured of the part at hand where a typed weight is that of the whole cup.

    Parameters
    ----------
    state : BenchState
        At a "weigh" step.
    net_g : float
        As typed.

    Returns
    -------
    float or None
        What is left when the content of the cup is taken off, where that is within the band and the typed weight is
        not; None otherwise.
    """
    inside_g = state.attempt.total_g
    if not inside_g or state.step.verdict(net_g) == "within":
        return None
    rest_g = net_g - inside_g
    return rest_g if rest_g > 0 and state.step.verdict(rest_g) == "within" else None


def _check_weighed(state: BenchState, entry: RecordEntry, *, sure: bool) -> None:
    if entry.kind == "weigh":
        if not sure and not entry.scale and (rest_g := without_tare_g(state, entry.net_g or 0.0)) is not None:
            raise Refused(
                "untared",
                f"[{entry.net_g:.2f} mass] is the [{state.attempt.total_g:.2f} mass] that are in the cup and "
                f"[{rest_g:.2f} mass] of this part. Was the cup not tared?",
            )
        check_weight(state.step, entry.net_g or 0.0, sure=sure)
    if entry.kind == "wrong":
        if entry.ingredient not in {one.key for one in state.batch}:
            raise Refused("ingredient", Text("Which part was poured? Choose it: its tin is that much emptier."))
        _check_mass(entry, least=0.0)
    if entry.kind == "mould":
        _check_mould(state, entry, sure=sure)
    if entry.kind == "leftover":
        _check_mass(entry, least=0.0)
        if (entry.net_g or 0.0) > state.attempt.total_g:
            raise Refused(
                "net_g",
                Text(
                    "Only [{total_g:.1f} mass] went into this cup, so that much can't be left in it. Take "
                    "the empty cup's own weight off.",
                    total_g=state.attempt.total_g,
                ),
            )


def _check_mould(state: BenchState, entry: RecordEntry, *, sure: bool) -> None:
    if entry.net_g is None and entry.text.strip():
        return  # it was left unweighed, and the record says so
    _check_mass(entry, least=0.0)
    before_g = state.mould_empty_g if state.mould_now_g is None else state.mould_now_g
    if before_g is not None and (entry.net_g or 0.0) < before_g - state.plan.step_g:
        raise Refused(
            "net_g",
            Text(
                "The mould weighed [{before_g:.1f} mass] before, and can't be lighter now. Weigh it "
                "with everything that was on it.",
                before_g=before_g,
            ),
        )
    mixed_g = sum(cup.total_g for cup in state.attempts if cup.outcome == "poured")
    gained_g = (entry.net_g or 0.0) - (state.mould_empty_g or 0.0)
    if not sure and state.mould_empty_g is not None and gained_g > mixed_g + state.plan.step_g:
        raise Refused(
            "sure",
            Text(
                "The mould gained [{gained_g:.1f} mass] in all, and only [{mixed_g:.1f} mass] were "
                "mixed. Is something on it that was not there before? Weigh it again; if it is right, "
                "say so below.",
                gained_g=gained_g,
                mixed_g=mixed_g,
            ),
        )


def _check_mass(entry: RecordEntry, *, least: float) -> None:
    if entry.net_g is None or not least <= entry.net_g <= MOST_G:
        raise Refused("net_g", Text("Type what it weighs: never less than nothing."))


def _check_correction(state: BenchState, entry: RecordEntry) -> None:
    about = next((one for one in state.entries if one.number == entry.of_number), None)
    if about is None or about.kind not in CORRECTABLE:
        raise Refused("of_number", Text("Only what was weighed can be corrected. Choose a line with a weight."))
    _check_mass(entry, least=0.0)
    if not entry.text.strip():
        raise Refused("text", Text("Say why it is corrected: the record is read long after."))


def check_weight(step: Step, net_g: float, *, sure: bool) -> None:
    """Refuse an impossible weight, and query an unlikely one.

    Parameters
    ----------
    step : Step
        A "weigh" step.
    net_g : float
        Weighed.
    sure : bool
        Whether the maker confirmed it.

    Raises
    ------
    Refused
        For 0 or less, more than a tonne, or a weight far off the target without ``sure``.
    """
    if not 0 < net_g <= MOST_G:
        raise Refused("net_g", Text("The weight must be more than nothing. Tare the empty cup, pour, and read again."))
    if not sure and not step.target_g / UNLIKELY_TIMES <= net_g <= max(step.target_g * UNLIKELY_TIMES, step.high_g):
        raise Refused(
            "sure",
            f"[{net_g:.2f} mass] is far from the [{step.target_g:.2f} mass] asked for. Read the scale again; "
            "if it is right, say so below.",
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class RecordLine:
    """A line of the record as people read it.

    Parameters
    ----------
    entry : RecordEntry
        As written.
    since_start_s : float
        Since the first line.
    target_g : float or None
        What was asked for at that step.
    right_g : float or None
        The figure that a later correction replaced.
    """

    entry: RecordEntry
    since_start_s: float
    target_g: float | None
    right_g: float | None

    @property
    def error_g(self) -> float | None:
        """How far off the target it was."""
        net_g = self.entry.net_g if self.right_g is None else self.right_g
        return None if self.target_g is None or net_g is None else net_g - self.target_g


def lines(state: BenchState) -> tuple[RecordLine, ...]:
    """Return a record as people read it.

    Parameters
    ----------
    state : BenchState
        As the record is now.

    Returns
    -------
    tuple of RecordLine
        In their order.
    """
    right = {entry.of_number: entry.net_g for entry in state.entries if entry.kind == "correction"}
    start = state.entries[0].at if state.entries else None
    return tuple(
        RecordLine(
            entry=entry,
            since_start_s=entry.at.since_s(start) if start else 0.0,
            target_g=state.targets_g.get(entry.number),
            right_g=right.get(entry.number),
        )
        for entry in state.entries
    )
