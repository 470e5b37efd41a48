"""The terms of the Shelf's forms: every field of a thing can be typed, and its default stands in one place."""

from collections.abc import Mapping
from dataclasses import fields

import pytest

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.resins import Resin
from ufrin.core.casting.shelf_terms import ADDITION_TERMS, RESIN_TERMS
from ufrin.core.inputs.term import Term
from ufrin.core.measures.quantity_kinds import KINDS
from ufrin.core.moulds.terms import MOULD_TERMS, ORDER_TERMS
from ufrin.core.pairing.releases import Product
from ufrin.core.pairing.terms import PRODUCT_TERMS
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.lots import Lot
from ufrin.core.shelf.terms import CONTAINER_TERMS, CUP_TERMS, LOT_TERMS, SCALE_TERMS, THERMOMETER_TERMS

THINGS = {
    "resin": (RESIN_TERMS, Resin),
    "addition": (ADDITION_TERMS, Addition),
    "release": (PRODUCT_TERMS, Product),
    "container": (CONTAINER_TERMS, Container),
    "cup": (CUP_TERMS, Cup),
}
ALL: Mapping[str, Mapping[str, Term]] = {
    **{name: terms for name, (terms, _) in THINGS.items()},
    "scale": SCALE_TERMS,
    "thermometer": THERMOMETER_TERMS,
    "lot": LOT_TERMS,
    "mould": MOULD_TERMS,
    "order": ORDER_TERMS,
}
UNITS = {
    "mm": "length",
    "ml": "volume",
    "g": "mass",
    "min": "time",
    "c": "temperature",
    "pct": "percent",
    "s": "viscosity",
}


@pytest.mark.parametrize("name", THINGS)
def test_every_field_of_a_thing_has_its_term_and_the_same_default(name: str) -> None:
    terms, kind = THINGS[name]
    assert {one.name for one in fields(kind)} == set(terms)
    for one in fields(kind):
        default = terms[one.name].default
        if default is not None:
            assert one.default == default, one.name


@pytest.mark.parametrize("name", ALL)
def test_a_quantity_is_of_the_kind_that_its_name_tells(name: str) -> None:
    for key, term in ALL[name].items():
        assert term.label
        ending = key.rsplit("_", 1)[-1]
        if term.kind in KINDS and ending in UNITS and "_per_" not in key:
            assert term.kind == UNITS[ending], key
        if term.kind == "choice":
            assert term.choices, key
            assert term.default is None or term.default in term.choices, key


def test_what_a_lot_holds_must_be_more_than_nothing() -> None:
    assert LOT_TERMS["got_g"].positive
    assert {"code", "part", "got_g", "price"} <= {one.name for one in fields(Lot)} & set(LOT_TERMS)
