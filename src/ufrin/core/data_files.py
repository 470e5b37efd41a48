"""The figures and sentences that are kept as TOML files in the ``data`` folders of the core's packages."""

import tomllib
from importlib.resources import files
from typing import Any

from ufrin.language import Text


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
        As TOML has it; strings can be shown in another language.
    """
    read = tomllib.loads(files(f"ufrin.core.{package}").joinpath("data", f"{name}.toml").read_text("utf-8"))
    return {key: _with_texts(value) for key, value in read.items()}


def _with_texts(value: object) -> object:
    if isinstance(value, dict):
        return {key: _with_texts(within) for key, within in value.items()}
    if isinstance(value, list):
        return [_with_texts(within) for within in value]
    return Text(value) if isinstance(value, str) else value
