"""All quick sums, in the order of the work."""

from collections.abc import Mapping

from ufrin.core.quick_sums.box_sums import BOX, GRAMS, POT
from ufrin.core.quick_sums.cast_sums import CAST, COST, FILLER, SHELL
from ufrin.core.quick_sums.hardness_sums import BLEND, HARDNESS
from ufrin.core.quick_sums.mixing_sums import MEND, MIX, WEIGHT
from ufrin.core.quick_sums.quick_sum import QuickSum
from ufrin.core.quick_sums.time_sums import BUBBLES, CLOCK, CURE

SUMS: Mapping[str, QuickSum] = {
    one.key: one
    for one in (GRAMS, MIX, MEND, WEIGHT, BOX, POT, HARDNESS, BLEND, BUBBLES, CURE, CLOCK, CAST, SHELL, FILLER, COST)
}
