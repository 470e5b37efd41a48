"""Layers: a cast poured in steps from the bottom up, and things that are set in between them."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ufrin.errors import Refused
from ufrin.language import Text

MOST_LAYERS = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class CastLayer:
    """One layer: its number from the bottom, from what height to what, and the volume that is poured for it."""

    number: int
    from_mm: float
    to_mm: float
    volume_ml: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SetIn:
    """Something set into a cast.

    Parameters
    ----------
    volume_ml, mass_g : float
        Its own.
    after_layer : int
        It is laid on this layer, and the next one covers it.
    """

    volume_ml: float
    mass_g: float
    after_layer: int

    def lift_g(self, sg: float) -> float:
        """Return how strongly it floats up in a liquid.

        Parameters
        ----------
        sg : float
            Of what is poured over it.

        Returns
        -------
        float
            Grams-force: what holds it down must weigh more; negative where it sinks (Archimedes).
        """
        return sg * self.volume_ml - self.mass_g


def cast_layers(
    height_mm: float, shares: Sequence[float], below_ml: Callable[[float], float], set_in: SetIn | None = None
) -> tuple[CastLayer, ...]:
    """Divide a cavity into layers.

    Parameters
    ----------
    height_mm : float
        Of the cavity as it is held.
    shares : sequence of float
        Of its height, from the bottom, in any measure: 1, 1, 2 are a quarter, a quarter and a half.
    below_ml : callable
        Volume of the cavity below a height.
    set_in : SetIn or None, optional
        The layer above it is smaller by what it displaces.

    Returns
    -------
    tuple of CastLayer
        Their volumes, with what is set in, add up to the cavity.

    Raises
    ------
    Refused
        For no layers, too many, or something set in that is larger than its layer.
    """
    if not 1 <= len(shares) <= MOST_LAYERS or not all(share > 0 for share in shares):
        raise Refused(
            "layers",
            Text(
                "Type the share of each layer from the bottom, such as 30, 40, 30; at most {most_layers}.",
                most_layers=MOST_LAYERS,
            ),
        )
    if set_in is not None and not 1 <= set_in.after_layer < len(shares):
        raise Refused(
            "set_in_after",
            Text("What is set in lies on one layer and is covered by the next: choose a layer below the top."),
        )
    whole, at_mm, below_it_ml, layers = sum(shares), 0.0, 0.0, list[CastLayer]()
    for number, share in enumerate(shares, 1):
        to_mm = height_mm if number == len(shares) else at_mm + height_mm * share / whole
        up_to_ml = below_ml(to_mm)
        volume_ml = up_to_ml - below_it_ml
        if set_in is not None and number == set_in.after_layer + 1:
            volume_ml -= set_in.volume_ml
            if not volume_ml > 0:
                raise Refused(
                    "set_in_ml",
                    Text("What is set in takes up more than the layer that is to cover it. Make that layer higher."),
                )
        layers.append(CastLayer(number=number, from_mm=at_mm, to_mm=to_mm, volume_ml=volume_ml))
        at_mm, below_it_ml = to_mm, up_to_ml
    return tuple(layers)
