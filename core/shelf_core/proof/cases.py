"""The world at an instant, after a case of loss or as it is: what can be restored in it."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Mask
from shelf_core.design.document import Design
from shelf_core.design.standing import LossCase
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.lying import Lying
from shelf_core.proof.spans import Spans, each


@dataclass(frozen=True, eq=False)
class World:
    """What is left at an instant, and what of it can be restored. `asked` is the newest moment that is good."""

    after: Aftermath
    instant: int
    asked: int

    @property
    def result(self) -> Forecast:
        """The forecast that all this is of."""
        return self.after.result

    @property
    def design(self) -> Design:
        """Its design."""
        return self.after.result.design

    @property
    def case(self) -> LossCase | None:
        """The case that came, None for none."""
        return self.after.case

    def restorable(self, lying: Lying) -> Mask:
        """Which points of a stage can be restored now, logs each by itself: those that are there and that the case leaves."""
        return self._now(self.after.restorable(lying), lying)

    def there(self, lying: Lying) -> Mask:
        """Which points of a stage the case leaves of all that are there, whole or not."""
        life = lying.holding.life
        return self._now(self.after.spared(lying, each(life.written.astype(float), life.removed.astype(float))), lying)

    def _now(self, spans: Spans, lying: Lying) -> Mask:
        found = np.zeros(len(lying.taken), bool)
        found[spans.place[(spans.begin < self.instant) & (self.instant <= spans.end)]] = True
        return found


def as_it_is(result: Forecast, instant: int, moment: int | None = None) -> World:
    """All that is there at an instant, asked for at a moment, by default the same."""
    return World(Aftermath(result), instant, instant if moment is None else moment)


def world_after(after: Aftermath, instant: int) -> World:
    """What a case leaves when it comes at an instant."""
    return World(after, instant, int(after.asked(np.array([instant]))[0]))
