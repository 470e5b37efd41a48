"""A job worked out from little, and a maker's hand that writes the record of a pour."""

from dataclasses import replace

from ufrin.core.clocks.moment import Moment
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.pairing.contacts import Surface
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.bench_state import BenchState, bench_state
from ufrin.core.weighing.record_entries import EntryKind, RecordEntry
from ufrin.core.weighing.record_rules import check_entry
from ufrin.core.weighing.weigh_plan import Ingredient, WeighPlan, in_order

A = Ingredient(key="A", role="A", name="Saltmarsh base", colour="white", g=200.0)
B = Ingredient(key="B", role="B", name="Saltmarsh catalyst", colour="blue", g=20.0)
OIL = Ingredient(key="thinner", role="thinner", name="Ebb thinner", g=22.0)
RED = Ingredient(key="pigment", role="pigment", name="Buoy red", g=2.0)
PLAN = WeighPlan(
    what="the box",
    rubber="Saltmarsh 25",
    b_per_a=0.1,
    tolerance_pct=2.0,
    step_g=0.1,
    sg=1.13,
    need_g=200.0,
    batches=((A, B),),
    cup_ml=400.0,
    pot_life_min=45.0,
    demould_min=960.0,
)
FULL = replace(PLAN, batches=(in_order([RED, B, OIL, A]),) * 2)


def at(seconds: float, *, machine: str = "this", clock_moved_s: float = 0.0) -> Moment:
    return Moment(wall_s=1e9 + seconds + clock_moved_s, steady_s=seconds, machine=machine)


class Hand:
    """Writes a record line by line, as the page would."""

    def __init__(self, plan: WeighPlan = PLAN) -> None:
        self.plan, self.entries, self.seconds = plan, [RecordEntry(number=1, at=at(0), kind="start", temp_c=23.0)], 0.0

    @property
    def state(self) -> BenchState:
        return bench_state(self.plan, self.entries)

    def write(self, kind: EntryKind, net_g: float | None = None, *, sure: bool = False, **more: object) -> BenchState:
        self.seconds += 10
        one = self.state.step.ingredient
        ingredient = more.pop("ingredient", one.key if one and kind in {"hold", "weigh"} else "")
        entry = RecordEntry(
            number=len(self.entries) + 1,
            at=at(self.seconds),
            kind=kind,
            net_g=net_g,
            ingredient=str(ingredient),
            **more,
        )
        check_entry(self.state, entry, sure=sure)
        self.entries.append(entry)
        return self.state

    def weigh(self, net_g: float | None = None, *, sure: bool = True) -> BenchState:
        if self.state.step.kind == "hold":
            self.write("hold")
        return self.write("weigh", self.state.step.target_g if net_g is None else net_g, sure=sure)

    def batch(self, *grams: float | None) -> BenchState:
        self.write("tare")
        for one in grams:
            self.weigh(one)
        return self.state


ADDITION = Rubber(
    name="Tideline 15", weight_a=1, weight_b=1, sg_mixed=1.08, viscosity_mpa_s=9000, pot_life_min=40, demould_min=360
)
URETHANE = replace(ADDITION, name="Bosun 40", family="polyurethane-rubber")
MASTER = MasterInputs(
    length_mm=60, width_mm=40, height_mm=35, mass_g=60, level_before_ml=100.0, level_after_ml=150.0, material="brass"
)
PARTED, OPEN = OpeningInputs(style="two-part"), OpeningInputs(style="open")
BOX, CHECKS, SHOP, POURED = BoxInputs(), CheckInputs(), ShopWays(), RubberInputs()


def worked_out(
    master: MasterInputs = MASTER,
    box: BoxInputs = BOX,
    checks: CheckInputs = CHECKS,
    *,
    rubber: Rubber = ADDITION,
    shop: ShopWays = SHOP,
    opening: OpeningInputs = OPEN,
    others: tuple[Surface, ...] = (),
    poured: RubberInputs = POURED,
) -> Plan:
    beside = JobContext(shelf=ShelfPicks(rubber=rubber), shop=shop, other_surfaces=others)
    return plan(master, box, poured, beside, opening, checked=checks)
