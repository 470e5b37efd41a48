"""CSV tables: one line per thing, columns named after its fields.

They are read leniently, and written safely for spreadsheets.
"""

import csv
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from io import StringIO
from typing import Any

from ufrin.core.exchange.typed_values import read_typed
from ufrin.core.inputs.term import Term
from ufrin.errors import Refused

MOST_ROWS, LONGEST_CELL = 2000, 400
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


@dataclass(frozen=True, slots=True, kw_only=True)
class CsvRow:
    """One line that was read: its number in the file, and its values by field, without the empty cells."""

    line: int
    values: Mapping[str, Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class CsvError:
    """What could not be read: the line, the column, and why."""

    line: int
    column: str
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CsvTable:
    """A file as it was read: its good lines, and the errors of the others."""

    rows: tuple[CsvRow, ...]
    wrong: tuple[CsvError, ...]


def safe(text: str) -> str:
    """Keep a spreadsheet from taking a text for a formula: what begins like one gets an apostrophe before it.

    Parameters
    ----------
    text : str
        Of a cell.

    Returns
    -------
    str
        As it is written.

    Examples
    --------
    >>> safe("=1+1"), safe("Saltmarsh")
    ("'=1+1", 'Saltmarsh')
    """
    return (
        f"'{text}"
        if text.startswith(_FORMULA) or (text.startswith("'") and text[1:].startswith((*_FORMULA, "'")))
        else text
    )


def plain(text: str) -> str:
    """Remove the apostrophe that ``safe`` added.

    Parameters
    ----------
    text : str
        Of a cell.

    Returns
    -------
    str
        As it was before.
    """
    return text[1:] if text.startswith("'") and text[1:].startswith((*_FORMULA, "'")) else text


def write(columns: Sequence[str], rows: Sequence[Mapping[str, object]]) -> str:
    """Write a file.

    Parameters
    ----------
    columns : sequence of str
        In their order; the unit of a quantity is in its name.
    rows : sequence of mapping
        The values of each line; None is an empty cell.

    Returns
    -------
    str
        With a header, and line ends as in RFC 4180.
    """
    out = StringIO()
    writer = csv.writer(out)
    writer.writerow(columns)
    for row in rows:
        writer.writerow([_cell(row.get(column)) for column in columns])
    return out.getvalue()


def _cell(value: object) -> str:
    if value is None:
        return ""
    return f"{value:.10g}" if isinstance(value, float) else safe(str(value))


def read(
    text: str, terms: Mapping[str, Term], key: Sequence[str] = ("name",), needed: Sequence[str] = ("name",)
) -> CsvTable:
    """Read a file.

    Parameters
    ----------
    text : str
        With commas or semicolons, and a header that names the columns in any order.
    terms : mapping of column to Term
        The columns that may occur. A bare number is in the unit of the column's name; "45 min" or "2 lb" are read as
        typed anywhere.
    key : sequence of str
        The columns that identify a thing.
    needed : sequence of str
        The columns that every file must have.

    Returns
    -------
    CsvTable
        Empty cells are left out. A name that occurs twice is an error.

    Raises
    ------
    Refused
        When it is no table, has unknown columns, or has more than 2000 lines.
    """
    lines = _lines(text)
    head = [plain(cell.strip()).lower() for cell in lines[0]] if lines else []
    unknown = [column for column in head if column not in terms]
    if unknown or not set(needed) <= set(head) or len(set(head)) != len(head):
        named = (
            f"“{unknown[0][:40]}” is not one of them. "
            if unknown
            else f"“{needed[0]}” is needed. "
            if not set(needed) <= set(head)
            else "One stands there twice. "
        )
        raise Refused("csv", f"The first line must name the columns. {named}They are: {', '.join(terms)}.")
    rows, wrong, seen = [], [], set()
    for number, cells in enumerate(lines[1:], start=2):
        if not any(cell.strip() for cell in cells):
            continue
        values, faults = _row(number, head, cells, terms)
        name = tuple(str(values.get(column, "")).lower() for column in key)
        if not faults and not values.get(key[0]):
            faults = [CsvError(line=number, column=key[0], why="This is needed: it tells one from another.")]
        if not faults and name in seen:
            faults = [CsvError(line=number, column=key[0], why="This stands in the file twice.")]
        seen.add(name)
        wrong += faults
        if not faults:
            rows.append(CsvRow(line=number, values=values))
    return CsvTable(rows=tuple(rows), wrong=tuple(wrong))


def _lines(text: str) -> list[list[str]]:
    text = text.removeprefix("\ufeff")
    first = text.split("\n", 1)[0]
    apart = ";" if first.count(";") > first.count(",") else "\t" if "\t" in first and "," not in first else ","
    if text.count("\n") > MOST_ROWS * 4:
        raise Refused("csv", f"That is more than {MOST_ROWS} lines, so nothing was read. Split the file.")
    try:
        lines = list(csv.reader(StringIO(text, newline=""), delimiter=apart, strict=True))
    except csv.Error as error:
        raise Refused(
            "csv", f"This can't be read as a table: {error}. Save it as CSV with commas, and try again."
        ) from None
    if len(lines) > MOST_ROWS + 1:
        raise Refused("csv", f"That is {len(lines) - 1} lines; {MOST_ROWS} is the most at once. Split the file.")
    return lines


def _row(
    number: int, head: Sequence[str], cells: Sequence[str], terms: Mapping[str, Term]
) -> tuple[dict[str, Any], list[CsvError]]:
    if len(cells) > len(head):
        return {}, [
            CsvError(
                line=number,
                column="",
                why=f"It has {len(cells)} cells, and the head has {len(head)} columns. A comma in a text must "
                "stand in quotes.",
            )
        ]
    values, wrong = {}, []
    for column, cell in zip(head, cells, strict=False):
        if not cell.strip():
            continue
        try:
            values[column] = _value(column, terms[column], plain(cell.strip()))
        except Refused as refused:
            wrong.append(CsvError(line=number, column=column, why=str(refused)))
    return values, wrong


def _value(column: str, term: Term, text: str) -> object:
    if len(text) > LONGEST_CELL:
        raise Refused(column, f"That is {len(text)} characters; {LONGEST_CELL} is the most.")
    return read_typed(column, term, text, lists_choices=True)
