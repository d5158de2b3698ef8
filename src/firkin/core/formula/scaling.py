"""Ways to say how much to make: a size, bottles, a vessel, what is left of a stock, so many times."""

import re
from collections.abc import Mapping
from dataclasses import dataclass

from firkin.core.catalogue import families
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.formula.formula import Formula
from firkin.core.formula.reckoning import Reckoning, reckon
from firkin.core.measures import Quantity, read_number, read_volume, read_volume_or_mass, rounded, rounded_down
from firkin.core.texts import quoted

WAYS = {
    "size": "a size, such as 1.5 L",
    "bottles": "bottles, such as 6 × 500 mL",
    "vessel": "to fill a vessel, such as 2.5 L",
    "stock": "to use up what is left of the first stock, such as 350 mL",
    "shelf": "as much as the shelf has enough for",
    "times": "so many times, such as 3 or 1/20",
}


@dataclass(frozen=True, slots=True)
class Enough:
    """How far the stocks at hand go: the size they make, the line that runs out first, lines with no stock."""

    make: Quantity
    limiting: int
    missing: tuple[int, ...] = ()


#: A batch this much of its vessel fills it to the brim and does not run over: to within what is read off a jug.
_BRIM = 1.005  # common practice, no source


def overflows(batch_mL: float, vessel_mL: float) -> bool:
    """True when a batch is more than a vessel holds, as well as either is read off.

    Args:
        batch_mL: volume of the batch, mL.
        vessel_mL: what the vessel holds, mL.

    >>> overflows(1000.0000001, 1000.0), overflows(1010.0, 1000.0)
    (False, True)
    """
    return batch_mL > vessel_mL * _BRIM


def falls_short(have: float, needed: float) -> bool:
    """True when there is less than is needed, beyond what rounding to four figures makes of it.

    Args:
        have: what is there, in any unit.
        needed: what is needed, in the same unit.

    >>> falls_short(999.5, 1000.0), falls_short(990.0, 1000.0)
    (False, True)
    """
    return have < needed * 0.999


def enough(result: Reckoning, on_hand_g: Mapping[str, float]) -> Enough | None:
    """How far stocks go for a reckoned formula; ``on_hand_g`` the grams at hand by material id.

    A material in several lines is taken from the same stock for all of them. Water is taken to be there; a line
    with no stock listed stands in ``missing``. None when nothing is listed.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        on_hand_g: grams at hand by id of the material.

    >>> from firkin.core.formula.house import house_formulas
    >>> found = enough(reckon(house_formulas()["who-one"].formula), {"ethanol": 4000.0, "glycerol": 40.0})
    >>> found.limiting, str(found.make), found.missing
    (2, '2187 mL', (1,))
    """
    needed: dict[str, float] = {}
    first: dict[str, int] = {}
    for i, worked in enumerate(result.lines):
        needed[worked.material.written] = needed.get(worked.material.written, 0.0) + worked.mass_g
        first.setdefault(worked.material.written, i)
    reach = {first[key]: on_hand_g[key] / grams for key, grams in needed.items() if key in on_hand_g and grams}
    if not reach:
        return None
    limiting = min(reach, key=lambda i: reach[i])
    lacking = (i for key, i in first.items() if key not in on_hand_g)
    missing = tuple(i for i in lacking if "water" not in result.lines[i].material.roles)
    size = rounded_down(result.total.volume_mL * reach[limiting])
    return Enough(_mL(size), limiting, missing)


def scale(formula: Formula, way: str, text: str, on_hand_g: Mapping[str, float] | None = None) -> Formula:
    """The formula scaled in one of WAYS, from what the maker wrote; ``on_hand_g`` for the shelf, grams by material.

    Bottles and vessels keep the headspace of the family, 5 % for most.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        way: one of WAYS.
        text: what the maker wrote for it.
        on_hand_g: grams at hand by id of the material, for the way "shelf".

    Raises:
        CannotReckon: with a sentence for anything else.

    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> asked = (("size", "2 L"), ("bottles", "6 x 500 mL"), ("times", "1/20"))
    >>> [str(scale(rub, way, text).make) for way, text in asked]
    ['2000 mL', '2850 mL', '50 mL']
    """
    if way == "bottles":
        return formula.scaled_to(_mL(_bottles(text) * _kept(formula)))
    if way == "vessel":
        return formula.scaled_to(_mL(read_volume(text, "2.5 L").mL * _kept(formula)))
    if way == "stock":
        return _use_up(formula, read_volume_or_mass(text, "350 mL"))
    if way == "shelf":
        found = enough(reckon(formula), on_hand_g or {})
        if found is None or not found.make.value:
            raise CannotReckon("Nothing of this is on the shelf with an amount. Put the bottles there, or name a size.")
        return formula.scaled_to(found.make)
    if way == "times":
        return _times(formula, text)
    size = read_volume_or_mass(text)
    return formula.scaled_to(_mL(size.mL) if size.kind == "volume" else size)


def first_stock(formula: Formula) -> int:
    """The line whose stock decides: the first alcohol or other active, or else the first line."""
    lines = enumerate(formula.lines)
    return next((i for i, line in lines if line.material.reports == "active" and line.amount.kind != "qs"), 0)


def _mL(volume_mL: float) -> Quantity:
    return Quantity(volume_mL, "mL")


def _kept(formula: Formula) -> float:
    return 1.0 - families()[formula.family].headspace_pct / 100.0


def _bottles(text: str) -> float:
    """mL in so many bottles, to the brim."""
    match = re.fullmatch(r"\s*(\d{1,5})\s*(?:×|x|\*|bottles? of|of)\s*(.+)", text, re.IGNORECASE)
    if match is None or int(match[1]) == 0:
        raise CannotRead(f"{quoted(text)} is not a number of bottles. Write one such as 6 × 500 mL.")
    return int(match[1]) * read_volume(match[2], "500 mL").mL


def _times(formula: Formula, text: str) -> Formula:
    factor = read_number(text)
    if factor <= 0:
        raise CannotRead("Make it more than 0 times.")
    return formula.scaled_to(_mL(reckon(formula).total.volume_mL * factor))


def _use_up(formula: Formula, left: Quantity) -> Formula:
    result = reckon(formula)
    place = first_stock(formula)
    worked = result.lines[place]
    has = worked.loose_mL if left.kind == "volume" else worked.mass_g
    if has <= 0:
        raise CannotReckon(f"{worked.material.name} has no amount here to scale by.")
    factor = (left.mL if left.kind == "volume" else left.g) / has
    return formula.scaled_to(_mL(rounded(result.total.volume_mL * factor, 6)))
