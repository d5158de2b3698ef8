"""Formulas drawn at random for properties: of every family, by volume and by weight, cold and warm, sure and unsure."""

from hypothesis import strategies as st

from firkin.core.catalogue import families, find, rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Step, reckon
from firkin.core.measures import QS, Quantity, Strength

#: What each family is usually made of, and what strays into it.
_POOLS = {
    "rub": ["ethanol", "isopropanol", "water", "glycerol", "hydrogen-peroxide", "aloe-gel", "lavender-oil", "lemon-oil",
            "bergamot-oil", "propylene-glycol", "hydrosol", "fragrance", "mineral-oil", "olive oil"],
    "gel": ["ethanol", "isopropanol", "water", "glycerol", "xanthan-gum", "carbomer", "triethanolamine", "crosspolymer",
            "polyacrylate-gel", "lime-oil", "salt", "aloe-gel"],
    "soap": ["castile-soap", "bar-soap", "water", "glycerol", "phenoxyethanol", "sodium-benzoate", "essential-oil", "salt",
             "coconut-oil", "white-vinegar", "citric-acid", "borax"],
    "dish": ["water", "caustic-soda", "labsa", "sles", "cocamide-dea", "urea", "salt", "phenoxyethanol", "fragrance", "dye",
             "formalin", "nonylphenol-ethoxylate", "citric-acid"],
    "powder": ["citric-acid", "borax", "washing-soda", "soda-crystals", "baking-soda", "salt", "oxygen-bleach", "bar-soap",
               "water"],
    "ferment": ["raw-sugar", "citrus-peel", "water", "ferment-starter"],
    "surface": ["sodium-hypochlorite", "hydrogen-peroxide", "water", "ethanol", "white-vinegar", "fragrance", "hydrosol"],
}  # fmt: skip
_POOL_OF = {
    "liquid-rub": "rub", "aloe-rub": "rub", "gel": "gel", "foaming-soap": "soap", "liquid-soap": "soap",
    "dish-liquid": "dish", "dishwasher-powder": "powder", "laundry-soap": "powder", "ferment": "ferment",
    "surface": "surface", "other": "dish",
}  # fmt: skip
_STRENGTHS = {
    "ethanol": (40.0, 99.0, "v/v"), "isopropanol": (60.0, 99.8, "v/v"), "hydrogen-peroxide": (3.0, 12.0, "w/v"),
    "sodium-hypochlorite": (2.0, 9.0, "w/w"), "sles": (25.0, 70.0, "w/w"), "labsa": (90.0, 98.0, "w/w"),
    "caustic-soda": (20.0, 99.0, "w/w"), "white-vinegar": (4.0, 10.0, "w/v"), "glycerol": (80.0, 99.0, "w/w"),
}  # fmt: skip
_MINOR = {"essential-oil", "thickener", "preservative", "dye", "fragrance", "neutraliser"}
_RUB_LINES = ["cdc-alcohol-60", "hicpac-60-95", "hospital-70", "who-ethanol", "who-isopropanol", "fda-tfm"]


@st.composite
def _line(draw, material: str, kind: str) -> Line:
    found = find(material)
    minor = bool(_MINOR & found.roles)
    size = draw(st.floats(0.05, 2.0) if minor else st.floats(2.0, 90.0))
    size = float(f"{size:.3g}")
    unit = {"volume": "mL", "mass": "g", "percent": "%", "part": "part"}[kind]
    factor = 10.0 if kind in ("volume", "mass") else 1.0
    amount = Quantity(size * factor, unit)
    strength = None
    if material in _STRENGTHS and draw(st.booleans()):
        low, high, basis = _STRENGTHS[material]
        value = round(draw(st.floats(low, high)), 1)
        wide = draw(st.sampled_from([0.0, 0.0, 1.0, 4.0]))
        top = min(value + wide, 99.9)
        strength = Strength((value + top) / 2, value, top, basis)
    error = draw(st.sampled_from([0.0, 0.0, 0.02, 0.05]))
    return Line(found, amount, strength, error=error)


@st.composite
def formulas(draw) -> Formula:
    """A formula that can be reckoned, of any family, with rule lines that may or may not suit it."""
    family = draw(st.sampled_from(sorted(families())))
    pool = _POOLS[_POOL_OF[family]]
    materials = draw(st.lists(st.sampled_from(pool), min_size=2, max_size=6, unique=True))
    kind = draw(st.sampled_from(["volume", "mass", "percent", "part", "mixed"]))
    lines = [
        draw(_line(one, draw(st.sampled_from(["volume", "mass"])) if kind == "mixed" else kind)) for one in materials
    ]
    make = None
    basis = draw(st.sampled_from(["volume", "weight"]))
    if kind in ("volume", "mass", "mixed") and "water" in materials and draw(st.booleans()):
        at = materials.index("water")
        lines[at] = Line(find("water"), Quantity(0.0, QS))
        make = Quantity(draw(st.sampled_from([1.0, 1.5, 2.0, 3.0])), "L")
    elif kind == "percent" and draw(st.booleans()):
        make = Quantity(1.0, "L")
    guidelines: tuple[str, ...] = ()
    if families()[family].rub and draw(st.booleans()):
        guidelines = (draw(st.sampled_from(_RUB_LINES)),)
    elif draw(st.integers(0, 5)) == 0:
        guidelines = (draw(st.sampled_from(sorted(rule_lines()))),)
    steps = (Step("mix", "Stir everything together.", tuple(range(len(lines)))),) if draw(st.booleans()) else ()
    formula = Formula(
        "At random", tuple(lines), family, basis, make, draw(st.sampled_from([20.0, 20.0, 5.0, 35.0])), guidelines, steps=steps
    )  # fmt: skip
    return formula


def can_be_reckoned(formula: Formula) -> bool:
    """True where the numbers come to something."""
    try:
        reckon(formula)
    except CannotReckon:
        return False
    return True
