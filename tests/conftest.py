"""In which order the tests run and in which process, and what is told of a run."""

import time
from datetime import date
from importlib import import_module

import pytest
from thoroughness import FOR_LONG, keep_for_long, last_for_long
from xdist.remote import Producer
from xdist.scheduler import LoadFileScheduling, Scheduling

# the slow stage: what drives a browser, and what starts, kills and stops whole programs
SLOW = ("tests/browser/", "tests/programs/")
# files that look at the demo's jobs in this process: one after the other, so that they are worked out once
OF_THE_DEMO = (
    "tests/web/station/test_pages.py",
    "tests/web/station/test_job_laws.py",
    "tests/web/station/test_hardness.py",
    "tests/web/frame/test_what_is_served.py",
    "tests/web/shelf/test_csv_files.py",
)
# files that take longest, begun first within their stage: begun last, they would keep one core waiting for the other
FIRST = (
    *OF_THE_DEMO,
    "tests/web/station/test_kinds_of_mould.py",
    "tests/core/job/test_one_plan.py",
    "tests/web/station/test_opening.py",
    "tests/actions/schedule/test_day_plan.py",
    "tests/safekeeping/test_parcels.py",
    "tests/web/station/test_mesh_upload.py",
    "tests/web/frame/test_request_guard.py",
    "tests/web/plan/test_plan_pages.py",
    "tests/core/wording/test_findings.py",
    "tests/core/practice/test_practice.py",
    "tests/programs/test_benchmarks.py",
    "tests/programs/test_kills.py",
    "tests/programs/test_command.py",
    "tests/programs/test_worker.py",
    "tests/browser/test_workshop_network.py",
    "tests/programs/test_description.py",
    "tests/browser/test_looks.py",
    "tests/browser/test_pour_to_mould.py",
    "tests/browser/test_mesh_path.py",
    "tests/browser/test_bench.py",
)


def file_of(nodeid: str) -> str:
    return nodeid.split("::", 1)[0]


def pytest_configure(config: pytest.Config) -> None:
    """Load Ufrin in processes that run tests, and not in the one that only hands them out."""
    if config.option.dist == "no":
        config.pluginmanager.register(import_module("record_book"))


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Put the gate first, and in each stage what takes longest."""
    order = {file: place for place, file in enumerate(FIRST)}
    items.sort(key=lambda item: (item.nodeid.startswith(SLOW), order.get(file_of(item.nodeid), len(order))))


class ByFile(LoadFileScheduling):
    """Gives each file to one of the test processes, and those that look at the demo to the same one."""

    def _split_scope(self, nodeid: str) -> str:
        file = file_of(nodeid)
        return "the demo" if file in OF_THE_DEMO else file


def pytest_report_header() -> str:
    return (
        f"Looking {'for long' if FOR_LONG else 'as on every change'}; for long it was done last on {last_for_long()}."
    )


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter, config: pytest.Config) -> None:
    """Write down when all of it was looked at for long."""
    of_a_worker, of_a_part = hasattr(config, "workerinput"), bool(config.option.ignore or config.option.keyword)
    if FOR_LONG and not of_a_worker and not of_a_part and config.args_source is not pytest.Config.ArgsSource.ARGS:
        counted = {name: len(terminalreporter.stats.get(name, [])) for name in ("passed", "failed", "error")}
        minutes = round((time.time() - terminalreporter._session_start.time) / 60)
        keep_for_long(date.today().isoformat(), counted["passed"], counted["failed"] + counted["error"], minutes)


def pytest_xdist_make_scheduler(config: pytest.Config, log: Producer) -> Scheduling:
    return ByFile(config, log)
