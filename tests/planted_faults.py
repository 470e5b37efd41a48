"""Faults planted by hand, outside of what mutmut plants: which of them the tests notice.

``python tests/planted_faults.py`` plants each in a copy of the source and runs the tests that are to notice it; numbers
behind it choose some. The first nineteen went unnoticed once; the others were planted where figures are put together
for pages, drawings and the interface.
"""

import os
import shutil
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]


@dataclass(frozen=True, kw_only=True)
class Fault:
    """A line of a file, what it becomes, and the tests that are to notice it."""

    file: str
    was: str
    becomes: str
    tests: str


def fault(file: str, was: str, becomes: str, tests: str) -> Fault:
    return Fault(file=file, was=was, becomes=becomes, tests=tests)


FAULTS = (
    fault(
        "core/casting/cast_cups.py", "            volume_ml * self.spare,\n", "            volume_ml,\n", "core/casting"
    ),
    fault("core/casting/cast_bench.py", "made.shot_g / (1 + settled.spare_pct / 100)", "made.shot_g", "core/casting"),
    fault("core/casting/cast_plan.py", "cost = made.shot_cost * times if", "cost = made.shot_cost if", "core/casting"),
    fault("core/clocks/sequence.py", "at_s = max(at_s, step.ends_s)", "at_s = step.ends_s", "core/clocks"),
    fault(
        "core/moulds/run_needs.py",
        "have_g=one.have_g)",
        "have_g=one.have_g + (before.have_g if before else 0.0))",
        "core/moulds",
    ),
    fault("core/schedule/step_model.py", "* sum(waits) + sum(", "* sum(waits) + 0 * sum(", "core/schedule"),
    fault("core/quick_sums/cast_sums.py", "Amount(coats.reached_mm", "Amount(thickness_mm", "core/quick_sums"),
    fault(
        "core/quick_sums/box_sums.py",
        'Amount(pot.holds_ml(fill_mm), "',
        'Amount(pot.holds_ml(pot.height_mm), "',
        "core/quick_sums",
    ),
    fault(
        "core/quick_sums/mixing_sums.py",
        "Amount(made.total_g_after - made.add_g,",
        "Amount(made.total_g_after,",
        "core/quick_sums",
    ),
    fault("core/quick_sums/time_sums.py", "pot_ratio(pot_kpa) ** (1 / 3)", "pot_ratio(pot_kpa)", "core/quick_sums"),
    fault("core/job/casts_station.py", "area_cm2 * scale ** (2 / 3)", "area_cm2 * scale", "core/job"),
    fault("core/job/mould_channels.py", "-box.under_mm]", "-box.over_mm]", "core/job"),
    fault(
        "actions/bench/pours.py", "was_g = earlier[-1] if earlier else about.net_g", "was_g = about.net_g", "web/bench"
    ),
    fault(
        "actions/casts/bench.py",
        'cup.total_g for cup in self.state.attempts if cup.outcome == "poured")',
        "cup.total_g for cup in self.state.attempts)",
        "web/bench",
    ),
    fault(
        "web/contexts/casts.py", "[answer.settled.rubber_shrink_pct, resin", "[0.0, resin", "web/station/test_casts.py"
    ),
    fault("web/contexts/moulds.py", "one.shots + card.mould.details.shots_before", "one.shots", "web/moulds"),
    fault("core/clocks/cure_clocks.py", "early_s=60 * min(ends)", "early_s=60 * ends[1]", "core/clocks core/weighing"),
    fault(
        "web/routes/interface/moulds.py",
        "bool(one.retired) or kept.retired_at is not None",
        "bool(one.retired)",
        "web/moulds",
    ),
    fault("core/casting/next_amount.py", "shots[-LEARNT_FROM:]", "shots[:LEARNT_FROM]", "core/casting"),
    # actions
    fault("actions/shelf/lots.py", "left_g=left_g * share", "left_g=left_g", "web/shelf"),
    fault(
        "actions/shelf/lots.py",
        "kept.lot.left_g + lot.got_g - kept.lot.got_g",
        "kept.lot.left_g",
        "web/shelf store actions",
    ),
    fault(
        "actions/bench/running.py",
        "elapsed_s - one.clock.end_s if one.clock",
        "elapsed_s if one.clock",
        "web/bench actions/bench",
    ),
    fault(
        "actions/bench/running.py", "key=lambda do: -do.since_s", "key=lambda do: do.since_s", "web/bench actions/bench"
    ),
    fault(
        "actions/casts/bench.py",
        'cup.leftover_g or 0.0 for cup in self.state.attempts if cup.outcome == "poured")',
        "0.0 for cup in self.state.attempts)",
        "web/bench",
    ),
    fault(
        "actions/job/board.py",
        "max(1, -(-total // JOBS_A_PAGE))",
        "max(1, total // JOBS_A_PAGE)",
        "actions/job web/station",
    ),
    fault(
        "actions/bench/shortfall.py",
        "sum(tin.lot.left_g for tin in of_one) >= one.g",
        "bool(of_one)",
        "web/bench actions/bench",
    ),
    fault("actions/bench/shortfall.py", "min(volume_ml, kept.plan.need_ml)", "volume_ml", "web/interface"),
    fault("actions/moulds/cards.py", "made[cavity][0] + row.shots_before", "made[cavity][0]", "web/moulds"),
    # contexts
    fault(
        "web/contexts/casts.py",
        "master_for(longest_mm, chain)",
        "size_after(longest_mm, chain)",
        "web/station/test_casts.py",
    ),
    fault("web/contexts/coats.py", "window.until_min * 60 - cures.elapsed_s", "window.until_min * 60", "web/bench"),
    fault(
        "web/contexts/cast_words.py",
        '("B", state.b_g) if one.role == "A" else ("A", state.a_g)',
        '("A", state.a_g) if one.role == "A" else ("B", state.b_g)',
        "web/bench",
    ),
    fault("web/contexts/moulds.py", "low=left.low, high=left.high", "low=left.high, high=left.low", "web/moulds"),
    # drawings
    fault("web/drawings/life_curve.py", "        share = left\n", "", "web/drawings web/moulds"),
    fault(
        "web/drawings/cost_lines.py",
        "bought = (buy_price or 0.0) * pieces",
        "bought = buy_price or 0.0",
        "web/drawings web/moulds",
    ),
    fault("web/drawings/cup.py", "        below = mark.level_mm\n", "", "web/drawings"),
    fault(
        "web/drawings/cup.py",
        "(bottom + (top - bottom) * level_mm / height) * px / 2",
        "bottom * px / 2",
        "web/drawings",
    ),
    # interface
    fault("web/routes/interface/cast.py", "sprue_ml=body.sprue_ml,", "sprue_ml=0.0,", "web/interface"),
    fault("web/routes/interface/cast.py", "thin_g = shell_mass_g(", "thin_g = 1.01 * shell_mass_g(", "web/interface"),
    fault("core/job/weighed_pours.py", "net_ml=plan.need_ml", "net_ml=pour.need_ml", "web/interface"),
)


def plant(number: int, one: Fault, workshop: Path) -> bool:
    """Plant a fault, run the tests, and return whether they noticed it."""
    path = workshop / "src" / "ufrin" / one.file
    text = path.read_text()
    if text.count(one.was) != 1:
        raise SystemExit(f"{number}: the line is not there, or more than once: {one.file}: {one.was}")
    path.write_text(text.replace(one.was, one.becomes))
    command = [sys.executable, "-m", "pytest", "-q", "-x", *(f"tests/{part}" for part in one.tests.split())]
    told = os.environ | {"PYTHONPATH": str(workshop / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
    done = subprocess.run(command, cwd=workshop, env=told, check=False, capture_output=True)
    path.write_text(text)
    return done.returncode == 1


def main() -> int:
    chosen = {int(word) for word in sys.argv[1:]} or set(range(1, len(FAULTS) + 1))
    missed = []
    with tempfile.TemporaryDirectory(prefix="ufrin-planted-") as folder:
        workshop = Path(folder)
        workshop.chmod(0o755)
        shutil.copytree(ROOT / "src", workshop / "src", ignore=shutil.ignore_patterns("__pycache__"))
        shutil.copytree(ROOT / "tests", workshop / "tests", ignore=shutil.ignore_patterns("__pycache__"))
        for name in ("tools", "docs", "pyproject.toml", "benchmarks", "requirements"):
            (workshop / name).symlink_to(ROOT / name)
        for number, one in enumerate(FAULTS, 1):
            if number in chosen:
                is_noticed = plant(number, one, workshop)
                print(
                    f"{number:3} {'noticed' if is_noticed else 'NOT NOTICED':12} {one.file}: {one.was.strip()}",
                    flush=True,
                )
                missed += [] if is_noticed else [number]
    print(f"{len(chosen) - len(missed)} of {len(chosen)} noticed")
    return 1 if missed else 0


if __name__ == "__main__":
    sys.exit(main())
