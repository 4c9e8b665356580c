"""What the run takes and says about the random designs it tries."""

import pytest

from tests.core.comparison import seen


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    if not seen:
        return
    terminalreporter.section(f"{seen['designs']} random designs against the simulation: how many had what")
    for name, count in sorted(seen.items(), key=lambda item: (-item[1], item[0])):
        terminalreporter.write_line(f"{count:4} {name}")
