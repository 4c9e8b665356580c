"""What all tests share."""

import os
import sys
from collections import Counter
from pathlib import Path
from typing import Any

import pytest
from hypothesis import Phase, settings
from xdist.scheduler import LoadScopeScheduling

# The test command looks at the same random designs each time; `--hypothesis-profile wide` looks at new ones.
settings.register_profile("shelf", deadline=None, print_blob=True, derandomize=True)
settings.register_profile("wide", deadline=None, print_blob=True, max_examples=1000)
settings.register_profile("without-shrinking", parent=settings.get_profile("shelf"), phases=[Phase.explicit, Phase.generate])
settings.load_profile("shelf")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shelf_server.settings")

SPREAD = (
    "test_brought_files", "test_calendar", "test_chance", "test_commands", "test_documents", "test_fresh_seeds", "test_memory",
    "test_named_edits", "test_recurrence", "test_typed", "test_guides", "test_api_examples", "test_forecast", "test_routes",
    "test_rules", "test_designs", "test_typing", "test_stations", "test_many_workloads", "test_saved_opens",
)  # fmt: skip
"""Files whose tests share nothing that is made once: these go to whichever process is free. The others stay together."""


class ByFileOrTest(LoadScopeScheduling):
    """Gives each process the next file, or of a file that is spread the next test, those of the largest files first."""

    def _split_scope(self, nodeid: str) -> str:
        file = nodeid.split("::", 1)[0]
        return nodeid if Path(file).stem in SPREAD else file


@pytest.hookimpl(optionalhook=True)
def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> LoadScopeScheduling | None:
    return ByFileOrTest(config, log) if config.getoption("dist") == "loadgroup" else None


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings_parallel_suffix: None) -> None:
    """Each process has a database of its own, copied from one that has been migrated already."""
    from django.db import connection  # noqa: PLC0415 - not before its settings are known

    from tests.emptying import empty_by_deleting  # noqa: PLC0415
    from tests.template import template_of  # noqa: PLC0415

    connection.settings_dict["TEST"]["TEMPLATE"] = template_of(connection.settings_dict)
    empty_by_deleting()


random_designs: Counter[str] = Counter()
"""How many of the random designs had what, from all processes that tried some."""


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--designs", type=int, default=None, help="how many random designs to hold against the simulation")
    parser.addoption(
        "--edits", type=int, default=200, help="over how many edits readers look whether what they see belongs together"
    )
    parser.addoption("--seed", type=int, default=None, help="the seed of new random designs, to run one again")
    parser.addoption(
        "--write-examples", action="store_true", help="write what the API answers to its examples, instead of comparing"
    )


def pytest_sessionfinish(session: pytest.Session) -> None:
    """A process that ran a part of the tests hands on what it tried."""
    comparison = sys.modules.get("tests.core.comparison")
    if comparison is None:
        return
    if hasattr(session.config, "workeroutput"):
        session.config.workeroutput["random designs"] = dict(comparison.seen)
    else:
        random_designs.update(comparison.seen)


@pytest.hookimpl(optionalhook=True)
def pytest_testnodedown(node: Any) -> None:
    random_designs.update(getattr(node, "workeroutput", {}).get("random designs", {}))


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    if not random_designs:
        return
    terminalreporter.section(f"{random_designs['designs']} random designs against the simulation: how many had what")
    named = [f"{name} {count}" for name, count in sorted(random_designs.items(), key=lambda item: (-item[1], item[0]))]
    terminalreporter.write_line(", ".join(named[1:]))
