"""What is kept by the form: worked out once for each form and other argument, and once for all who ask together."""

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest

from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form, stand_form
from ufrin.core.master.stand_ins import block
from ufrin.errors import Refused

ONE, OTHER = stand_form(block(60, 40, 35), (0, 0, 1)), stand_form(block(61, 40, 35), (0, 0, 1))


def test_the_same_form_is_worked_out_once_by_its_value() -> None:
    asked: list[tuple[Form, float]] = []

    @kept_by_form(8)
    def thickness(form: Form, at_mm: float, *, fine: bool = False) -> int:
        asked.append((form, at_mm))
        return len(asked)

    assert thickness(ONE, 3.0) == thickness(stand_form(block(60, 40, 35), (0, 0, 1)), 3.0) == 1
    assert thickness(OTHER, 3.0) == 2
    assert thickness(ONE, 4.0) == 3
    assert thickness(ONE, 3.0, fine=True) == 4
    assert thickness(ONE, 3.0) == 1


def test_the_oldest_goes_where_more_are_asked_for_than_are_kept() -> None:
    calls: list[float] = []

    @kept_by_form(2)
    def worked(form: Form, at_mm: float) -> None:
        calls.append(at_mm)

    for at_mm in (1.0, 2.0, 3.0, 3.0, 2.0, 1.0):
        worked(ONE, at_mm)
    assert calls == [1.0, 2.0, 3.0, 1.0]


def test_a_refusal_is_not_kept() -> None:
    tries: list[int] = []

    @kept_by_form(2)
    def fails_at_first(form: Form) -> str:
        tries.append(1)
        if len(tries) == 1:
            raise Refused("file", "no ray meets it")
        return "done"

    with pytest.raises(Refused, match="no ray"):
        fails_at_first(ONE)
    assert fails_at_first(ONE) == "done"


def test_of_several_who_ask_at_once_one_works_it_out() -> None:
    all_here, calls = threading.Barrier(4), []

    @kept_by_form(2)
    def slow(form: Form) -> int:
        calls.append(1)
        for _ in range(1000):
            form.size_mm  # noqa: B018 - long enough for the others to arrive
        return len(calls)

    def ask(_: int) -> int:
        all_here.wait()
        return slow(ONE)

    with ThreadPoolExecutor(4) as pool:
        assert list(pool.map(ask, range(4))) == [1, 1, 1, 1]
