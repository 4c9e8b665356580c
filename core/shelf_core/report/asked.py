"""What reports, workbooks and tables are made of, and a table."""

from collections.abc import Iterable
from dataclasses import dataclass

from shelf_core.cost.cost import Cost
from shelf_core.forecast.forecast import Forecast
from shelf_core.formats.csv_text import Cell
from shelf_core.nights.picture import YearsOfNights
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.case_months import MonthsOfCase
from shelf_core.style import AT_FIRST, FigureStyle


@dataclass(frozen=True)
class Table:
    """Rows under named columns. Bytes and money are plain numbers; the column names say the unit."""

    name: str
    title: str
    columns: tuple[str, ...]
    rows: Iterable[tuple[Cell, ...]]


@dataclass(frozen=True)
class Asked:
    """What the tables are made of: a forecast with its cost, as of the end of the day `on`, seen on `today`.

    `arrivals` and `nights` are those of this very state of the design, None where its nights have not been followed; `months`
    its cases of loss through the months, None where they have not been looked through. `style` is how its reader likes figures
    to be written, where they are written and not kept as such.
    """

    result: Forecast
    cost: Cost
    on: str
    today: str
    arrivals: Arrivals | None = None
    nights: YearsOfNights | None = None
    months: list[MonthsOfCase] | None = None
    style: FigureStyle = AT_FIRST
