"""How the page writes figures, said a second time so that tests compare words with words."""

from datetime import date

from playwright.sync_api import Locator, Page

UNITS = ["B", "kB", "MB", "GB", "TB", "PB", "EB"]


def bytes_text(size: float) -> str:
    if size < 0.5:
        return "0 B"
    step = 0
    while float(f"{size / 1000**step:.3g}") >= 1000:
        step += 1
    value = size / 1000**step
    digits = 0 if step == 0 or value >= 99.95 else 1 if value >= 9.995 else 2
    return f"{value:.{digits}f} {UNITS[step]}"


def exact_bytes_text(size: float) -> str:
    """The same with six figures, of sizes of a kilobyte and more."""
    step = 0
    while float(f"{size / 1000**step:.6g}") >= 1000:
        step += 1
    value = size / 1000**step
    return f"{value:.{6 - len(str(int(float(f'{value:.6g}'))))}f} {UNITS[step]}"


def count_text(count: int) -> str:
    return f"{count:,}".replace(",", "\u202f")


def written(day: str) -> str:
    found = date.fromisoformat(day)
    return f"{found.day} {found:%B} {found.year}"


def panel(page: Page, target: str) -> Locator:
    return page.locator(f'aside [data-target="{target}"]')


def figure(page: Page, target: str, name: str) -> Locator:
    return panel(page, target).locator(f'[data-figure="{name}"]')
