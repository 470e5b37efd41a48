"""Surface finish: what the master's finish, and the layers on it, do to the mould and the cast.

All of it is common practice.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.core.materials.kinds import NOTHING_BETWEEN, PUT_ON
from ufrin.core.wording.findings import Finding
from ufrin.language import Text

FINISHES: Mapping[str, str] = {"shiny": Text("shiny"), "satin": Text("satin"), "matt": Text("matt")}
WANTED: Mapping[str, str] = {**FINISHES, "painted": Text("to be painted")}
PAINT_SPOILERS = ("silicone-release",)
WASHES = ("wax", "petroleum-jelly", "silicone-free-release")


@dataclass(frozen=True, slots=True, kw_only=True)
class Finish:
    """How the cast will look.

    Parameters
    ----------
    mould, cast : str
        One of ``FINISHES``; empty where the master's finish was not filled in.
    sentences : tuple of str
        The reasons, step by step.
    """

    mould: str
    cast: str
    sentences: tuple[str, ...]


def finish_of(master: str, on_master: Sequence[str], on_mould: Sequence[str], release_finish: str = "") -> Finish:
    """Follow a finish from the master to the cast.

    Parameters
    ----------
    master : str
        One of ``FINISHES``; empty where it was not filled in.
    on_master, on_mould : sequence of str
        What lies between master and rubber, and between mould and cast.
    release_finish : str, optional
        The finish of the shop's own release, where one is chosen.

    Returns
    -------
    Finish
        With its reasons.
    """
    sentences = []
    mould = master
    films = [PUT_ON[key] for key in on_master if key != NOTHING_BETWEEN]
    if films:
        mould = films[-1].finish
        sentences.append(
            Text(
                "The mould copies what lies on the master, not the master: {label} makes it {mould}.",
                label=films[-1].label,
                mould=FINISHES[mould],
            )
        )
    elif master:
        sentences.append(Text("A {master} master makes a {master} mould.", master=FINISHES[master]))
    else:
        sentences.append(
            Text(
                "The finish of the master is not known: a shiny one makes a shiny mould and a shiny "
                "cast, a matt one a matt cast."
            )
        )
    cast = mould
    over = [PUT_ON[key] for key in on_mould if key != NOTHING_BETWEEN]
    left = release_finish or (over[-1].finish if over else "")
    if left and left != "shiny":
        cast = left
        sentences.append(
            Text("What is put in the mould leaves its own finish on the cast: {left}.", left=FINISHES[left])
        )
    elif cast:
        sentences.append(
            Text("The cast comes out {cast}, every scratch and fingerprint of the master with it.", cast=FINISHES[cast])
        )
    return Finish(mould=mould, cast=cast, sentences=tuple(sentences))


def finish_findings(made: Finish, wanted: str, on_mould: Sequence[str]) -> tuple[Finding, ...]:
    """Compare the finish with the one that is wanted.

    Parameters
    ----------
    made : Finish
        As it will be.
    wanted : str
        One of ``WANTED``; empty where it was not filled in.
    on_mould : sequence of str
        What lies between mould and cast.

    Returns
    -------
    tuple of Finding
        ``finish-differs``, ``paint-spoilt``, ``paint-wash``, or none.
    """
    if wanted == "painted":
        spoilers = [key for key in on_mould if key in PAINT_SPOILERS]
        if spoilers:
            return (Finding(code="paint-spoilt", facts={"what": PUT_ON[spoilers[0]].label}, field="between_cast"),)
        washes = [key for key in on_mould if key in WASHES]
        return (
            (Finding(code="paint-wash", facts={"what": PUT_ON[washes[0]].label}, field="between_cast"),)
            if washes
            else ()
        )
    if not wanted or not made.cast or wanted == made.cast:
        return ()
    cure = {
        "shiny": Text("Polish the master, or give it a clear coat, and leave matt releases away."),
        "satin": Text("Rub the master down evenly, or take a release that leaves satin."),
        "matt": Text("Give the master a matt coat, or dust the mould with talc before each cast."),
    }[wanted]
    facts = {"cast": FINISHES[made.cast], "wanted": FINISHES[wanted], "cure": cure}
    return (Finding(code="finish-differs", facts=facts, field="cast_finish"),)
