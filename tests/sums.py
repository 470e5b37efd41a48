"""A quick sum worked out from what is typed, and its rows and sentence as they are shown."""

from ufrin.core.measures.display import say_amounts
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.quick_sums.quick_sum import SumAnswer, SumInputs
from ufrin.core.wording.findings import Amount


def worked(key: str, **typed: object) -> SumAnswer:
    return SUMS[key].work(SumInputs(terms=SUMS[key].terms, typed=typed))


def rows(made: SumAnswer) -> dict[str, float | str]:
    return {str(name): value.value if isinstance(value, Amount) else str(value) for name, value in made.rows}


def said(made: SumAnswer) -> str:
    return say_amounts(str(made.sentence))
