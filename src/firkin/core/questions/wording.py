"""What several questions say alike: the actives to choose from, doubts of a table, cautions, a rub to keep."""

from firkin.core.catalogue import Material, RuleLine, find, rule_lines
from firkin.core.formula import Formula, Line
from firkin.core.measures import Quantity, Strength, figures, rounded_up
from firkin.core.questions.declaration import Choices, Field, Given, Kind

ALCOHOL_CAUTIONS = ("flammable", "eyes", "children")
RUB_CAUTIONS = ("flammable", "soap-first", "alcohol-grade")

LOW = Given("low", "strength at the weaker ends of the labels, on the target’s basis")
HIGH = Given("high", "strength at the stronger ends of the labels, on the target’s basis")

_TABLE_DOUBT = "Isopropanol figures are good to 0.3 points. Topping up to the mark avoids the doubt."


def alcohols() -> Choices:
    """The two alcohols to choose from."""
    return [("isopropanol", "Isopropanol"), ("ethanol", "Ethanol")]


def thinned() -> Choices:
    """What is thinned with water by density: the alcohols, peroxide, and what is kept as a solution."""
    kept = ("hydrogen-peroxide", "caustic-soda", "citric-acid", "glycerol", "salt")
    return [*alcohols(), *((key, find(key).name) for key in kept)]


def active_field(opens: str = "ethanol", fallback: str = "") -> Field:
    """Which alcohol a question is about."""
    return Field("active", Kind.ACTIVE, "What", opens, choices=alcohols, fallback=fallback)


def strength_field(key: str, label: str, opens: str, help: str = "") -> Field:
    """A strength as typed, or the name of a stock on the shelf."""
    return Field(key, Kind.STRENGTH, label, opens, hint=opens, help=help)


def doubts(material: Material) -> tuple[str, ...]:
    """What to say of a table that is less sure."""
    return (_TABLE_DOUBT,) if material.id == "isopropanol" else ()


def doubt_rows(material: Material, size_mL: float, mass_g: float) -> tuple[tuple[str, str], ...]:
    """How far a volume from a less sure density table may be off, as a row of the answer."""
    alcohol = material.alcohol
    if alcohol is None or not alcohol.density_uncertainty:
        return ()
    off = size_mL * alcohol.density_uncertainty * size_mL / mass_g
    return (("May be off by, for the density table", f"± {figures(off, 2)} mL"),)


def lines_at(active: str, target: Strength) -> tuple[str, ...]:
    """Rule lines that ask for just this, with their sources; empty when none does."""
    return tuple(f"{rule.name}: {rule.source}." for rule in _lines_at(active, target))


def _lines_at(active: str, target: Strength) -> list[RuleLine]:
    return [
        rule
        for rule in rule_lines().values()
        if (limit := rule.limit_for(active)) and limit.minimum == target.high and limit.maximum is None
    ]


def with_gel(active: str, stock: Strength, parts: float, target: Strength) -> Formula:
    """Stock and aloe gel by parts, judged by the plain line the target stands for, if any."""
    lines = (
        Line(find(active), Quantity(rounded_up(parts), "part"), stock),
        Line(find("aloe-gel"), Quantity(1.0, "part")),
    )
    return Formula("Unnamed", lines, "aloe-rub", guidelines=tuple(rule.id for rule in _lines_at(active, target)[:1]))
