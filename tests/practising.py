"""A maker who practises: does what the bench asks, and reacts to the mishaps that are listed."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from ufrin.core.practice.levels import LEVELS, SPEED, LevelKey, Mishap, MishapKind
from ufrin.core.practice.practice_lines import Act, PracticeLine, PracticeSetup, moment
from ufrin.core.practice.practice_plan import practice_plan
from ufrin.core.practice.practice_replay import first_entry, practice_table, weighed_again
from ufrin.core.practice.practice_table import PracticeTable
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.record_rules import check_entry

TIDELINE = Rubber(
    name="Tideline 15",
    a_name="Tideline A",
    a_colour="white",
    b_name="Tideline B",
    b_colour="lilac",
    weight_a=100,
    weight_b=10,
    sg_mixed=1.1,
    pot_life_min=30,
    mix_least_min=3,
)


def set_up(mishaps: Sequence[Mishap], *, level: LevelKey = "first", rubber: Rubber = TIDELINE) -> PracticeSetup:
    return PracticeSetup(level=LEVELS[level], plan=practice_plan(rubber), mishaps=tuple(mishaps))


@dataclass
class Maker:
    """Works through a practice; ``notices`` are the mishaps that are reacted to."""

    setup: PracticeSetup
    notices: Collection[MishapKind] = ()
    lines: list[PracticeLine] = field(default_factory=lambda: [first_entry(0.0)])
    real_s: float = 0.0
    by_trainer: list[PracticeLine] = field(default_factory=list)

    @property
    def table(self) -> PracticeTable:
        return practice_table(self.setup, self.lines)

    @property
    def now_s(self) -> float:
        return self.table.at_s(self.real_s)

    def act(self, kind: str, what: str = "", *, after_s: float = 1.0) -> None:
        self.real_s += after_s
        self.lines.append(Act(at_s=self.now_s, kind=kind, what=what))  # type: ignore[arg-type]

    def enter(self, kind: str, *, after_s: float = 1.0, **values: object) -> None:
        self.real_s += after_s
        state = self.table.bench
        entry = RecordEntry(number=state.next_number, at=moment(self.now_s), kind=kind, **values)  # type: ignore[arg-type]
        check_entry(state, entry, sure=True)
        self.lines.append(entry)

    def call(self, kind: MishapKind) -> None:
        self.act("flag", kind)
        if kind == "drift" and self.table.answer == "drift":
            self.by_trainer += weighed_again(self.table, self.now_s, 0.0)
            self.lines += self.by_trainer

    def pour(self, target_g: float) -> None:
        """Tip the tin until the scale shows the target, as one does who reads nothing else."""
        zero_g = self.table.bench.attempt.zero_g or 0.0
        while True:
            left_g = target_g - (self.table.shown_g(self.now_s) - zero_g)
            if left_g < 0.1:
                return
            step = self.table.step.ingredient
            assert step is not None
            self.act("tip", "little")
            self.act("stop", after_s=min(left_g / (step.g / self.setup.level.little_s), 20.0))
            self.real_s += 2.0
            if "too-much" in self.notices and self.is_on("too-much"):
                self.call("too-much")
            if "drift" in self.notices and self.is_on("drift"):
                self.call("drift")

    def is_on(self, kind: MishapKind) -> bool:
        course = self.table.courses.get(kind)
        return course is not None and course.began_s is not None and not course.is_over and course.noticed_s is None

    def work(self) -> PracticeTable:
        while not self.table.is_over:
            self.step()
        return self.table

    def step(self) -> None:
        table = self.table
        if "wrong-part" in self.notices and self.is_on("wrong-part"):
            self.call("wrong-part")
        one = table.step.ingredient
        match table.step.kind:
            case "do":
                self.enter("step", what=table.step.key, after_s=table.step.least_min * 60 / SPEED + 1)
            case "cup":
                self.act("cup")
                self.real_s += 2.0
                self.enter("tare", gross_g=self.table.shown_g(self.now_s), scale="x")
            case "hold" if one:
                self.enter("hold", ingredient=one.key)
            case "weigh" if one:
                self.pour(table.step.target_g)
                self.real_s += 2.0
                gross_g = self.table.shown_g(self.now_s)
                net_g = self.table.bench.attempt.net_g(gross_g, "x")
                self.enter("weigh", ingredient=one.key, net_g=net_g, gross_g=gross_g, scale="x", after_s=0.0)
            case "mix":
                clock = table.bench.clock(moment(self.now_s))
                if "pot-life" in self.notices and clock and clock.left_s < 60 * table.step.least_min:
                    self.enter("discard", text="too late")
                else:
                    self.enter("mixed", after_s=table.step.least_min * 60 / SPEED)
            case "pour":
                self.enter("poured")
            case kind:
                raise AssertionError(kind)
