"""The house formulas that ship with Firkin: something for every family, to copy and make one's own."""

from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles
from firkin.core.catalogue import families
from firkin.core.formula.format import FORMULA_FORMAT, formula_from_dict
from firkin.core.formula.formula import Formula


@dataclass(frozen=True, slots=True)
class HouseFormula:
    """A house formula under its id, with the tags it is found by."""

    id: str
    formula: Formula
    tags: tuple[str, ...]

    @property
    def family(self) -> str:
        """The name of its family."""
        return families()[self.formula.family].name


@cache
def house_formulas() -> dict[str, HouseFormula]:
    """Every house formula by id.

    >>> house_formulas()["who-one"].formula.guidelines
    ('who-ethanol', 'cdc-alcohol-60')
    """
    found = {}
    for key, row in datafiles.toml("formula/house.toml").items():
        data = {name: value for name, value in row.items() if name != "tags"}
        found[key] = HouseFormula(key, formula_from_dict({"format": FORMULA_FORMAT, **data}), tuple(row["tags"]))
    return found
