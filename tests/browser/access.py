"""What axe finds on a page that has come to rest, and whether what acts is called by what is seen of it."""

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

SETTLED = """() => Promise.race([
  Promise.allSettled(document.getAnimations().map((animation) => animation.finished)),
  new Promise((done) => setTimeout(done, 2000)),
])"""
NAMED_OTHERWISE = """() => [...document.querySelectorAll("button[aria-label], a[aria-label], [role=gridcell][aria-label]")]
  .map((one) => [one.innerText.trim().split(/\\n/)[0].trim(), one.getAttribute("aria-label")])
  .filter(([seen, name]) => /[a-z]{2}/i.test(seen) && !name.toLowerCase().includes(seen.toLowerCase()))"""
"""What somebody would say to a program that listens: the first line that is seen (WCAG 2.2, 2.5.3). The rest is content."""


def no_violations(page: Page, within: str | None = None, *, of_colours: bool = False) -> None:
    """Nothing is loading, every transition is over (a colour half faded in is nobody's), and axe finds nothing.

    `within` is what has come up on a page that was looked at before; `of_colours` looks at colours alone, for what stands there
    in another theme. A failure names each rule with the elements that break it and what axe says of them.
    """
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    page.evaluate(SETTLED)
    options = {"resultTypes": ["violations"], **({"runOnly": ["color-contrast", "link-in-text-block"]} if of_colours else {})}
    found = Axe().run(page, context=within, options=options).response["violations"]
    said = [f"{one['id']}: {node['html'][:300]}: {node['failureSummary']}" for one in found for node in one["nodes"]]
    assert said == [], "\n".join(said)
    otherwise = page.evaluate(NAMED_OTHERWISE)
    assert otherwise == [], f"seen and called otherwise: {otherwise}"
