"""The pages for those who carry on: their picture is the code's, their paths are there, their links lead somewhere."""

import re
from pathlib import Path

import pytest

from docs.imports import with_picture
from shelf_core.design.glossary import GLOSSARY
from tests.designs import ROOT

PAGES = [*ROOT.glob("*.md"), *(ROOT / "docs").glob("*.md"), ROOT / "core" / "README.md"]
ARCHITECTURE = ROOT / "ARCHITECTURE.md"
FOLDERS = ("core/shelf_core", "server/shelf_server", "server/shelf_server/designs", "web/src", "")


def test_the_picture_of_the_packages_is_made_from_their_imports() -> None:
    """When this fails on purpose: python -m docs.imports draws it anew."""
    page = ARCHITECTURE.read_text()
    assert with_picture(page) == page


@pytest.mark.parametrize("file", PAGES, ids=lambda file: file.name)
def test_links_of_a_page_lead_to_something(file: Path) -> None:
    for link in re.findall(r"\]\(([^)#\s]+)[^)]*\)", file.read_text()):
        assert (file.parent / link).exists(), link


@pytest.mark.parametrize("file", [ARCHITECTURE, ROOT / "CONTRIBUTING.md"], ids=lambda file: file.name)
def test_paths_that_a_page_names_are_there(file: Path) -> None:
    named = [one for one in re.findall(r"`([\w./-]+)`", file.read_text()) if "/" in one or one.endswith((".py", ".ts", ".tsx"))]
    assert len(named) >= 2
    for path in named:
        plain = path.removeprefix("./")
        near = [ROOT / folder / plain for folder in FOLDERS]
        assert plain == "shelf" or any(one.exists() for one in near) or list(ROOT.glob(f"core/shelf_core/*/{plain}")), path


def test_the_page_and_the_glossary_say_the_same_of_every_word() -> None:
    text = (ROOT / "docs" / "glossary.md").read_text()
    rows = dict(re.findall(r"^\| \*\*([^*]+)\*\* \| (.*?) \|", text, flags=re.MULTILINE))
    assert {word: rows[word].replace("*", "") for word in GLOSSARY} == GLOSSARY
