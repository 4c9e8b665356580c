"""Files of a forecast, made in memory."""

import io
from collections.abc import Callable
from functools import lru_cache

from django.conf import settings
from django.utils import timezone

from shelf_core.report.asked import Asked, Table
from shelf_core.report.page import report
from shelf_core.report.parquet import write_parquet
from shelf_core.report.tables import write_csv
from shelf_core.report.workbook import write_workbook
from shelf_server.designs.models import Design
from shelf_server.designs.results import stored_cost, stored_forecast


def asked_of(row: Design, on: str) -> Asked:
    """What the files of a design are made of. Raises ValueError for a day outside of it."""
    result = stored_forecast(row)
    result.place_of(on)
    return Asked(result, stored_cost(row), on, today())


def today() -> str:
    """The day that is printed in files."""
    return timezone.localdate().isoformat()


def csv_of(one: Table) -> bytes:
    """A table as CSV in UTF-8."""
    out = io.StringIO()
    write_csv(one, out)
    return out.getvalue().encode()


def _workbook(asked: Asked) -> bytes:
    out = io.BytesIO()
    write_workbook(asked, out)
    return out.getvalue()


def _parquet(asked: Asked) -> bytes:
    out = io.BytesIO()
    write_parquet(asked, out)
    return out.getvalue()


def _html(asked: Asked) -> bytes:
    return report(asked).encode()


def _pdf(asked: Asked) -> bytes:
    # It takes longer to load than everything else, and few processes ever need it.
    from weasyprint import HTML  # noqa: PLC0415
    from weasyprint.urls import URLFetcher  # noqa: PLC0415

    # Nothing is fetched: the page names no file but the fonts that ship with the front end.
    page = HTML(string=report(asked, _fonts()), url_fetcher=URLFetcher(allowed_protocols=["file"]))
    # With tags it is read aloud in its order, its tables as tables; headings are its bookmarks.
    found: bytes = page.write_pdf(pdf_tags=True)
    return found


@lru_cache(maxsize=1)
def _fonts() -> str:
    assets = settings.WEB_BUILD / "assets"
    families = (("Fraunces", "fraunces-latin-wght"), ("Source Sans 3", "source-sans-3-latin-wght"))
    return "".join(
        f'@font-face {{ font-family: "{family}"; src: url("{path.as_uri()}"); font-weight: 200 900 }}'
        for family, start in families
        for path in sorted(assets.glob(f"{start}-*.woff2"))
    )


FILES: dict[str, tuple[str, Callable[[Asked], bytes]]] = {
    "report.html": ("text/html; charset=utf-8", _html),
    "report.pdf": ("application/pdf", _pdf),
    "forecast.xlsx": ("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", _workbook),
    "series.parquet": ("application/vnd.apache.parquet", _parquet),
}
"""What can be taken away, by file name: its media type, and what makes it."""
