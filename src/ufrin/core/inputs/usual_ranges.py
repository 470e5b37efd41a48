"""Between which figures an input usually lies, for masters of any size: read from ``data/usual_ranges.toml``."""

from collections.abc import Mapping

from ufrin.core.data_files import read_data

RANGES: Mapping[str, Mapping[str, Mapping[str, float | str]]] = read_data("inputs", "usual_ranges")
Size = tuple[float, float, float]


def usual_range(rule: Mapping[str, float | str], size_mm: Size | None) -> tuple[float, float]:
    """Return between which figures an input usually lies.

    Parameters
    ----------
    rule : mapping
        Of ``data/usual_ranges.toml``.
    size_mm : (float, float, float) or None
        Of the master.

    Returns
    -------
    float, float
        The upper end grows with the master where the rule says so.
    """
    low, high = float(rule["low"]), float(rule["high"])
    if size_mm is None or "of" not in rule:
        return low, high
    size = max(size_mm) if rule["of"] == "longest" else size_mm[2]
    return low, max(high, float(rule["times"]) * size)
