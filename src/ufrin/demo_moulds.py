"""The demo's older moulds: used, worn, retired and lost, a rigid master mould, and an order that is under way."""

from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta
from io import BytesIO

from PIL import Image, ImageDraw

from ufrin.actions import Database, MouldDetails
from ufrin.actions.bench.photos import made_small
from ufrin.actions.casts import shots
from ufrin.actions.job import stations
from ufrin.actions.moulds import cards, orders
from ufrin.core.casting.shot_log import Shot, ShotPiece
from ufrin.core.clocks.moment import Moment

DAY_S = 86_400.0
RESIN = "Quayside 70"


@dataclass(frozen=True, slots=True, kw_only=True)
class OldMould:
    """A mould that was made before the demo begins.

    Parameters
    ----------
    name, family : str
        Its name, and what it is of.
    cavity_ml, cavities, is_parted : float, int, bool
        What one cavity holds, how many there are, and whether it opens in two parts.
    mixed_g, shots : float, int
        What a shot takes, and how many were made.
    made_days : int
        Days before the demo begins.
    card : MouldDetails
        As it is filled in; the day is set from ``made_days``.
    worn : tuple of (cavity, cause, shots)
        Cavities that were retired, and after how many shots.
    cause : str
        Why the whole mould was retired; empty while it is used.
    sign : str
        What was seen of its wear.
    """

    name: str
    family: str
    cavity_ml: float
    mixed_g: float
    shots: int
    made_days: int
    cavities: int = 1
    is_parted: bool = False
    card: MouldDetails
    worn: tuple[tuple[int, str, int], ...] = ()
    cause: str = ""
    sign: str = ""


_ANY_DAY = date(2026, 1, 1)
OLD: tuple[OldMould, ...] = (
    OldMould(
        name="Mooring ring, three at once",
        family="condensation-silicone",
        cavity_ml=42.0,
        mixed_g=150.0,
        shots=22,
        made_days=140,
        cavities=3,
        is_parted=True,
        card=MouldDetails(
            made_on=_ANY_DAY, place="Rack 2, upper shelf", release_every=6, clean_every=15, buy_price=11.0
        ),
        worn=((2, "torn", 19),),
        sign="edge",
    ),
    OldMould(
        name="Rope cleat",
        family="addition-silicone",
        cavity_ml=65.0,
        mixed_g=76.0,
        shots=31,
        made_days=220,
        card=MouldDetails(made_on=_ANY_DAY, place="Crate of old moulds"),
        cause="colour",
    ),
    OldMould(
        name="Harbour seal badge",
        family="addition-silicone",
        cavity_ml=18.0,
        mixed_g=84.0,
        shots=8,
        made_days=35,
        cavities=4,
        card=MouldDetails(
            made_on=_ANY_DAY,
            place="Rack 1",
            detail="easy",
            is_released=True,
            release_every=1,
            master_cost=45.0,
            mould_cost=26.0,
            buy_price=1.9,
        ),
    ),
    OldMould(
        name="Lamp finial, first mould",
        family="addition-silicone",
        cavity_ml=66.0,
        mixed_g=77.0,
        shots=24,
        made_days=260,
        card=MouldDetails(made_on=_ANY_DAY),
        cause="torn",
    ),
    OldMould(
        name="Cork float tally",
        family="addition-silicone",
        cavity_ml=12.0,
        mixed_g=16.0,
        shots=12,
        made_days=180,
        card=MouldDetails(made_on=_ANY_DAY),
        cause="lost",
    ),
    OldMould(
        name="Ammonite, master mould of two halves",
        family="polyurethane-resin",
        cavity_ml=210.0,
        mixed_g=262.0,
        shots=3,
        made_days=90,
        cavities=2,
        card=MouldDetails(
            made_on=_ANY_DAY,
            place="Rack 3",
            only_family="addition-silicone",
            parts=2,
            half_amounts="lower half 260 g, upper half 240 g",
            finish="satin",
        ),
    ),
)
MASTER_MOULD, FROM_JOB = "Ammonite, master mould of two halves", 9


def moulds_before(database: Database, now: Moment, resin_id: int) -> None:
    """Enter the older moulds with their shots, and the order that is under way.

    Parameters
    ----------
    database : Database
        With the demo's jobs and Shelf.
    now : Moment
        When the demo begins.
    resin_id : int
        What is cast in them.
    """
    today = datetime.fromtimestamp(now.wall_s, UTC).date()
    for one in OLD:
        number = _enter(database, one, now, resin_id)
        if one.name == "Harbour seal badge":
            card = cards.look(database, number)
            wish = replace(
                orders.usual_wish(card),
                pieces=90,
                start_day=(today - timedelta(days=30)).toordinal(),
                due_day=(today + timedelta(days=18)).toordinal(),
            )
            orders.keep(database, number, "Badges for the spring opening", wish)


def _drawn_badge() -> bytes:
    # no photograph: a badge with a seal's head, drawn
    picture = Image.new("RGB", (480, 360), "#cfd6d2")
    pen = ImageDraw.Draw(picture)
    pen.ellipse((90, 30, 390, 330), fill="#8f9a96", outline="#5c6663", width=6)
    pen.ellipse((170, 110, 310, 260), fill="#727d79")
    for x in (212, 268):
        pen.ellipse((x - 11, 158, x + 11, 180), fill="#2b3230")
    pen.ellipse((222, 200, 258, 224), fill="#3b4341")
    for y in (214, 224, 234):
        pen.line((150, y, 215, 216), fill="#454e4b", width=2)
        pen.line((265, 216, 330, y), fill="#454e4b", width=2)
    kept = BytesIO()
    picture.save(kept, "PNG")
    return kept.getvalue()


def _enter(database: Database, one: OldMould, now: Moment, resin_id: int) -> int:
    today = datetime.fromtimestamp(now.wall_s, UTC).date()
    made_s = now.wall_s - one.made_days * DAY_S
    job_id = stations.start_mould(
        database,
        one.name,
        {
            "mould_family": one.family,
            "mould_parts": "two" if one.is_parted else "one",
            "mould_cavities": float(one.cavities),
            "cavity_ml": one.cavity_ml,
        },
        at_s=made_s,
    )
    number = cards.number_of(database, job_id)
    gone = {cavity: after for cavity, _, after in one.worn}
    for place in range(one.shots):
        at_s = made_s + (place + 1) * (one.made_days - 3) / one.shots * DAY_S
        pieces = tuple(
            # now and then a piece is flawed, more often near the end
            ShotPiece(cavity=cavity, is_good=(place * 7 + cavity * 3) % 23 > place // 12)
            for cavity in range(1, one.cavities + 1)
            if place < gone.get(cavity, one.shots)
        )
        shot = Shot(
            kind="solid",
            resin=RESIN if not one.card.only_family else "Mudflat Soft",
            mixed_g=round(one.mixed_g * (1 + 0.02 * (place % 3)), 1),
            left_g=round(one.mixed_g * 0.03, 1),
            pieces=pieces,
            release="powder" if one.card.is_released else "",
            who="Wren" if place % 2 else "Tamsin",
        )
        shots.add(database, job_id, shot, replace(now, wall_s=at_s), token=f"demo-{place}")
    if one.name == "Harbour seal badge":
        newest = shots.of_job(database, job_id, now).shots[0]
        shots.keep_photo(database, job_id, newest.id, *made_small(_drawn_badge()))
    # the material is chosen once the past is logged: those shots emptied no tin that stands on the Shelf now
    if not one.card.only_family:
        stations.fill_in(database, job_id, {"casts": {"resin_id": resin_id}})
    details = replace(one.card, made_on=today - timedelta(days=one.made_days))
    if one.name == MASTER_MOULD:
        details = replace(details, parent_id=cards.number_of(database, FROM_JOB))
    cards.save(database, number, details, version=1)
    for cavity, cause, _ in one.worn:
        cards.retire(database, number, cavities=[cavity], cause=cause, why="")
    if one.sign:
        cards.note_sign(database, number, sign=one.sign, cavity=1, note="")
    if one.cause:
        cards.retire(database, number, cavities=(), cause=one.cause, why="", at_s=now.wall_s - 3 * DAY_S)
    return number
