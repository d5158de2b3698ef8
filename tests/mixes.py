"""Short ways to write a formula in a test."""

from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.formula import FORMULA_FORMAT, Formula, Line, formula_from_dict, reckon
from firkin.core.measures import Strength, read_quantity, read_volume_or_mass


def line(material: str, amount: str, strength: str = "") -> Line:
    """One line, written as a maker writes it."""
    found = find(material)
    return Line(found, read_quantity(amount), found.read_strength(strength) if strength else None)


def mix(*lines: tuple[str, ...], make: str = "", **options) -> Formula:
    """A formula of (material, amount[, strength]) lines."""
    return Formula(
        "Test mix",
        tuple(line(*parts) for parts in lines),
        make=read_volume_or_mass(make) if make else None,
        **options,
    )


#: A small gel with phases, portions and waits, for tests of what is done to formulas and batches.
GEL = formula_from_dict(
    {
        "format": FORMULA_FORMAT,
        "name": "Xanthan gel",
        "family": "gel",
        "make": "1 L",
        "guideline": "cdc-alcohol-60",
        "lines": [
            {"material": "glycerol", "amount": "20 mL", "phase": "A"},
            {"material": "xanthan-gum", "amount": "8 g", "phase": "A", "note": "clear grade, if it should be clear"},
            {"material": "ethanol", "strength": "96 % v/v", "amount": "670 mL", "phase": "C"},
            {"material": "water", "amount": "q.s.", "phase": "B"},
        ],
        "steps": [
            {"do": "slurry", "text": "Stir the xanthan into the glycerol until no lump is left.", "lines": [0, 1]},
            {"do": "gel", "text": "Whisk the slurry into most of the water and let the gel form.", "wait": "1 h"},
            {"do": "pour", "text": "Add the alcohol slowly.", "lines": [2], "portions": 10},
            {"do": "top up", "text": "Stir in water to the mark.", "lines": [3]},
            {"do": "quarantine", "text": "Keep it closed for 72 hours.", "wait": "72 h"},
        ],
    }
)


def vv(value: float) -> Strength:
    """A strength by volume."""
    return Strength.of(value, "v/v")


alcohols = st.sampled_from(["ethanol", "isopropanol"])

percents = st.floats(min_value=1, max_value=100)

sizes = st.floats(min_value=10, max_value=10_000)


def mixed(alcohol: str, *pairs: tuple[float, float], water_mL: float = 0.0):
    """What (volume, % v/v) pairs and water really come to, by the mixture model."""
    lines: list[tuple[str, ...]] = [
        (alcohol, f"{volume:.9f} mL", f"{percent:.9f} %") for volume, percent in pairs if volume > 1e-6
    ]
    lines += [("water", f"{water_mL:.9f} mL")] if water_mL > 1e-6 else []
    return reckon(mix(*lines))
