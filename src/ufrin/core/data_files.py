"""The figures and sentences that are kept as TOML files in the ``data`` folders of the core's packages."""

import tomllib
from importlib.resources import files
from typing import Any

from ufrin.language import Text

# what a file keeps under these names is looked up or computed with, never shown, and the same in every language
NOT_SHOWN = frozenset(
    {
        *("of", "finish", "surface", "when", "pour", "touches", "between", "verdict", "remedy", "deed", "key", "scale"),
        *("level", "source", "kind", "style", "role", "test_of", "renews"),
    }
)


def read_data(package: str, name: str) -> dict[str, Any]:
    """Read a data file of a package of the core.

    Parameters
    ----------
    package : str
        Such as "materials".
    name : str
        Of the file in its ``data`` folder, without its ending.

    Returns
    -------
    dict
        As TOML has it; strings that are shown are texts, for any language.
    """
    read = tomllib.loads(files(f"ufrin.core.{package}").joinpath("data", f"{name}.toml").read_text("utf-8"))
    return {key: _with_texts(value, key) for key, value in read.items()}


def _with_texts(value: object, key: str) -> object:
    if isinstance(value, dict):
        return {name: _with_texts(within, name) for name, within in value.items()}
    if isinstance(value, list):
        return [_with_texts(within, key) for within in value]
    return Text(value) if isinstance(value, str) and key not in NOT_SHOWN else value
