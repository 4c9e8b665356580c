"""Figures as they are written in sentences and reports."""

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


def money_words(amount: float, currency: str) -> str:
    """An amount with its currency, to the cent where it is small."""
    digits = 0 if abs(amount) >= 100 or abs(amount) < 0.005 else 2
    return f"{currency}\u00a0{amount:,.{digits}f}".replace(",", "\u202f")
