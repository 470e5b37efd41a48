"""The figures and sentences that are kept as TOML files in the ``data`` folders of the core's packages."""

import tomllib
from importlib.resources import files
from typing import Any


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
        As TOML has it.
    """
    return tomllib.loads(files(f"ufrin.core.{package}").joinpath("data", f"{name}.toml").read_text("utf-8"))
