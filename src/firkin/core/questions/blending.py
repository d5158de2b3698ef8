"""Two strengths into one: blending bottles, lifting a weak batch, thinning a strong one.

Parts by label arithmetic are the alligation of the pharmacist; volumes come from masses and the
density of the mixture, so contraction counts. At 20 degC.
"""

from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength, Working, WorkLine, figures

WATER = Strength.of(0.0, "v/v")


@dataclass(frozen=True, slots=True)
class Blend:
    """Parts by label arithmetic, mL of each to measure, and the strength that results, in per cent."""

    parts: tuple[float, float]
    volumes_mL: tuple[float, float]
    masses_g: tuple[float, float]
    true: float
    working: Working


def fraction(active: Material, strength: Strength) -> float:
    """Mass fraction of an active at a nominal strength; a strength of 0 is plain water."""
    if not strength.value:
        return 0.0
    found = active.mass_fraction(strength)
    assert found is not None
    return found


def blend(active: Material, stocks: tuple[Strength, Strength], target: Strength, make_mL: float) -> Blend:
    """How to blend two stocks to ``make_mL`` of ``target``; one of them may be water (0 %).

    Raises CannotReckon when the target does not lie between them.

    >>> from firkin.core.catalogue import find
    >>> percent = lambda value: Strength.of(value, "v/v")
    >>> two = blend(find("ethanol"), (percent(95.0), percent(50.0)), percent(70.0), 1000.0)
    >>> two.parts, [round(v, 1) for v in two.volumes_mL]
    ((20.0, 25.0), [435.9, 571.9])
    """
    first, second = (fraction(active, stock) for stock in stocks)
    wanted = fraction(active, target)
    low, high = sorted((first, second))
    if first == second or not low <= wanted <= high:
        weak, strong = sorted(stocks, key=lambda stock: stock.value)
        raise CannotReckon(
            f"{target} does not lie between {weak} and {strong}; those two reach anything from the one to the other."
        ).at("target")
    density = active.density_at(wanted)
    whole_g = make_mL * density
    first_g = whole_g * (wanted - second) / (first - second)
    masses = (first_g, whole_g - first_g)
    volumes = (masses[0] / active.density_at(first), masses[1] / active.density_at(second))
    parts = (abs(target.value - stocks[1].value), abs(stocks[0].value - target.value))
    working = (
        WorkLine(
            f"Parts of {stocks[0]}, by label",
            f"|{figures(target.value)} − {figures(stocks[1].value)}|",
            parts[0],
            "",
        ),
        WorkLine(
            f"Parts of {stocks[1]}, by label",
            f"|{figures(stocks[0].value)} − {figures(target.value)}|",
            parts[1],
            "",
        ),
        WorkLine("Weight of the blend", f"{figures(make_mL)} mL × {figures(density)} g/mL", whole_g, "g"),
        WorkLine(
            f"Of it {stocks[0]}, by weight",
            f"{figures(whole_g)} g × ({figures(100 * wanted)} − {figures(100 * second)}) ÷ "
            f"({figures(100 * first)} − {figures(100 * second)})",
            masses[0],
            "g",
        ),
        WorkLine(
            f"{stocks[0]} to measure",
            f"{figures(masses[0])} g ÷ {figures(active.density_at(first))} g/mL",
            volumes[0],
            "mL",
        ),
        WorkLine(
            f"{stocks[1]} to measure",
            f"{figures(masses[1])} g ÷ {figures(active.density_at(second))} g/mL",
            volumes[1],
            "mL",
        ),
        WorkLine(
            "They shrink by",
            f"{figures(sum(volumes))} − {figures(make_mL)}",
            sum(volumes) - make_mL,
            "mL",
        ),
    )
    return Blend(parts, volumes, masses, target.value, working)


@dataclass(frozen=True, slots=True)
class ThreeBlend:
    """A bottle used up, a second one and water: mL of each."""

    first_mL: float
    second_mL: float
    water_mL: float
    working: Working


def blend_with_water(
    active: Material, first: Strength, first_mL: float, second: Strength, target: Strength, make_mL: float
) -> ThreeBlend:
    """Use up ``first_mL`` of one bottle; find the second and the water that bring it to ``make_mL``.

    Raises CannotReckon when the first bottle alone already holds too much, or the two too little.

    >>> from firkin.core.catalogue import find
    >>> percent = lambda value: Strength.of(value, "v/v")
    >>> three = blend_with_water(find("ethanol"), percent(50.0), 200.0, percent(96.0), percent(70.0), 1000.0)
    >>> [round(v) for v in (three.first_mL, three.second_mL, three.water_mL)]
    [200, 625, 195]
    """
    one, two, wanted = (fraction(active, s) for s in (first, second, target))
    if not two:
        raise CannotReckon("The second bottle must hold some of the active.").at("second")
    whole = make_mL * active.density_at(wanted)
    first_g = first_mL * active.density_at(one)
    second_g = (whole * wanted - first_g * one) / two
    water_g = whole - first_g - second_g
    if second_g < 0:
        most = make_mL * (active.density_at(wanted) * wanted) / (active.density_at(one) * one)
        raise CannotReckon(
            f"{figures(first_mL)} mL of {first} already hold more than the batch needs; use at most {figures(most)} mL."
        ).at("first")
    if water_g < -1e-9 * whole:
        raise CannotReckon(
            f"{target} cannot be reached with {figures(first_mL)} mL of {first} in {figures(make_mL)} mL; "
            "use less of it, or a stronger second bottle."
        ).at("target")
    second_mL = second_g / active.density_at(two)
    water_mL = max(0.0, water_g) / active.density_at(0.0)
    working = (
        WorkLine("Active needed, by weight", f"{figures(whole)} g × {figures(100 * wanted)} %", whole * wanted, "g"),
        WorkLine("Brought by the first bottle", f"{figures(first_g)} g × {figures(100 * one)} %", first_g * one, "g"),
        WorkLine("The rest from the second", f"÷ {figures(100 * two)} %", second_g, "g"),
        WorkLine("Water", f"{figures(whole)} − {figures(first_g)} − {figures(second_g)}", max(0.0, water_g), "g"),
    )
    return ThreeBlend(first_mL, second_mL, water_mL, working)


@dataclass(frozen=True, slots=True)
class Adjustment:
    """What to add to a batch, in mL and g, by density and by label arithmetic, and what it becomes."""

    add_mL: float
    add_g: float
    label_add_mL: float
    new_volume_mL: float
    new_mass_g: float
    working: Working

    def pour_off(self, batch_mL: float, room_mL: float) -> float:
        """How many mL of the batch to take out first so that the rest, adjusted, fits ``room_mL``."""
        return max(0.0, batch_mL * (1.0 - room_mL / self.new_volume_mL))


def strengthen(active: Material, batch_mL: float, now: Strength, stock: Strength, target: Strength) -> Adjustment:
    """How much of a stronger stock lifts a weak batch to ``target``.

    Raises CannotReckon when the batch already holds it or the stock is not above it.

    >>> from firkin.core.catalogue import find
    >>> percent = lambda value: Strength.of(value, "v/v")
    >>> lift = strengthen(find("isopropanol"), 750.0, percent(52.5), percent(91.0), percent(60.0))
    >>> round(lift.label_add_mL, 1)
    181.5
    """
    if target.value <= now.value:
        raise CannotReckon(f"The batch is at {now} already; to bring it down to {target}, weaken it.").at("target")
    if stock.value <= target.value:
        raise CannotReckon(
            f"A stock of {stock} cannot lift a batch to {target}; it must be stronger. "
            f"With it the batch stays below {stock}."
        ).at("with")
    return _adjust(active, batch_mL, now, stock, target)


def weaken(active: Material, batch_mL: float, now: Strength, thinner: Strength, target: Strength) -> Adjustment:
    """How much water (0 %) or weaker stock thins a batch to ``target``.

    Raises CannotReckon when the batch is already below it or the thinner is not.

    >>> from firkin.core.catalogue import find
    >>> percent = lambda value: Strength.of(value, "v/v")
    >>> thin = weaken(find("ethanol"), 1000.0, percent(90.0), WATER, percent(70.0))
    >>> round(thin.add_mL, 1), round(thin.label_add_mL, 1)
    (310.0, 285.7)
    """
    if not target.value:
        raise CannotReckon("No amount of water brings a batch to 0 %; name what it should still hold.").at("target")
    if target.value >= now.value:
        raise CannotReckon(f"The batch is at {now} already; to lift it to {target}, strengthen it.").at("target")
    if thinner.value >= target.value:
        raise CannotReckon(f"{thinner} cannot thin a batch to {target}; it must be weaker. Water, 0 %, always can.").at(
            "with"
        )
    return _adjust(active, batch_mL, now, thinner, target)


def _adjust(active: Material, batch_mL: float, now: Strength, other: Strength, target: Strength) -> Adjustment:
    if batch_mL <= 0:
        raise CannotReckon("A batch has more than 0 mL.").at("batch")
    has, brings, wants = (fraction(active, s) for s in (now, other, target))
    batch_g = batch_mL * active.density_at(has)
    add_g = batch_g * (wants - has) / (brings - wants)
    add_mL = add_g / active.density_at(brings)
    new_volume = (batch_g + add_g) / active.density_at(wants)
    label = batch_mL * (target.value - now.value) / (other.value - target.value)
    working = (
        WorkLine("The batch weighs", f"{figures(batch_mL)} mL × {figures(active.density_at(has))} g/mL", batch_g, "g"),
        WorkLine(
            "To add, by weight",
            f"{figures(batch_g)} g × ({figures(100 * wants)} − {figures(100 * has)}) ÷ "
            f"({figures(100 * brings)} − {figures(100 * wants)})",
            add_g,
            "g",
        ),
        WorkLine("To add", f"{figures(add_g)} g ÷ {figures(active.density_at(brings))} g/mL", add_mL, "mL"),
        WorkLine(
            "Label arithmetic would say",
            f"{figures(batch_mL)} × ({figures(target.value)} − {figures(now.value)}) ÷ "
            f"({figures(other.value)} − {figures(target.value)})",
            label,
            "mL",
        ),
        WorkLine(
            "The batch becomes",
            f"({figures(batch_g)} + {figures(add_g)}) g ÷ {figures(active.density_at(wants))} g/mL",
            new_volume,
            "mL",
        ),
    )
    return Adjustment(add_mL, add_g, label, new_volume, batch_g + add_g, working)
