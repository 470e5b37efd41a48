"""What the template of a mould's log receives, and how its form is read."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ufrin.actions.casts.bench import CastPour
from ufrin.actions.casts.shots import TRIED, WHOLE_MOULD, ShotLog, Trial
from ufrin.core.casting.cast_cups import SHOT_PARTS
from ufrin.core.casting.cast_kinds import CAST_KINDS
from ufrin.core.casting.next_amount import NextAmount
from ufrin.core.casting.shot_log import FLAWS, GRADES, Shot, ShotPart, ShotPiece, together
from ufrin.core.casting.two_ways import Way
from ufrin.core.clocks.moment import Moment
from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.measures.parsing import parse
from ufrin.core.moulds.retirement import CAUSES
from ufrin.errors import Refused
from ufrin.language import Joined, Text
from ufrin.web.frame.forms import YES, whole_number
from ufrin.web.frame.wording_in_units import UnitFormatter

LONGEST = 120
# the fields of the Casts station in which the maker's own amount of each part is kept
PART_FIELDS: Mapping[str, str] = {"foam": "foam_each_g", "face": "face_each_g"}
WAYS: tuple[Way, Way] = ("first", "second")


def evidence_words(learnt: NextAmount, say: UnitFormatter) -> str:
    """Return what was tried until now, in words: "15.0 g once; 10.0 g: enough 4 times of 4"."""
    told = []
    for one in learnt.tried:
        grams = say.plain(one.g, "mass", 1)
        if one.times == 1:
            told.append(
                Text("{grams} once, {enough}", grams=grams, enough=Text("enough") if one.enough else Text("not enough"))
            )
        else:
            told.append(
                Text("{grams}: enough {enough} times of {times}", grams=grams, enough=one.enough, times=one.times)
            )
    return Joined(told[-4:], Text("; then "))


def trial_words(trial: Trial) -> str:
    """Return what a trial tells until now, in words."""
    result = trial.result
    if result is None:
        return Text("Nothing to compare yet: both ways need a piece.")
    by_chance = Text(
        "Such a difference comes about by chance alone {chance:.0f} times of 100.", chance=100 * result.chance
    )
    match result.verdict:
        case "too few":
            return Text("Too few pieces to tell, whatever came out.")
        case "no difference":
            return Text("No difference that could not be chance. {by_chance}", by_chance=by_chance)
        case "first" | "second":
            return Text(
                "“{trial}” came out better. {by_chance}", trial=way_name(trial, result.verdict), by_chance=by_chance
            )


def way_name(trial: Trial, way: Way | None) -> str:
    """Return the name of a way; "1" or "2" while a blind trial runs."""
    if way is None:
        return ""
    if trial.kept.is_blind and trial.is_running:
        return Text("way 1") if way == "first" else Text("way 2")
    return _real_name(trial, way)


def _real_name(trial: Trial, way: Way) -> str:
    name = trial.kept.first if way == "first" else trial.kept.second
    return SCHOOLS.get(name, name)


def layout_words(trial: Trial) -> str:
    """Return by which way the next shot is cast, for whoever casts it: "cavity 1 powder, cavity 2 spray"."""
    ways = trial.next_ways
    if trial.kept.by_shot:
        return _real_name(trial, next(iter(ways.values()))) if ways else Text("no cavity is left")
    return Joined(
        Text("cavity {cavity} {trial}", cavity=cavity, trial=_real_name(trial, way)) for cavity, way in ways.items()
    )


def log_context(log: ShotLog, say: UnitFormatter, weighed: CastPour | None = None) -> dict[str, Any]:
    """Return what the log's template receives."""
    casts = log.opened.casts
    made = casts.plan if casts else None
    last = log.shots[0].shot if log.shots else None
    running = log.trial if log.trial and log.trial.is_running else None
    return {
        "is_log": True,
        "causes": CAUSES,
        "whole_mould": WHOLE_MOULD,
        "tried": TRIED,
        "names_of_ways": [_real_name(log.trial, way) for way in WAYS] if log.trial else [],
        "layout": layout_words(running) if running else "",
        "grades": GRADES if running and running.kept.is_graded else (),
        "set_by_trial": running.kept.about if running and running.kept.by_shot else "",
        "log": log,
        "flaws": FLAWS,
        "schools": SCHOOLS,
        "kind_words": CAST_KINDS,
        "kind": log.opened.job.casts.settled().cast_kind,
        "made": made,
        "last": last,
        "learnt": log.learnt,
        "evidence": {part: evidence_words(amount, say) for part, amount in log.learnt.items()},
        "is_in_parts": bool(made and made.parts),
        "amount_fields": amount_fields(log, weighed),
        "weighed": weighed,
        "part_words": SHOT_PARTS,
        "part_fields": PART_FIELDS,
        "trial_words": trial_words(log.trial) if log.trial else "",
        "way_name": way_name,
        "pieces_of": [piece for kept in log.shots for piece in kept.shot.pieces],
    }


@dataclass(frozen=True, slots=True, kw_only=True)
class AmountFields:
    """The fields for what was mixed of a shot, or of a part of it and of which material, and what they begin with."""

    part: str = ""
    material: str = ""
    mixed_g: float | None
    left_g: float | None = None

    @property
    def prefix(self) -> str:
        """What the names of its fields begin with."""
        return f"{self.part}_" if self.part else ""


def amount_fields(log: ShotLog, weighed: CastPour | None) -> tuple[AmountFields, ...]:
    """Return the fields of a shot's amounts: as it was weighed, else as the last one was, else as it is planned."""
    casts = log.opened.casts
    made = casts.plan if casts else None
    last = log.shots[0].shot if log.shots else None
    if casts is None or made is None or not made.parts:
        planned_g = made.shot_g if made else None
        mixed_g, left_g = (weighed.mixed_g, weighed.left_g) if weighed else (last.mixed_g if last else planned_g, None)
        return (AmountFields(mixed_g=mixed_g, left_g=left_g),)
    before_g = {one.part: one.mixed_g for one in last.parts} if last else {}
    found = []
    for one in made.parts:
        mixed_g, left_g = before_g.get(one.part, one.g), None
        if weighed and one.part in weighed.pour.plan.cup_parts:
            mixed_g, left_g = weighed.mixed_of(one.part), weighed.left_of(one.part)
        material = casts.picks.of_part(one.part)
        name = material.name if material else ""
        found.append(AmountFields(part=one.part, material=name, mixed_g=mixed_g, left_g=left_g))
    return tuple(found)


def cast_at(form: Mapping[str, str], now: Moment, say: UnitFormatter) -> Moment:
    """Return when a shot was cast, by how long ago that was typed to be.

    Raises Refused for a time to come.
    """
    text = form.get("ago_min", "").strip()
    if not text:
        return now
    ago_min = parse(text, "time", say.units, field="ago_min")
    if ago_min < 0:
        raise Refused("ago_min", Text("How long ago was it cast? A time to come can't be logged yet."))
    return replace(now, wall_s=now.wall_s - 60 * ago_min)


def read_shot(form: Mapping[str, str], log: ShotLog, say: UnitFormatter) -> Shot:
    """Read a shot as it was typed.

    Raises Refused for what can't be read, naming the field.
    """

    def number(field: str, kind: str) -> float | None:
        text = form.get(field, "").strip()
        return parse(text, kind, say.units, field=field) if text else None

    def words(field: str, longest: int = LONGEST) -> str:
        return " ".join(form.get(field, "").split())[:longest]

    def amounts(part: str = "") -> dict[str, Any]:
        mixed = number(f"{part}mixed_g", "mass")
        if mixed is None:
            raise Refused(f"{part}mixed_g", Text("How much was mixed? Type its weight."))
        return {
            "mixed_g": mixed,
            "left_g": number(f"{part}left_g", "mass") or 0.0,
            "was_short": form.get(f"{part}was_short") == YES,
            "missing_g": number(f"{part}missing_g", "mass") or 0.0,
        }

    casts = log.opened.casts
    planned = casts.plan.parts if casts and casts.plan else ()
    if casts and planned:
        mixed = together(
            [
                ShotPart(part=one.part, resin=material.name if material else "", **amounts(f"{one.part}_"))
                for one in planned
                for material in (casts.picks.of_part(one.part),)
            ]
        )
    else:
        mixed = amounts()
    pieces = []
    for cavity in log.in_use:
        outcome = form.get(f"piece-{cavity}", "")
        if outcome in {"", "none"}:
            continue
        is_good = outcome == "good"
        flaws = () if is_good else tuple(one for one in (outcome,) if one != "flawed")
        pieces.append(
            ShotPiece(
                cavity=cavity,
                is_good=is_good,
                flaws=flaws,
                final_g=number(f"final-{cavity}", "mass"),
                grade=whole_number(form.get(f"grade-{cavity}", ""), most_digits=2),
            )
        )
    return Shot(
        kind=log.opened.job.casts.settled().cast_kind,
        resin=casts.picks.resin.name if casts and casts.picks.resin else words("resin"),
        pieces=tuple(pieces),
        was_partly_filled=form.get("was_partly_filled") == YES,
        **mixed,
        release=words("release"),
        air=words("air", 40),
        attitude=words("attitude"),
        note=words("note", 400),
        who=words("who"),
        mould_c=number("mould_c", "temperature"),
        room_c=number("room_c", "temperature"),
        reason=words("reason", 400),
    )
