"""The forecast's views in the real page, and the long work behind them."""

from collections.abc import Callable
from time import perf_counter

from playwright.sync_api import Page, sync_playwright

from bench.edits import FLAGS, PAUSE_MILLISECONDS, open_page, store_design
from bench.engine import DEMO
from bench.rules import rules_design
from launcher.system_packages import chromium_program
from shelf_core.chance.bands import bands_of
from shelf_core.cost.cost import cost_of
from shelf_core.design.reading import read_design
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import forecast
from shelf_core.reasons.marginals import marginals

MOVES = 30
CROWDED = 24
"""So many rules of three copies have more than 2,000 points on the shelves of four targets."""
SPINES = "[...document.querySelectorAll('[data-spines]')].reduce((sum, one) => sum + Number(one.dataset.spines), 0)"
PAINTED = """
new Promise((done) => requestAnimationFrame(() => {
  const { port1, port2 } = new MessageChannel();
  port1.onmessage = () => done(performance.now());
  port2.postMessage(null);
}))
"""
"""What is posted as a frame begins arrives once its style, layout and painting are over."""
OPEN = f"""
async () => {{
  const began = performance.now();
  document.body.dispatchEvent(new KeyboardEvent('keydown', {{ key: '5', code: 'Digit5', bubbles: true }}));
  const whole = () => document.querySelectorAll('[data-target] svg').length >= 16;
  while (!whole()) {{
    if (performance.now() - began > 20000) throw new Error('the overview of the demo does not appear');
    await new Promise((done) => setTimeout(done, 2));
  }}
  return (await {PAINTED}) - began;
}}
"""
# The clock starts as the page gets the event, and stops after the first frame that shows the change.
WATCH = f"""
() => {{
  const text = () => document.querySelector('[data-testid="as-of"]').textContent;
  const figures = () => [...document.querySelectorAll('[data-spines]')].map((one) => one.getAttribute('d')).join();
  const before = [text(), figures()];
  const event = new Promise((done) => {{
    for (const name of ['keydown', 'pointerdown'])
      addEventListener(name, () => done(performance.now()), {{ capture: true, once: true }});
  }});
  const painted = async (began, changed) => {{
    while (!changed()) {{
      if (performance.now() - began > 5000) throw new Error('nothing changed on the page');
      await new Promise((done) => setTimeout(done, 1));
    }}
    return (await {PAINTED}) - began;
  }};
  window.moved = event.then((began) =>
    Promise.all([painted(began, () => text() !== before[0]), painted(began, () => figures() !== before[1])]));
}}
"""


def forecast_views(address: str) -> dict[str, float]:
    """Milliseconds until the overview of the demo is whole, and from a moved as-of date to its mark and its figures."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_program(as_people_have_it=True), args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        opened = sorted(_opened(page, address) for _ in range(5))
        months = [_moved(page, lambda: page.keyboard.press("]")) for _ in range(MOVES)]
        by_hand = [_moved(page, _click(page, (at * 0.618) % 1)) for at in range(1, MOVES + 1)]
        keys = ["PageUp", "ArrowRight"] * (MOVES // 2)
        days = [_moved(page, _press_on_handle(page, key)) for key in keys]
        _open_crowded(page, address)
        crowded = [_moved(page, lambda: page.keyboard.press("]")) for _ in range(MOVES)]
        spines = page.evaluate(SPINES)
        browser.close()
    return {
        "overview of the demo opened by its key, whole (ms, median of 5)": opened[2],
        **_quantiles("as-of date moved a month", months),
        **_quantiles("as-of handle dragged anywhere", by_hand),
        **_quantiles("as-of date moved by the keys of the handle", days),
        "spines in sight on the crowded design": spines,
        **_quantiles("as-of date of the crowded design moved a month", crowded),
    }


def _quantiles(what: str, moves: list[list[float]]) -> dict[str, float]:
    marks, figures = (sorted(one[at] for one in moves) for at in (0, 1))
    return {
        f"{what}: its mark painted (ms, median)": marks[MOVES // 2],
        f"{what}: all figures and shelves painted (ms, median)": figures[MOVES // 2],
        f"{what}: all figures and shelves painted (ms, 95th percentile)": figures[round(0.95 * (MOVES - 1))],
    }


def _open_crowded(page: Page, address: str) -> None:
    """Open a design whose shelves are far fuller than the demo's, after its first years."""
    page.goto(f"{address}designs/{store_design(page, address, rules_design(CROWDED, CROWDED, 8))}/forecast")
    page.locator("[data-spines]").first.wait_for(timeout=30_000)
    for key in ["{"] * 8 + ["}"] * 2:
        page.keyboard.press(key)
    page.wait_for_timeout(2000)


def _opened(page: Page, address: str) -> float:
    page.context.clear_cookies()
    open_page(page, address, "rules/ladders/house")
    page.get_by_label("Number of recent").wait_for()
    page.wait_for_timeout(1500)
    return float(page.evaluate(OPEN))


def _moved(page: Page, move: Callable[[], None]) -> list[float]:
    """Milliseconds from a move of the as-of date to its mark and to the figures."""
    page.wait_for_timeout(PAUSE_MILLISECONDS)
    page.evaluate(WATCH)
    move()
    took: list[float] = page.evaluate("window.moved")
    return took


def _click(page: Page, share: float) -> Callable[[], None]:
    """The hand puts the handle on a share of all years; the pointer is there already."""
    box = page.locator(".MuiSlider-root").bounding_box()
    assert box is not None  # noqa: S101 - it is on every page
    page.mouse.move(box["x"] + share * box["width"], box["y"] + box["height"] / 2)

    def press() -> None:
        page.mouse.down()
        page.mouse.up()

    return press


def _press_on_handle(page: Page, key: str) -> Callable[[], None]:
    page.get_by_label("As-of date", exact=True).focus()
    return lambda: page.keyboard.press(key)


def long_work() -> dict[str, float]:
    """Seconds of the demo's bands, of its rules taken away one by one, and of its cost; beside a cold forecast."""
    design = read_design(DEMO.read_bytes())
    forecast(design)
    cold = _seconds(lambda: forecast(design))
    memory = Memory()
    result = forecast(design, memory)
    bands = _seconds(lambda: bands_of(result, 1000, 1, memory=memory))
    return {
        "bands of the demo from 1,000 draws (s)": bands,
        "1,000 draws / cold forecast": bands / cold,
        "all rules of the demo taken away one by one (s)": _seconds(lambda: marginals(result, "2028-12-31", Memory())),
        "cost of the demo, all months (s)": _seconds(lambda: cost_of(result)),
    }


def _seconds(do: object) -> float:
    began = perf_counter()
    do()  # type: ignore[operator]
    return perf_counter() - began
