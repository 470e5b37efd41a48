"""The demo's past shots: logged like any other."""

from dataclasses import replace

from ufrin.actions import Database
from ufrin.actions.casts import shots
from ufrin.core.casting.shot_log import Shot, ShotPiece
from ufrin.core.clocks.moment import Moment

RESIN = "Quayside 70"
# job, kind, mixed and left over in g, whether it was short, the cavities that came out flawed, and a note
PAST: tuple[tuple[int, str, float, float, bool, dict[int, str], str], ...] = (
    (6, "solid", 300.0, 62.0, False, {2: "bubbles-all"}, "first shot, mixed by guess"),
    (6, "solid", 240.0, 0.0, True, {3: "not-filled"}, ""),
    (6, "solid", 252.0, 9.4, False, {}, "mould warmed to 35 °C"),
    (6, "solid", 252.0, 11.8, False, {4: "lines"}, ""),
    (6, "solid", 252.0, 8.1, False, {}, ""),
    (7, "filled", 210.0, 31.0, False, {}, "chalk dried overnight"),
    (7, "filled", 185.0, 6.0, False, {}, ""),
)
CAVITIES = {6: 4, 7: 1}
DAY_S = 86_400.0


def cast_before(database: Database, now: Moment) -> None:
    """Log what was cast before the demo begins.

    Parameters
    ----------
    database : Database
        With the demo's jobs.
    now : Moment
        The last shot was two days before it, and each three days after the one before.
    """
    for number, (job_id, kind, mixed_g, left_g, was_short, flaws, note) in enumerate(PAST):
        pieces = tuple(
            ShotPiece(cavity=cavity, is_good=cavity not in flaws, flaws=(flaws[cavity],) if cavity in flaws else ())
            for cavity in range(1, CAVITIES[job_id] + 1)
        )
        shot = Shot(
            kind=kind,
            resin=RESIN,
            mixed_g=mixed_g,
            left_g=left_g,
            was_short=was_short,
            pieces=pieces,
            note=note,
            who="Wren" if number % 2 else "Tamsin",
        )
        days = 2 + 3 * (len(PAST) - 1 - number)
        shots.add(database, job_id, shot, replace(now, wall_s=now.wall_s - days * DAY_S), token=f"demo-{number}")
