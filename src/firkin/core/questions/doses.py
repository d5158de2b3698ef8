"""What one load, wash or use of a product takes, and how many a batch or a bottle does."""

from dataclasses import dataclass

from firkin.core.catalogue import families
from firkin.core.formula import Formula, Reckoning
from firkin.core.measures import figures

#: The shortest word for one of them, where a formula says a dose and not what of.
LOAD = "load"


@dataclass(frozen=True, slots=True)
class Dose:
    """What one use takes, mL from ``low`` to ``high``; ``of`` is its word; ``said`` where the formula says it.

    A powder's mL are as a scoop measures it, loose.
    """

    low: float
    high: float
    of: str = LOAD
    said: bool = False

    @property
    def words(self) -> str:
        """Such as "108 to 120 mL a load"."""
        ends = figures(self.low, 3) if self.low == self.high else f"{figures(self.low, 3)} to {figures(self.high, 3)}"
        return f"{ends} mL {a_or_an(self.of)}"

    @property
    def source(self) -> str:
        """Where it comes from, for a sentence's end."""
        return "as the formula says" if self.said else "common practice, no source"

    def times_in(self, mL: float) -> tuple[float, float]:
        """How many uses are in so many mL: at the least and at the most.

        >>> [round(times) for times in Dose(108.0, 120.0).times_in(37854.0)]
        [315, 350]
        """
        return mL / self.high, mL / self.low


def a_or_an(word: str) -> str:
    """A word with its article: "a load", "an egg".

    Args:
        word: a noun.

    >>> a_or_an("load"), a_or_an("egg")
    ('a load', 'an egg')
    """
    return f"{'an' if word[:1] in 'aeio' else 'a'} {word}"


def dose_of(formula: Formula, result: Reckoning | None = None) -> Dose | None:
    """What one use of a formula takes: as it says, or else as is usual in its family; None where nothing is usual.

    A dose in g needs the ``result`` of its reckoning, to become mL; a number of ``loads`` the formula says it makes
    gives one too.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        result: its reckoning; needed where the dose is told in g.

    >>> from firkin.core.formula import house_formulas
    >>> dose_of(house_formulas()["laundry-concentrate"].formula).words
    '108 to 120 mL a load'
    """
    family = families()[formula.family]
    of = formula.dose_of or family.dose_of or LOAD
    if formula.dose is not None:
        mL = _as_mL(formula, result)
        return Dose(mL, mL, of, said=True) if mL else None
    if formula.loads and result is not None:
        mL = whole_mL(result) / formula.loads
        return Dose(mL, mL, of, said=True)
    if not family.dose_mL:
        return None
    low, high = family.dose_mL
    return Dose(low, high, family.dose_of)


def whole_mL(result: Reckoning) -> float:
    """What a batch comes to as it is used, mL: cut with its water, a powder loose.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> round(whole_mL(reckon(house_formulas()["who-one"].formula)))
    1000
    """
    if result.formula.dry:
        return sum(line.loose_mL for line in result.lines)
    return result.total.volume_mL * (1.0 + result.formula.cut)


def _as_mL(formula: Formula, result: Reckoning | None) -> float | None:
    dose = formula.dose
    if dose is None or dose.kind == "volume":
        return None if dose is None else dose.mL
    if dose.kind != "mass" or result is None:
        return None
    return dose.g * whole_mL(result) / (result.total.mass_g * (1.0 + result.formula.cut))
