"""Acid against base: does a mix end acid or alkaline, and how much base is missing or spare?"""

from dataclasses import dataclass

from firkin.core.catalogue import Material, materials
from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, Strength, Working, WorkLine, figures, weight_words
from firkin.core.questions.declaration import Answer, Asked, Choices, Field, Given, Kind, Question
from firkin.core.questions.pictures import Bar, Bars

#: Within this share of the acid the mix counts as neutral: finer than a kitchen scale can place it.
NEUTRAL_SLACK = 0.005


@dataclass(frozen=True, slots=True)
class Neutralised:
    """Moles of acid and base groups, how it ends, and the base (as supplied) missing or spare, in g."""

    acid_mol: float
    base_mol: float
    ends: str  # "acid", "neutral" or "alkaline"
    base_g_missing: float
    base_g_spare: float
    working: Working


def neutralise(
    acid: tuple[Material, Strength | None, Quantity], base: tuple[Material, Strength | None, Quantity]
) -> Neutralised:
    """Count acid against base by mole; a material with several groups counts each of them.

    Molar masses come from the catalogue (LABSA a mean of 320 g/mol). Raises CannotReckon, with the path,
    for a material that is no acid, or no base, or an amount that is neither volume nor weight.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> grams = lambda text: read_quantity(text)
    >>> ended = neutralise((find("labsa"), Strength.of(96, "w/w"), grams("100 g")),
    ...                    (find("caustic-soda"), Strength.of(100, "w/w"), grams("10 g")))
    >>> round(ended.acid_mol, 4), ended.ends, round(ended.base_g_missing, 2)
    (0.3, 'acid', 2.0)
    """
    acid_mol, acid_line, _ = _moles("acid", *acid)
    base_mol, base_line, base_g_per_mol = _moles("base", *base)
    gap = base_mol - acid_mol
    ends = "neutral" if abs(gap) <= NEUTRAL_SLACK * acid_mol else ("alkaline" if gap > 0 else "acid")
    grams = gap * base_g_per_mol
    word = "Base to spare" if gap > 0 else "Base missing"
    verdict = WorkLine(
        word,
        f"|{figures(base_mol)} − {figures(acid_mol)}| mol × {figures(base_g_per_mol)} g/mol",
        abs(grams),
        "g",
    )
    return Neutralised(acid_mol, base_mol, ends, max(0.0, -grams), max(0.0, grams), (acid_line, base_line, verdict))


def _moles(
    place: str, material: Material, strength: Strength | None, amount: Quantity
) -> tuple[float, WorkLine, float]:
    """Moles of acid or base groups, the arithmetic, and grams as supplied per mole of groups."""
    if material.molar_mass is None or place not in material.roles:
        raise CannotReckon(f"{material.name} is not counted as {_article(place)} here.").at(place, "material")
    fraction = material.mass_fraction(strength or material.usual_strength)
    fraction = 1.0 if fraction is None else fraction
    if not fraction:
        raise CannotReckon(f"At 0 % there is no {place}.").at(place, "strength")
    if amount.kind == "volume":
        grams = amount.mL * (material.bulk or material.density_at(fraction))
    elif amount.kind == "mass":
        grams = amount.g
    else:
        raise CannotReckon("Give an amount in g or mL.").at(place, "amount")
    per_mol = material.molar_mass / material.groups / fraction
    moles = grams / per_mol
    mass_per_mol = figures(material.molar_mass / material.groups)
    line = WorkLine(
        f"{material.name}, {place} groups",
        f"{figures(grams)} g × {figures(100 * fraction)} % ÷ {mass_per_mol} g/mol",
        moles,
        "mol",
    )
    return moles, line, per_mol


def _article(place: str) -> str:
    return "an acid" if place == "acid" else "a base"


def _reagents(role: str) -> Choices:
    """Materials that are counted as an acid, or as a base."""
    return [(one.id, one.name) for one in materials().values() if role in one.roles and one.molar_mass is not None]


def _answer(asked: Asked) -> Answer:
    acid, base = asked["acid"], asked["base"]
    ended = neutralise(
        (acid["material"], acid["strength"], acid["amount"]), (base["material"], base["strength"], base["amount"])
    )
    spare = ended.ends == "alkaline" or (ended.ends == "neutral" and ended.base_g_spare > 0)
    key, grams = ("base_g_spare", ended.base_g_spare) if spare else ("base_g_missing", ended.base_g_missing)
    name = base["material"].name.lower()
    rows = (
        (f"{acid['material'].name}, acid groups", f"{figures(ended.acid_mol)} mol"),
        (f"{base['material'].name}, base groups", f"{figures(ended.base_mol)} mol"),
        (f"{base['material'].name} {'to spare' if spare else 'missing'}, as supplied", weight_words(grams)),
    )
    says = [_ENDS[ended.ends].format(name=name, amount=weight_words(grams))]
    says += [
        f"No strength was given for {one['material'].name.lower()}: counted as {one['material'].usual_strength}."
        for one in (acid, base)
        if one["strength"] is None and one["material"].usual_strength is not None
    ]
    says.append(
        "Counted by mole; measure the pH before you trust it. Molar masses: LABSA a mean of 320 g/mol, from memory."
    )
    cautions = dict.fromkeys((*base["material"].cautions, *acid["material"].cautions))
    return Answer(
        {"acid_mol": ended.acid_mol, "base_mol": ended.base_mol, "ends": ended.ends, key: grams},
        ended.working,
        ended.ends,
        "is how the mix ends",
        rows,
        tuple(says),
        picture=Bars(
            (
                Bar(acid["material"].name, ended.acid_mol, f"{figures(ended.acid_mol)} mol acid", "acid"),
                Bar(base["material"].name, ended.base_mol, f"{figures(ended.base_mol)} mol base", "base"),
            )
        ),
        cautions=tuple(cautions),
    )


_ENDS = {
    "acid": "Acid is left: {amount} more of the {name} would take it up. Add it in small amounts, and measure.",
    "neutral": "They take each other up, as near as a kitchen scale can place it.",
    "alkaline": "{amount} of the {name} are more than the acid takes up: the mix stays alkaline.",
}


def _reagent(place: str, words: str, opens: tuple[str, str, str]) -> Field:
    material, strength, amount = opens
    return Field(
        place,
        Kind.GROUP,
        "",
        fields=(
            Field("material", Kind.MATERIAL, words, material, choices=lambda: _reagents(place)),
            Field("strength", Kind.STRENGTH, "Its strength", strength, hint="as usually sold", optional=True),
            Field("amount", Kind.SIZE, "How much", amount, hint=amount),
        ),
    )


NEUTRALISE = Question(
    "neutralise",
    "Acid and base",
    "Does the mix end acid or alkaline?",
    "Acid against base, counted by mole: what takes up what, and how much is missing or to spare.",
    "Soap and bottles",
    (
        _reagent("acid", "Acid", ("labsa", "98 %", "400 g")),
        _reagent("base", "Base", ("caustic-soda", "100 %", "45 g")),
    ),
    (
        Given("acid_mol", "moles of acid groups"),
        Given("base_mol", "moles of base groups"),
        Given("ends", "how the mix ends", "text", choices=("acid", "neutral", "alkaline")),
        Given("base_g_missing", "base still to add, as supplied", optional=True),
        Given("base_g_spare", "base beyond the acid, as supplied", optional=True),
    ),
    _answer,
)
