"""What the API says of how a person likes to see things."""

from ninja import Schema
from pydantic import Field, model_validator

from shelf_core.digits import Digits
from shelf_core.style import Dates
from shelf_server.api.schemas import Strict


class GridColumn(Strict):
    """A column of the grid of workloads: its name, how many pixels wide (null: as at first), whether it is hidden."""

    field: str = Field(max_length=40, pattern="^[A-Za-z_]+$")
    width: int | None = Field(default=None, ge=30, le=800)
    hidden: bool = False


class Style(Strict):
    """How figures are written for a person: what stands between thousands, and how dates that stand by themselves are."""

    digits: Digits = "space"
    dates: Dates = "words"


class PreferencesIn(Strict):
    """What a person has chosen. Columns that are not named come after those that are, as at first."""

    grid: list[GridColumn] = Field(max_length=60)
    style: Style = Style()

    @model_validator(mode="after")
    def _each_once(self) -> "PreferencesIn":
        fields = [one.field for one in self.grid]
        if twice := sorted({one for one in fields if fields.count(one) > 1}):
            raise ValueError(f"expected each column once, got {', '.join(twice)} twice")
        return self


class PreferencesOut(Schema):
    """What a person has chosen, as at first where nothing was."""

    grid: list[GridColumn]
    style: Style
