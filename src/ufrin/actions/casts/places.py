"""Where the things of a shot are kept on the Shelf."""

from collections.abc import Mapping

from ufrin.core.inputs.casts import CastInputs


def cast_places(inputs: CastInputs) -> Mapping[str, str]:
    """Return the place of each thing of a shot by its key, such as "resin:3"; empty where none is chosen."""
    chosen = {
        **dict.fromkeys(("A", "B"), ("resin", inputs.resin_id)),
        **dict.fromkeys(("foam A", "foam B"), ("resin", inputs.foam_id)),
        "filler": ("addition", inputs.filler_id),
        "colour": ("addition", inputs.cast_colour_id),
    }
    return {key: f"{kind}:{number}" if number else "" for key, (kind, number) in chosen.items()}
