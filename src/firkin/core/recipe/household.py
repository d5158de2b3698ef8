"""Whose cups, spoons, pints and gallons a text means."""

from firkin.core import datafiles
from firkin.core.measures import QS, Quantity


def measures() -> dict[str, str]:
    """Whose cups, spoons, pints and gallons a text may mean.

    >>> measures()["metric"]
    'metric'
    """
    return {key: row["name"] for key, row in datafiles.toml("recipe/words.toml")["measures"].items()}


def in_household(amount: Quantity, whose: str) -> Quantity:
    """An amount with a bare cup, spoon, pint or gallon as those of a household, one of measures().

    >>> str(in_household(Quantity(2.0, "cup"), "metric"))
    '2 cup_metric'
    """
    if amount.unit == QS:
        return amount
    meant = datafiles.toml("recipe/words.toml")["measures"][whose].get(amount.unit, amount.unit)
    return Quantity(amount.value, meant)
