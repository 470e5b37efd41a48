"""Wrong rules, planted one at a time in a package of core: which of them the tests notice.

``./run mutants PACKAGE`` works in ``var/mutants/PACKAGE`` with mutmut, which runs for each wrong rule only the tests
that reach the changed function, and prints what was noticed, what was not, and where. With ``--survivors`` only those
that nothing noticed last time are tried again; with ``--sample N`` a random N of them, the same ones each time.
"""

import argparse
import difflib
import json
import os
import random
import re
import shutil
import subprocess
import sys
import tomllib
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
CORE = ROOT / "src" / "ufrin" / "core"
EQUIVALENT = ROOT / "tests" / "data" / "equivalent_mutants.toml"
NO_TEST = 33
KILLED = {1, 3}
TOO_SLOW = {24, 36, 152, 255, -24}  # a rule that never ends is noticed as well


@dataclass(frozen=True, kw_only=True)
class Mutant:
    """One wrong rule, as the line that was and the line it became."""

    module: str
    function: str
    was: str
    becomes: str
    exit_code: int | None

    @property
    def is_noticed(self) -> bool:
        """Whether a test failed, or never ended."""
        return self.exit_code in KILLED | TOO_SLOW

    @property
    def place(self) -> tuple[str, str, str]:
        """Where it is, as the list of those that change nothing names it."""
        return self.module, self.was, self.becomes


def packages() -> list[str]:
    return sorted(found.parent.name for found in CORE.glob("*/__init__.py"))


def workshop(package: str) -> Path:
    """Make the folder in which mutmut works: the project by links, with its settings narrowed to the package."""
    folder = Path(os.environ.get("UFRIN_VAR", ROOT / "var")).resolve() / "mutants" / package
    folder.mkdir(parents=True, exist_ok=True)
    for name in ("src", "tests"):
        if not (folder / name).is_symlink():
            (folder / name).symlink_to(ROOT / name)
    settings = (ROOT / "pyproject.toml").read_text()
    (folder / "pyproject.toml").write_text(settings.replace("core/PACKAGE", f"core/{package}"))
    return folder


def changed(before: list[str], after: list[str]) -> tuple[str, str]:
    """Return what differs between two versions of a function, apart from the names that mutmut gives them."""
    was, becomes = [], []
    named = ([re.sub(r"\bx\S+__mutmut_(orig|\d+)\b", "", line) for line in lines] for lines in (before, after))
    for line in difflib.ndiff(*named):
        if line.startswith("- "):
            was.append(line[2:].strip())
        if line.startswith("+ "):
            becomes.append(line[2:].strip())
    return " ".join(was), " ".join(becomes)


def mutants(folder: Path) -> Iterator[Mutant]:
    base = folder / "mutants"
    for record in sorted(base.glob("src/ufrin/core/**/*.py.meta")):
        source = record.with_suffix("")
        lines = source.read_text().splitlines()
        spans = json.loads((source.parent / f"{source.name}.spans").read_text()).get("spans", {})
        for key, exit_code in json.loads(record.read_text())["exit_code_by_key"].items():
            name = key.rsplit(".", 1)[-1]
            original = name.rsplit("__mutmut_", 1)[0]
            before, after = (lines[start - 1 : end] for start, end in (spans[f"{original}__mutmut_orig"], spans[name]))
            was, becomes = changed(before, after)
            function = original.removeprefix("x_").removeprefix("xǁ").replace("ǁ", ".")
            module = str(source.relative_to(base / "src" / "ufrin" / "core").with_suffix("")).replace("/", ".")
            yield Mutant(module=module, function=function, was=was, becomes=becomes, exit_code=exit_code)


def equivalents() -> set[tuple[str, str, str]]:
    """Return the changes that change nothing a maker could see, each with its reason in the file."""
    rows = tomllib.loads(EQUIVALENT.read_text()).get("equivalent", []) if EQUIVALENT.exists() else []
    return {(row["module"], row["was"], row["becomes"]) for row in rows if row["reason"]}


def tell(package: str, found: list[Mutant]) -> None:
    excused = equivalents()
    by_module: dict[str, Counter[str]] = {}
    survivors = []
    for mutant in found:
        tally = by_module.setdefault(mutant.module, Counter())
        if mutant.is_noticed:
            tally["killed"] += 1
        elif mutant.place in excused:
            tally["equivalent"] += 1
        elif mutant.exit_code is not None:
            tally["no test" if mutant.exit_code == NO_TEST else "survived"] += 1
            survivors.append(mutant)
    for mutant in survivors:
        print(f"{mutant.module}.{mutant.function}{' (no test)' if mutant.exit_code == NO_TEST else ''}")
        print(f"    - {mutant.was}\n    + {mutant.becomes}")
    whole = sum(by_module.values(), Counter())
    print(f"\n{'':42}{'killed':>8}{'survived':>10}{'no test':>9}{'equivalent':>12}{'share':>8}")
    for name, tally in [*sorted(by_module.items()), (package, whole)]:
        counted = tally["killed"] + tally["survived"] + tally["no test"]
        share = f"{100 * tally['killed'] / counted:.0f} %" if counted else "–"
        print(
            f"{name:42}{tally['killed']:8}{tally['survived']:10}{tally['no test']:9}{tally['equivalent']:12}{share:>8}"
        )


def forget_survivors(folder: Path) -> None:
    """Let mutmut try again what nothing noticed, with the tests as they are now."""
    (folder / "mutants" / "mutmut-stats.json").unlink(missing_ok=True)
    for record in (folder / "mutants").glob("src/**/*.py.meta"):
        kept = json.loads(record.read_text())
        codes = kept["exit_code_by_key"]
        kept["exit_code_by_key"] = {key: code if code in KILLED | TOO_SLOW else None for key, code in codes.items()}
        record.write_text(json.dumps(kept))


def sampled(folder: Path, number: int) -> list[str]:
    """Make the wrong rules, and return the names of a random few; the draw is the same each time."""
    run_mutmut(folder, "no-such-mutant")
    names = [
        key
        for record in sorted((folder / "mutants").glob("src/**/*.py.meta"))
        for key in json.loads(record.read_text())["exit_code_by_key"]
    ]
    return random.Random(1).sample(names, min(number, len(names)))  # noqa: S311 - a sample, not a secret


def run_mutmut(folder: Path, *names: str) -> int:
    run = [sys.executable, "-m", "mutmut", "run", "--max-children", "2", *names]
    with (folder / "mutmut.log").open("w") as log:
        return subprocess.run(
            run, cwd=folder, env=os.environ | {"UFRIN_MUTANTS": "1"}, stdout=log, stderr=subprocess.STDOUT, check=False
        ).returncode


def main() -> int:
    asked = argparse.ArgumentParser(prog="./run mutants", description=__doc__)
    asked.add_argument("packages", nargs="*", metavar="PACKAGE", help="of core; all of them by default")
    asked.add_argument("--survivors", action="store_true", help="try only those again that nothing noticed last time")
    asked.add_argument("--sample", type=int, metavar="N", help="try a random N of each package")
    asked_for = asked.parse_args()
    unknown = set(asked_for.packages) - set(packages())
    if unknown:
        asked.error(f"core has no package {', '.join(sorted(unknown))}; it has {', '.join(packages())}")
    for package in asked_for.packages or packages():
        folder = workshop(package)
        if asked_for.survivors:
            forget_survivors(folder)
        elif folder.joinpath("mutants").exists():
            shutil.rmtree(folder / "mutants")
        if run_mutmut(folder, *(sampled(folder, asked_for.sample) if asked_for.sample else ())):
            print(f"mutmut stopped; see {folder / 'mutmut.log'}")
            return 1
        tell(package, list(mutants(folder)))
    return 0


if __name__ == "__main__":
    sys.exit(main())
