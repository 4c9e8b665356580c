"""What all tests share."""

import os

import pytest
from hypothesis import Phase, settings

# The test command looks at the same random designs each time; `--hypothesis-profile wide` looks at new ones.
settings.register_profile("shelf", deadline=None, print_blob=True, derandomize=True)
settings.register_profile("wide", deadline=None, print_blob=True, max_examples=1000)
settings.register_profile("without-shrinking", parent=settings.get_profile("shelf"), phases=[Phase.explicit, Phase.generate])
settings.load_profile("shelf")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shelf_server.settings")


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--designs", type=int, default=None, help="how many random designs to hold against the simulation")
