"""Checks of what is asked that several parts of the API share."""

from shelf_core.forecast.forecast import Forecast


def check_target(result: Forecast, target: str) -> None:
    """Raises ValueError unless the design has such a target."""
    known = [one.target.id for one in result.targets]
    if target not in known:
        raise ValueError(f'expected the id of a target ({", ".join(known)}), got "{target}"')
