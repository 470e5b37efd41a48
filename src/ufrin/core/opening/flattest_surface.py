"""The flattest surface that stays between two envelopes, coarse to fine."""

import numpy as np
from scipy import ndimage

from ufrin.core.mesh.compiled_loops import relax
from ufrin.core.mesh.triangles import Flags, Floats
from ufrin.core.opening.split_line import OutlineRing

SETTLED = 0.002  # of a cell: movements below it count as settled


def settled_surface(
    lower: Floats,
    upper: Floats,
    rings: list[OutlineRing],
    inside: Flags,
    corner: Floats,
    *,
    cell: float,
    floor: float,
    top: float,
    slack: float,
) -> Floats:
    """Return the flattest surface between the envelopes of a master, pinned to its outline."""
    low, high = np.where(np.isnan(lower), floor, lower - slack), np.where(np.isnan(upper), top, upper + slack)
    for ring in rings:
        x, y = np.floor((ring.points - corner) / cell).astype(np.int64).T
        pin_low, pin_high = np.full(low.shape, -np.inf), np.full(low.shape, np.inf)
        np.maximum.at(pin_low, (x, y), ring.low - slack)
        np.minimum.at(pin_high, (x, y), ring.high + slack)
        crossed = pin_low > pin_high  # the line climbs within the cell
        middle = np.where(crossed, (np.where(crossed, pin_low, 0) + np.where(crossed, pin_high, 0)) / 2, 0)
        pin_low, pin_high = np.where(crossed, middle, pin_low), np.where(crossed, middle, pin_high)
        touched = np.isfinite(pin_low)
        # the exact outline takes precedence over the ray beside it
        low = np.where(touched, np.maximum(np.minimum(pin_low, high), low), low)
        high = np.where(touched, np.minimum(np.maximum(pin_high, low), high), high)
    return _flattest(np.clip(low, floor, top), np.clip(np.maximum(high, low), floor, top), inside, cell * SETTLED)


def _flattest(low: Floats, high: Floats, inside: Flags, enough: float) -> Floats:
    # coarse to fine: each level begins with the result of the coarser one
    if min(low.shape) <= 8:
        guess = np.full(
            low.shape,
            float(
                np.clip(
                    (np.median(low[inside]) + np.median(high[inside])) / 2,
                    low[inside].max(),
                    max(low[inside].max(), high[inside].min()),
                )
            ),
        )
    else:
        coarse_low, coarse_high, coarse_in = (
            _halved(low, inside, np.maximum),
            _halved(high, inside, np.minimum),
            _halved(inside, inside, np.logical_or),
        )
        coarse_high = np.maximum(coarse_high, coarse_low)
        coarse = _flattest(coarse_low, coarse_high, coarse_in.astype(bool), enough)
        where = np.stack(np.meshgrid(*((np.arange(size) - 0.5) / 2 for size in low.shape), indexing="ij"))
        guess = ndimage.map_coordinates(coarse, where, order=1, mode="nearest")
    settled = np.ascontiguousarray(np.clip(guess, low, high))
    longest = max(low.shape)
    over = 2 / (1 + np.sin(np.pi / longest))
    relax(
        settled,
        np.ascontiguousarray(low),
        np.ascontiguousarray(high),
        np.ascontiguousarray(inside),
        min(600, 4 * longest),
        float(over),
        enough,
    )
    return settled


def _halved(values: Floats | Flags, inside: Flags, join: np.ufunc) -> Floats:
    empty = -np.inf if join is np.maximum else np.inf if join is np.minimum else False
    known = np.where(inside, values, empty) if join is not np.logical_or else values
    nx, ny = (-(-size // 2) for size in values.shape)
    padded = np.full((2 * nx, 2 * ny), empty, dtype=known.dtype)
    padded[: values.shape[0], : values.shape[1]] = known
    blocks = padded.reshape(nx, 2, ny, 2)
    made = join.reduce(join.reduce(blocks, axis=3), axis=1)
    return made if join is np.logical_or else np.where(np.isfinite(made), made, 0.0)
