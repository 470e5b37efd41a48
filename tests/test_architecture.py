"""The rooms and the arrows between them, read from the imports."""

import ast
from collections.abc import Iterator
from dataclasses import dataclass
from graphlib import TopologicalSorter
from pathlib import Path

import pytest

TESTS = Path(__file__).parent
SRC = TESTS.parent / "src" / "ufrin"
# room -> rooms it may import besides itself and errors
ARROWS = {
    "errors": {"language"},
    "language": set(),
    "settings": set(),
    "network": {"settings"},
    "certificates": {"network", "settings"},
    "backup_commands": {"store"},
    "bounded": set(),
    "core": set(),
    "store": {"core"},
    "actions": {"store", "core", "bounded"},
    "web": {"actions", "devices", "core", "bounded"},
    "jobs": {"actions", "bounded", "devices"},
    "devices": {"core", "settings"},
    "demo": {
        *("actions", "core", "settings", "demo_casting", "demo_casts", "demo_jobs", "demo_masters", "demo_pours"),
        "demo_moulds",
        "demo_schedule",
        "demo_shelf",
    },
    "demo_casting": {"core"},
    "demo_casts": {"actions", "core"},
    "demo_moulds": {"actions", "core"},
    "demo_schedule": {"actions", "core"},
    "demo_jobs": {"core"},
    "demo_masters": {"core"},
    "demo_shelf": {"core"},
    "demo_pours": {"actions", "core"},
    "logs": set(),
    "trial": {"settings", "store", "web"},
    "__init__": set(),
    "helper_programs": set(),
    "serving": {"settings", "store", "web", "network", "certificates"},
    "__main__": {
        *("actions", "backup_commands", "network", "certificates"),
        "settings",
        "store",
        "demo",
        "logs",
        "jobs",
        "bounded",
        "helper_programs",
        "serving",
        "devices",
    },
}
# the packages of a room and what each may import of that room besides itself, in the order of the house
ORDER: dict[str, dict[str, set[str]]] = {
    "core": {
        "data_files": set(),
        "inputs": {"data_files"},
        "measures": {"data_files"},
        "wording": {"data_files", "measures"},
        "materials": {"data_files"},
        "mesh": {"measures", "wording"},
        "shelf": {"inputs", "measures", "wording", "materials"},
        "rubber": {"data_files", "inputs", "measures", "wording"},
        "master": {"inputs", "measures", "wording", "materials", "mesh"},
        "opening": {"data_files", "inputs", "measures", "wording", "mesh", "master"},
        "box": {"data_files", "inputs", "measures", "wording", "mesh", "shelf", "master", "opening"},
        "degassing": {"inputs", "measures", "wording"},
        "pairing": {"data_files", "inputs", "measures", "wording", "materials"},
        "clocks": {"measures", "wording", "rubber"},
        "weighing": {"data_files", "inputs", "measures", "wording", "shelf", "rubber", "clocks"},
        "practice": {"rubber", "clocks", "weighing"},
        "casting": {"data_files", "inputs", "measures", "wording", "materials", "rubber", "weighing"},
        "moulds": {"data_files", "inputs", "measures", "wording", "rubber", "casting"},
        "money": set(),
        "schedule": {"wording"},
        "job": {
            *("inputs", "measures", "wording", "materials", "mesh", "shelf", "rubber", "master", "opening", "box"),
            *("degassing", "pairing", "clocks", "weighing", "casting", "schedule"),
        },
        "faults": {
            *("data_files", "inputs", "measures", "wording", "materials", "rubber", "pairing", "clocks"),
            *("weighing", "job"),
        },
        "quick_sums": {
            *("inputs", "measures", "wording", "shelf", "rubber", "master", "box", "degassing", "weighing", "casting"),
            "money",
        },
        "exchange": {"inputs", "measures", "wording", "materials", "master", "pairing", "job"},
    },
    "actions": {
        "people": set(),
        "safekeeping": {"people", "shop", "job", "bench"},
        "shop": set(),
        "shelf": {"shop"},
        "job": {"shop", "shelf"},
        "bench": {"shop", "shelf", "job"},
        "checks": {"shop", "shelf", "job", "bench"},
        "casts": {"shop", "shelf", "job", "bench"},
        "moulds": {"shop", "shelf", "job", "bench", "casts"},
        "schedule": {"shop", "shelf", "job", "bench", "checks", "casts", "moulds"},
    },
    "web": {
        "frame": set(),
        "drawings": {"frame"},
        "contexts": {"frame", "drawings"},
        "routes": {"frame", "drawings", "contexts"},
        "app": {"frame", "contexts", "routes"},
    },
}
MOST_AT_THE_TOP_OF_CORE = 5
# the application is put together in one place: it alone takes the record book and the settings into its hands
PUT_TOGETHER = {"ufrin.web.app"}
TAKES = {"settings", "store", "network", "certificates"}
NOT_FOR_CORE = {
    "fastapi",
    "starlette",
    "psycopg",
    "psycopg_pool",
    "yoyo",
    "jinja2",
    "pydantic",
    "time",
    "datetime",
    "os",
    "pathlib",
    "sqlite3",
    "random",
    "socket",
    "procrastinate",
}


@dataclass(frozen=True, kw_only=True)
class Source:
    """A module of the product as it is written."""

    module: str
    lines: int
    has_docstring: bool
    imports: frozenset[str]
    opens_files: bool

    @property
    def room(self) -> str:
        return room_of(self.module)

    @property
    def of_ufrin(self) -> set[str]:
        return {name for name in self.imports if name.split(".")[0] == "ufrin"}


def module_of(path: Path) -> str:
    return ".".join(path.relative_to(SRC.parent).with_suffix("").parts).removesuffix(".__init__")


def room_of(module: str) -> str:
    steps = module.split(".")
    return steps[1] if len(steps) > 1 else "__init__"


def imports(tree: ast.AST) -> Iterator[str]:
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            yield from (name.name for name in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            for name in node.names:
                below = f"{node.module}.{name.name}"
                yield below if (SRC.parent / (below.replace(".", "/") + ".py")).exists() else node.module


def read(path: Path) -> Source:
    text = path.read_text()
    tree = ast.parse(text)
    return Source(
        module=module_of(path),
        lines=len(text.splitlines()),
        has_docstring=ast.get_docstring(tree) is not None,
        imports=frozenset(imports(tree)),
        opens_files=any(isinstance(node, ast.Name) and node.id == "open" for node in ast.walk(tree)),
    )


@pytest.fixture(scope="module")
def sources() -> list[Source]:
    return [read(path) for path in sorted(SRC.rglob("*.py"))]


def test_arrows(sources: list[Source]) -> None:
    against = {}
    for one in sources:
        allowed = {one.room, "errors", "language", "__init__"} | ARROWS[one.room]
        allowed |= TAKES if one.module in PUT_TOGETHER else set()
        against[one.module] = {room_of(name) for name in one.of_ufrin} - allowed
    assert {module: rooms for module, rooms in against.items() if rooms} == {}


def test_core_knows_neither_files_nor_the_clock_nor_any_interface(sources: list[Source]) -> None:
    core = [one for one in sources if one.room == "core"]
    assert len(core) > 200
    against = {one.module: {name.split(".")[0] for name in one.imports} & NOT_FOR_CORE for one in core}
    assert {module: found for module, found in against.items() if found} == {}
    assert [one.module for one in core if one.opens_files] == []


@pytest.mark.parametrize("room", ORDER)
def test_order_of_packages(room: str, sources: list[Source]) -> None:
    packages = {
        path.name if path.is_dir() else path.stem
        for path in (SRC / room).iterdir()
        if path.suffix == ".py" or (path / "__init__.py").exists()
    }
    assert packages - {"__init__"} == set(ORDER[room])
    for package, may_import in ORDER[room].items():
        files = [one for one in sources if one.module.split(".")[1:3] == [room, package]]
        found = {name.split(".")[2] for one in files for name in one.imports if name.startswith(f"ufrin.{room}.")}
        assert found <= may_import | {package}, f"{room}.{package} imports {sorted(found - may_import - {package})}"


def test_little_at_the_top_of_core() -> None:
    assert len([path for path in (SRC / "core").glob("*.py") if path.stem != "__init__"]) <= MOST_AT_THE_TOP_OF_CORE


def test_no_route_imports_a_route(sources: list[Source]) -> None:
    routes = "ufrin.web.routes."
    for one in (one for one in sources if one.module.startswith(routes)):
        assert {name for name in one.imports if name.startswith(routes) and name != one.module} == set(), one.module


def test_no_cycles(sources: list[Source]) -> None:
    TopologicalSorter({one.module: one.of_ufrin - {one.module} for one in sources}).prepare()


def test_one_subject_a_module(sources: list[Source]) -> None:
    assert {one.module.rsplit(".", 1)[-1] for one in sources} & {"utils", "helpers", "common", "manager"} == set()
    assert {one.module: one.lines for one in sources if one.lines > 400} == {}
    assert [one.module for one in sources if not one.has_docstring] == []


# read by every package that has data, and tested with them
TESTED_WITH_OTHERS = {"ufrin.core.data_files"}


def test_every_module_of_core_is_named_by_a_test(sources: list[Source]) -> None:
    files = list(TESTS.rglob("test_*.py"))
    named = {name for path in files for name in imports(ast.parse(path.read_text()))}
    named |= {f"ufrin.core.{path.parent.name}.{path.stem.removeprefix('test_')}" for path in files} | TESTED_WITH_OTHERS
    assert [one.module for one in sources if one.room == "core" and one.lines > 20 and one.module not in named] == []
