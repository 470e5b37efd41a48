"""The Shelf as CSV: written out, and read in after a look at what would change."""

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any, Literal

from ufrin.actions.shelf import lots as lot_actions
from ufrin.core.exchange.csv_table import CsvError, read, write
from ufrin.core.inputs.term import Term
from ufrin.core.shelf.lots import Part
from ufrin.core.shelf.terms import LOT_TERMS
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import lots
from ufrin.store.connection import Connection, Database
from ufrin.store.lots import StoredLot
from ufrin.store.shelf import ADDITIONS, ADDITIVES, RESINS, RUBBERS, ShelfTable, Stored

What = Literal["new", "changed", "same"]
# a lot's line names its thing first; what is left is beside what came
LOT_COLUMNS: Mapping[str, Term] = {
    "of": Term(label=Text("Of"), kind="text"),
    **LOT_TERMS,
    "left_g": Term(label=Text("Left"), kind="mass"),
}
LOT_KEY = ("of", "part", "code")


@dataclass(frozen=True, slots=True, kw_only=True)
class CsvChange:
    """The effect of a line of a file: on which thing, and each field's value before and after."""

    line: int
    name: str
    what: What
    fields: tuple[tuple[str, object, object], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class CsvPreview:
    """The effect of a file on the Shelf."""

    changes: tuple[CsvChange, ...]
    wrong: tuple[CsvError, ...]

    @property
    def counts(self) -> Mapping[What, int]:
        """How many lines are new, changed, and the same."""
        kinds: tuple[What, ...] = ("new", "changed", "same")
        return {what: sum(change.what == what for change in self.changes) for what in kinds}


def things_csv(database: Database, table: ShelfTable[Any]) -> str:
    """Write the things of one kind."""
    columns = [f.name for f in fields(table.kind)]
    with database.reading() as connection:
        kept = [one.thing for one in table.all(connection) if not one.retired_at]
    return write(columns, [{column: getattr(thing, column) for column in columns} for thing in kept])


def lots_csv(database: Database) -> str:
    """Write every lot."""
    with database.reading() as connection:
        rows = [_lot_row(one) for one in lots.every(connection)]
    return write(list(LOT_COLUMNS), rows)


def _lot_row(one: StoredLot) -> dict[str, object]:
    same = {key: getattr(one.lot, key) for key in ("code", "part", "got_g", "left_g", "price")}
    return {"of": one.name, **same, "use_by": one.use_by, "opened_on": one.opened_on}


def things_in(
    database: Database, table: ShelfTable[Any], terms: Mapping[str, Term], text: str, *, keep: bool
) -> CsvPreview:
    """Read a file of things, and keep it if that is wanted.

    A thing is identified by its name; an empty cell leaves a figure as it is.
    """
    taken = read(text, terms)
    with database.transaction() as connection:
        known = {kept.thing.name.lower(): kept for kept in table.all(connection)}
        changes, wrong, ready = [], list(taken.wrong), []
        for row in taken.rows:
            try:
                change, thing = _compared(
                    table, terms, known.get(str(row.values["name"]).lower()), row.values, row.line
                )
            except Refused as refused:
                wrong.append(CsvError(line=row.line, column=refused.field, why=str(refused)))
                continue
            changes.append(change)
            ready.append((change, known.get(str(row.values["name"]).lower()), thing))
        if keep and not wrong:
            for change, kept, thing in ready:
                if change.what == "new":
                    table.add(connection, thing)
                elif change.what == "changed" and kept:
                    table.change(connection, kept.id, thing)
    return CsvPreview(changes=tuple(changes), wrong=tuple(sorted(wrong, key=lambda one: one.line)))


def _compared(
    table: ShelfTable[Any], terms: Mapping[str, Term], kept: Stored[Any] | None, values: Mapping[str, Any], line: int
) -> tuple[CsvChange, Any]:
    if kept is None:
        filled = {key: term.default for key, term in terms.items() if term.default is not None} | dict(values)
        thing = table.kind(**filled)
        return CsvChange(
            line=line,
            name=thing.name,
            what="new",
            fields=tuple((key, None, value) for key, value in values.items() if key != "name"),
        ), thing
    differing = {
        key: value for key, value in values.items() if _differs(getattr(kept.thing, key), value) and key != "name"
    }
    thing = replace(kept.thing, **differing)
    changed = tuple((key, getattr(kept.thing, key), value) for key, value in differing.items())
    return CsvChange(line=line, name=kept.thing.name, what="changed" if differing else "same", fields=changed), thing


def _differs(kept: object, values: object) -> bool:
    # a figure that was written with ten digits is read back as the same figure
    if isinstance(kept, float) and isinstance(values, float):
        return abs(kept - values) > 1e-9 * max(abs(kept), abs(values))
    return kept != values


def lots_in(database: Database, text: str, *, keep: bool) -> CsvPreview:
    """Read a file of lots, and keep it if that is wanted. A lot is identified by its thing, part and code."""
    taken = read(text, LOT_COLUMNS, LOT_KEY, needed=("of", "code"))
    with database.transaction() as connection:
        places = {
            kept.thing.name.lower(): (table, kept)
            for table in (ADDITIONS, RESINS, ADDITIVES, RUBBERS)
            for kept in table.all(connection)
        }
        known = {(one.name.lower(), one.lot.part, one.lot.code.lower()): one for one in lots.every(connection)}
        changes, wrong = [], list(taken.wrong)
        for row in taken.rows:
            try:
                changes.append(_lot_compared(places, known, row.values, row.line))
            except Refused as refused:
                wrong.append(CsvError(line=row.line, column=refused.field, why=str(refused)))
        if keep and not wrong:
            for change, row in zip(changes, taken.rows, strict=True):
                _keep_lot(connection, places, known, change, row.values)
    return CsvPreview(changes=tuple(changes), wrong=tuple(sorted(wrong, key=lambda one: one.line)))


Places = Mapping[str, tuple[ShelfTable[Any], Stored[Any]]]
Known = Mapping[tuple[str, Part, str], StoredLot]


def _known(known: Known, values: Mapping[str, Any]) -> StoredLot | None:
    part: Part = values.get("part") or "all"
    return known.get((str(values["of"]).lower(), part, str(values["code"]).lower()))


def _lot_compared(places: Places, known: Known, values: Mapping[str, Any], line: int) -> CsvChange:
    if str(values["of"]).lower() not in places:
        raise Refused("of", Text("“{of}” is not on the Shelf. Put it there first.", of=values["of"]))
    table, kept = places[str(values["of"]).lower()]
    if "code" not in values:
        raise Refused("code", Text("A lot has a code. A date will do where there is none."))
    if table in (ADDITIVES, ADDITIONS) and values.get("part") not in {None, "all"}:
        raise Refused("part", Text("Only rubbers and casting materials have a part A and a part B."))
    for key in ("use_by", "opened_on"):
        lot_actions.read_date(key, values.get(key))
    name, one = f"{kept.thing.name} {values['code']}", _known(known, values)
    words = [key for key in ("got_g", "left_g", "price", "use_by", "opened_on") if key in values]
    if one is None:
        if not values.get("got_g"):
            raise Refused("got_g", Text("How much came? A new lot needs it."))
        return CsvChange(line=line, name=name, what="new", fields=tuple((key, None, values[key]) for key in words))
    before = _lot_row(one)
    changed = tuple(
        (key, before[key], values[key])
        for key in words
        if _differs(before[key], values[key]) and str(before[key]) != str(values[key])
    )
    return CsvChange(line=line, name=name, what="changed" if changed else "same", fields=changed)


def _keep_lot(
    connection: Connection, places: Places, known: Known, change: CsvChange, values: Mapping[str, Any]
) -> None:
    if change.what == "new":
        lot_actions.enter(connection, *places[str(values["of"]).lower()], values)
    elif change.what == "changed" and (one := _known(known, values)):
        lot_actions.rewrite(
            connection, one, {key: after for key, _, after in change.fields}, why=Text("counted again, by a file")
        )
