"""Keys: domes on the flange of a two-part mould that let its halves go together one way only."""

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import MultiPoint, Point, Polygon

from ufrin.core.opening.parting_surface import PartingSurface
from ufrin.core.wording.findings import Amount, Finding

# common practice: a third to a half of the flange wide, and never tiny
SHARE, LEAST_MM, MOST_MM = 0.5, 4.0, 16.0
FIRST_LARGER = 1.35  # how much larger the first key is, so that every turn of the mould shows
EDGE_MM = 2.0  # between a key and everything that it must stay clear of
ALIKE_MM = 1.0  # keys that agree within it fit into each other's holes
MOST_KEYS, LEAST_KEYS = 12, 3
GRID = 41


@dataclass(frozen=True, slots=True, kw_only=True)
class Key:
    """A key: its middle in plan and its diameter; its height is half of that."""

    x_mm: float
    y_mm: float
    diameter_mm: float

    @property
    def disc(self) -> Polygon:
        """In plan."""
        return Point(self.x_mm, self.y_mm).buffer(self.diameter_mm / 2)


def flange(inside: Polygon, seen: shapely.Geometry, bores_mm: tuple[tuple[float, float], ...] = ()) -> shapely.Geometry:
    """Return the part of a parting surface that is free for keys.

    Parameters
    ----------
    inside : Polygon
        The box.
    seen : Geometry
        The masters' shadow.
    bores_mm : tuple of (x, y), optional
        Gate and vents that cross the flange.

    Returns
    -------
    Geometry
        The box without the masters, holes through them closed: a key there would stand inside the cast.
    """
    closed = shapely.union_all(
        [Polygon(part.exterior) for part in shapely.get_parts(seen) if part.geom_type == "Polygon"]
    )
    free = inside.difference(closed.buffer(EDGE_MM))
    return free.difference(MultiPoint(bores_mm).buffer(EDGE_MM * 2)) if bores_mm else free


def key_size_mm(inside: Polygon, seen: shapely.Geometry) -> float:
    """Return the usual diameter of keys for a flange.

    Parameters
    ----------
    inside, seen : Polygon, Geometry
        The box, and the masters' shadow.

    Returns
    -------
    float
        From the room beside the masters.
    """
    left, near, right, far = inside.bounds
    west, south, east, north = seen.bounds
    clear_mm = min(west - left, south - near, right - east, far - north)
    return float(np.clip(SHARE * clear_mm, LEAST_MM, MOST_MM))


def place_keys(free: shapely.Geometry, inside: Polygon, diameter_mm: float, number: int = 4) -> tuple[Key, ...]:
    """Place keys on a flange, far from each other, the first one larger.

    Parameters
    ----------
    free : Geometry
        As ``flange`` gives it.
    inside : Polygon
        The box.
    diameter_mm : float
        Of all but the first.
    number : int, optional
        How many to look for.

    Returns
    -------
    tuple of Key
        Fewer where there is no room for more.
    """
    room = free.intersection(inside.buffer(-EDGE_MM)).buffer(-diameter_mm / 2)
    large = free.intersection(inside.buffer(-EDGE_MM)).buffer(-diameter_mm * FIRST_LARGER / 2)
    if room.is_empty:
        return ()
    points = _grid(room)
    first = _grid(large) if not large.is_empty else points
    middle = np.array(inside.centroid.coords[0])
    # unequal: the first goes to a corner, the second not quite opposite
    chosen = [first[int(np.argmax(np.linalg.norm(first - middle, axis=1) + 1e-3 * first[:, 0]))]]
    while len(chosen) < number:
        away = np.min([np.linalg.norm(points - one, axis=1) for one in chosen], axis=0)
        best = points[int(np.argmax(away))]
        if float(away.max()) < 2.2 * diameter_mm:
            break
        chosen.append(best)
    size = diameter_mm * FIRST_LARGER if not large.is_empty else diameter_mm
    made = [Key(x_mm=float(chosen[0][0]), y_mm=float(chosen[0][1]), diameter_mm=size)]
    made += [Key(x_mm=float(x), y_mm=float(y), diameter_mm=diameter_mm) for x, y in chosen[1:]]
    return tuple(made)


def _grid(room: shapely.Geometry) -> np.ndarray:
    west, south, east, north = room.bounds
    xs, ys = np.meshgrid(np.linspace(west, east, GRID), np.linspace(south, north, GRID), indexing="ij")
    own = shapely.intersects_xy(room, xs.ravel(), ys.ravel())
    points = np.column_stack([xs.ravel(), ys.ravel()])[own]
    return points if len(points) else np.array([room.representative_point().coords[0]])


def other_ways(keys: tuple[Key, ...], inside: Polygon) -> tuple[float, ...]:
    """Find the turns by which halves would go together wrongly.

    Parameters
    ----------
    keys : tuple of Key
        Of one half.
    inside : Polygon
        The box: halves turned so that their outsides do not match can't be confused.

    Returns
    -------
    tuple of float
        Degrees; empty when they go together one way only.
    """
    middle = inside.centroid
    turns = {90.0, 180.0, 270.0}
    if _is_round(inside):
        at = [np.degrees(np.arctan2(key.y_mm - middle.y, key.x_mm - middle.x)) for key in keys]
        turns |= {round(float((b - a) % 360), 3) for a in at for b in at if abs((b - a) % 360) > 1e-6}
    found = []
    for turn in sorted(turns):
        if affinity.rotate(inside, turn, origin=middle).symmetric_difference(inside).area > 0.02 * inside.area:
            continue
        turned = [(affinity.rotate(Point(key.x_mm, key.y_mm), turn, origin=middle), key.diameter_mm) for key in keys]
        if all(
            any(
                point.distance(Point(key.x_mm, key.y_mm)) < ALIKE_MM and abs(size - key.diameter_mm) < ALIKE_MM
                for key in keys
            )
            for point, size in turned
        ):
            found.append(turn)
    return tuple(found)


def _is_round(inside: Polygon) -> bool:
    return bool(inside.area / shapely.minimum_bounding_circle(inside).area > 0.97)


def check_keys(
    keys: tuple[Key, ...], inside: Polygon, free: shapely.Geometry, parted: PartingSurface
) -> tuple[Finding, ...]:
    """Check keys, wherever they were placed.

    Parameters
    ----------
    keys : tuple of Key
        Of one half.
    inside, free : Polygon, Geometry
        The box, and the flange.
    parted : PartingSurface
        The surface that they stand on.

    Returns
    -------
    tuple of Finding
        Too few, in the way of something, over an edge, on a slope, or alike.
    """
    found = []
    if len(keys) < LEAST_KEYS:
        found.append(Finding(code="keys-too-few", facts={"keys": str(len(keys))}, field="keys"))
    for number, key in enumerate(keys, 1):
        if not inside.buffer(-EDGE_MM + 1e-6).covers(key.disc):
            found.append(Finding(code="key-at-edge", facts={"key": str(number)}, field="keys"))
        elif not free.buffer(1e-6).covers(key.disc):
            found.append(
                Finding(
                    code="key-in-the-way", facts={"key": str(number), "clear": Amount(EDGE_MM, "length")}, field="keys"
                )
            )
        elif _slope_deg(parted, key) > 40:
            found.append(Finding(code="key-on-slope", facts={"key": str(number)}, field="keys"))
    pairs = [(a, b) for i, a in enumerate(keys) for b in keys[:i]]
    if any(
        np.hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm) < (a.diameter_mm + b.diameter_mm) / 2 + EDGE_MM for a, b in pairs
    ):
        found.append(Finding(code="keys-touch", field="keys"))
    if len(keys) >= LEAST_KEYS and (turns := other_ways(keys, inside)):
        found.append(Finding(code="keys-alike", facts={"turn": f"{turns[0]:.0f}"}, field="keys"))
    return tuple(found)


def _slope_deg(parted: PartingSurface, key: Key) -> float:
    turn = np.arange(8) * np.pi / 4
    rim = np.column_stack(
        [key.x_mm + np.cos(turn) * key.diameter_mm / 2, key.y_mm + np.sin(turn) * key.diameter_mm / 2]
    )
    heights = parted.at(rim)
    return float(np.degrees(np.arctan((heights.max() - heights.min()) / key.diameter_mm)))
