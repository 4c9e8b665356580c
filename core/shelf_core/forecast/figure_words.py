"""Figures as they are written in sentences and reports."""

from shelf_core.digits import grouped

UNITS = ("B", "kB", "MB", "GB", "TB", "PB", "EB")


def bytes_words(size: float) -> str:
    """Bytes with three figures and a decimal unit, such as `22.4 TB`."""
    step, value = 0, float(size)
    while abs(value) >= 999.5 and step < len(UNITS) - 1:
        step, value = step + 1, value / 1000
    if abs(size) < 0.5:
        return "0 B"
    digits = 0 if step == 0 or abs(value) >= 99.95 else 1 if abs(value) >= 9.995 else 2
    return f"{value:.{digits}f} {UNITS[step]}"


def length_words(seconds: float) -> str:
    """A length of time as people read it: days and hours, hours and minutes, or seconds where it is less than a minute.

    >>> length_words(93_600), length_words(5_400), length_words(7_200), length_words(12)
    ('1 d 2 h', '1 h 30 min', '2 h', '12 s')
    """
    if 0 < seconds < 59.5:
        return f"{round(seconds)} s"
    days, minutes = divmod(round(seconds / 60), 24 * 60)
    hours, left = divmod(minutes, 60)
    if days:
        return f"{days} d {hours} h" if hours else f"{days} d"
    if hours:
        return f"{hours} h {left} min" if left else f"{hours} h"
    return f"{left} min"


def money_words(amount: float, currency: str) -> str:
    """An amount with its currency, to the cent where it is small."""
    digits = 0 if abs(amount) >= 100 or abs(amount) < 0.005 else 2
    return f"{currency}\u00a0{grouped(amount, digits)}"
