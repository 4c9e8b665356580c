"""The real interface in headless Chromium, over the demo design on a live server."""

import json
import os
import threading
from collections.abc import Iterator
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.signals import request_finished, request_started
from django.db import connections
from django.test import Client
from playwright.sync_api import Browser, BrowserContext, Page, expect

from launcher.system_packages import chromium_program
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_server.designs.models import Design, Membership
from shelf_server.designs.rows.reading import load_design
from shelf_server.jobs.models import Job
from tests.browser.demo_rows import DemoRows
from tests.browser.followed import as_followed, nights_of_demo
from tests.server.working import work_off

FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--process-per-site",
]  # fmt: skip
ON = "2028-12-31"
# Two browsers, two servers and a database share few processors here: what is right may be slow to appear.
expect.set_options(timeout=60_000)


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_type_launch_args, "executable_path": chromium_program(), "args": FLAGS}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "color_scheme": "light"}


# What is kept for one tab alone is empty in a new one.
FORGETS = "if (!sessionStorage.getItem('begun')) { localStorage.clear(); sessionStorage.setItem('begun', 'yes'); }"


def _warm(browser: Browser, about: dict[str, Any], address: str) -> Iterator[BrowserContext]:
    """A context with an empty page that stays open: the process of a site ends with its last page, and what it compiled with it."""
    context = browser.new_context(**about)
    context.add_init_script(FORGETS)
    context.new_page().goto(f"{address}/mark.svg")
    yield context
    context.close()


@pytest.fixture(scope="session")
def one_context(browser: Browser, browser_context_args: dict[str, Any], live_server: Any) -> Iterator[BrowserContext]:
    """A context that all tests of a process open their pages in: what it has loaded and compiled of the page, it has at hand."""
    yield from _warm(browser, browser_context_args, live_server.url)


@pytest.fixture(scope="session")
def other_context(browser: Browser, browser_context_args: dict[str, Any], live_server: Any) -> Iterator[BrowserContext]:
    """Another browser, that of a second person, likewise."""
    yield from _warm(browser, browser_context_args, live_server.url)


class Asked:
    """How many requests the server is answering just now."""

    def __init__(self) -> None:
        self._change = threading.Condition()
        self._now = 0

    def begun(self, **_: Any) -> None:
        with self._change:
            self._now += 1

    def answered(self, **_: Any) -> None:
        with self._change:
            self._now -= 1
            self._change.notify_all()

    def wait(self) -> None:
        """Until all have been answered."""
        with self._change:
            assert self._change.wait_for(lambda: self._now == 0, timeout=300)


@pytest.fixture
def asked() -> Iterator[Asked]:
    counting = Asked()
    request_started.connect(counting.begun)
    request_finished.connect(counting.answered)
    yield counting
    request_started.disconnect(counting.begun)
    request_finished.disconnect(counting.answered)


def _new_page(context: BrowserContext, asked: Asked) -> Iterator[Page]:
    context.clear_cookies()
    page = context.new_page()
    yield page
    # Nothing is asked of a database that is about to be emptied.
    page.close()
    asked.wait()


@pytest.fixture
def page(transactional_db: None, one_context: BrowserContext, asked: Asked) -> Iterator[Page]:
    """A page of its own, as if nobody had been here before: without cookies, and with nothing that a page kept."""
    yield from _new_page(one_context, asked)


@pytest.fixture
def other_page(transactional_db: None, other_context: BrowserContext, asked: Asked) -> Iterator[Page]:
    """A page in another browser, which has kept nothing of before either."""
    yield from _new_page(other_context, asked)


@pytest.fixture(scope="session")
def nights(tmp_path_factory: pytest.TempPathFactory) -> bytes:
    """All nights of the demo."""
    own = tmp_path_factory.getbasetemp()
    return nights_of_demo((own.parent if "PYTEST_XDIST_WORKER" in os.environ else own) / "nights")


@pytest.fixture(scope="session")
def demo_rows() -> DemoRows:
    return DemoRows()


@pytest.fixture
def row(transactional_db: None, settings: Any, demo_rows: DemoRows) -> Design:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    demo_rows.put()
    return Design.objects.get()


@pytest.fixture
def followed(row: Design, nights: bytes) -> None:
    """The demo as somebody has it who has worked with it: its nights have been followed."""
    as_followed(row, nights)


_SAID: dict[str, Forecast] = {}


def expected(row: Design) -> Forecast:
    """What the core says of the design as it is stored now: a run of its own, once for each document."""
    document = load_design(Design.objects.get(pk=row.pk))
    written = json.dumps(document.canonical())
    if written not in _SAID:
        _SAID[written] = forecast(document)
    return _SAID[written]


def sign_in(
    page: Page,
    address: str,
    name: str = "mara",
    password: str = "lindmoor-demo",  # noqa: S107 - the demo's
    timeout: int = 30_000,
) -> None:
    page.set_default_timeout(timeout)
    page.goto(address)
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation", name="Stations").wait_for()


def session_of(name: str, address: str) -> Any:
    """The cookie of a session that has begun; how a person begins one has tests of its own."""
    client = Client()
    client.force_login(get_user_model().objects.get(username=name), backend="django.contrib.auth.backends.ModelBackend")
    return {"name": "sessionid", "value": client.cookies["sessionid"].value, "url": address}


class Opener:
    """Opens a station as the demo account. The page may log no error but refusals in `expected_refusals`."""

    def __init__(self, page: Page, address: str) -> None:
        self.page, self.address = page, address
        self.expected_refusals: set[int] = set()
        self.complaints: list[str] = []
        page.on("console", lambda message: self.complaints.append(message.text) if message.type == "error" else None)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))

    def __call__(self, path: str) -> Page:
        self.page.set_default_timeout(60_000)
        self.page.context.add_cookies([session_of("mara", self.address)])
        self.page.goto(self.address + path)
        self.page.get_by_role("navigation", name="Stations").wait_for()
        return self.page

    def unexpected(self) -> list[str]:
        refusals = [f"status of {status} " for status in self.expected_refusals]
        return [text for text in self.complaints if not any(refusal in text for refusal in refusals)]


@pytest.fixture
def worker(row: Design) -> Iterator[None]:
    """Does the long work that the page asks for, until the test ends."""
    ends = threading.Event()

    def work() -> None:
        while not ends.wait(0.1):
            work_off()
        connections.close_all()

    thread = threading.Thread(target=work)
    thread.start()
    yield
    ends.set()
    # What nobody looks at any more goes no further than the part that is being done.
    Job.objects.filter(state__in=Job.GOING).update(state=Job.State.STOPPED)
    thread.join()


@pytest.fixture
def page_of(row: Design, live_server: Any, page: Page, worker: None, asked: Asked) -> Iterator[Opener]:
    opener = Opener(page, live_server.url)
    yield opener
    unexpected = opener.unexpected()
    # Nothing is asked while the worker ends.
    page.close()
    asked.wait()
    assert unexpected == []


@pytest.fixture
def second_page(row: Design, live_server: Any, other_page: Page) -> Page:
    """Another person, an editor of the same design, in a browser of their own."""
    user = get_user_model().objects.create_user("nils", password="a-dull-password")
    Membership.objects.create(design=row, user=user, role="editor")
    sign_in(other_page, live_server.url, "nils", "a-dull-password")
    return other_page
