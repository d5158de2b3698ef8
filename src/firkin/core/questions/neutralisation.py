"""Acid against base: does a mix end acid or alkaline, how much base is missing or spare, and what gas comes of it?"""

from dataclasses import dataclass

from firkin.core.catalogue import Material, materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import Reckoning, nature
from firkin.core.measures import Quantity, Strength, Working, WorkLine, figures, weight_words
from firkin.core.questions.declaration import Answer, Asked, Choices, Field, Given, Kind, Question
from firkin.core.questions.pictures import Bar, Bars
from firkin.core.texts import uncapped

#: Within this share of the acid the mix counts as neutral: finer than a kitchen scale can place it.
NEUTRAL_SLACK = 0.005
#: By moles caustic counts as used up when at most this share of it is left over: LABSA's molar mass is a mean, and
#: labels are rounded (common practice, no source).
SURE_BY_MOLES = 0.05
#: Litres in a mole of gas at 20 degC and 101.325 kPa: R T / p, with R = 8.314463 J/(mol K) (NIST, CODATA 2018).
GAS_L_PER_MOL = 8.314463 * 293.15 / 101.325

Reagent = tuple[Material, Strength | None, Quantity]


@dataclass(frozen=True, slots=True)
class Moles:
    """How much there is of an acid or a base: g as supplied, mol of it, mol of protons it gives or takes up."""

    material: Material
    mass_g: float
    mol: float
    protons: float

    @property
    def g_per_proton(self) -> float:
        """Grams as supplied for a mole of protons."""
        return self.mass_g / self.protons


@dataclass(frozen=True, slots=True)
class Neutralised:
    """Acid and base in mol, and in mol of protons (``_h``); how it ends; base missing or spare, as supplied, in g."""

    acid_mol: float
    acid_mol_h: float
    base_mol: float
    base_mol_h: float
    ends: str  # "acid", "neutral" or "alkaline"
    base_g_missing: float
    base_g_spare: float
    working: Working


def neutralise(acid: Reagent, base: Reagent) -> Neutralised:
    """Count acid against base by mole of protons; a material that gives or takes several counts each of them.

    Molar masses come from the catalogue (LABSA a mean of 320 g/mol); volumes of a solution become grams by its
    density.

    Args:
        acid: material, strength and amount of the acid.
        base: material, strength and amount of the base.

    Raises:
        CannotReckon: with the path, for a material that is no acid, or no base, or an amount that is neither
            volume nor weight.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> ended = neutralise((find("labsa"), Strength.of(98, "w/w"), read_quantity("100 g")),
    ...                    (find("caustic-soda"), Strength.of(50, "w/w"), read_quantity("20 mL")))
    >>> round(ended.acid_mol, 3), round(ended.base_mol, 3), ended.ends
    (0.306, 0.381, 'alkaline')
    """
    sour, acid_lines = moles("acid", "acid", *acid)
    plain, base_lines = moles("base", "base", *base)
    gap = plain.protons - sour.protons
    grams = gap * plain.g_per_proton
    verdict = WorkLine(
        "Base left over" if gap > 0 else "Base missing",
        f"|{figures(plain.protons)} − {figures(sour.protons)}| mol × {figures(plain.g_per_proton)} g/mol",
        abs(grams),
        "g",
    )
    return Neutralised(
        sour.mol,
        sour.protons,
        plain.mol,
        plain.protons,
        _ending(sour, plain),
        max(0.0, -grams),
        max(0.0, grams),
        (*acid_lines, *base_lines, verdict),
    )


def _ending(acid: Moles, base: Moles) -> str:
    gap = base.protons - acid.protons
    if abs(gap) <= NEUTRAL_SLACK * acid.protons:
        return "neutral"
    return "alkaline" if gap > 0 else "acid"


def fizz(acid: Reagent, base: Reagent) -> tuple[Moles, Moles, str, float, Working]:
    """Acid on a carbonate: mol of each, how it ends, and litres of carbon dioxide at 20 degC and 1 atm, at the most.

    Every carbonate that meets its protons (two for soda, one for bicarbonate) gives one molecule of gas. Raises
    CannotReckon as neutralise does.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> _, soda, ends, gas_L, _ = fizz((find("citric-acid"), None, read_quantity("100 g")),
    ...                                (find("baking-soda"), None, read_quantity("100 g")))
    >>> round(soda.mol, 3), ends, round(gas_L, 1)
    (1.19, 'acid', 28.6)
    """
    sour, acid_lines = moles("acid", "acid", *acid)
    salt, base_lines = moles("base", "carbonate", *base)
    gas_mol = min(sour.protons / salt.material.groups, salt.mol)
    gas_L = gas_mol * GAS_L_PER_MOL
    line = WorkLine(
        "Carbon dioxide, at the most", f"{figures(gas_mol)} mol × {figures(GAS_L_PER_MOL)} L/mol", gas_L, "L"
    )
    return sour, salt, _ending(sour, salt), gas_L, (*acid_lines, *base_lines, line)


def moles(
    place: str, role: str, material: Material, strength: Strength | None, amount: Quantity
) -> tuple[Moles, Working]:
    """An amount of an acid, base or carbonate in moles, with the arithmetic.

    Args:
        place: where the error points to.
        role: "acid", "base" or "carbonate".
        material: a material of the catalogue or the workshop, known or not.
        strength: of the stock; the usual one where it is None.
        amount: a volume or a mass.

    Raises:
        CannotReckon: at ``place``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> found, working = moles("acid", "acid", find("citric acid"), None, read_quantity("19.2 g"))
    >>> round(found.mol, 3)
    0.1
    """
    if material.molar_mass is None or role not in material.roles:
        raise CannotReckon(f"{material.name} is not counted as {_article(role)} here.").at(place, "material")
    fraction = material.mass_fraction(strength or material.usual_strength)
    share = 1.0 if fraction is None else fraction
    if not share:
        raise CannotReckon(f"At 0 % there is no {role}.").at(place, "strength")
    lines = []
    if amount.kind == "volume":
        density = nature(material, fraction).measured
        grams = amount.mL * density
        lines.append(WorkLine(material.name, f"{figures(amount.mL)} mL × {figures(density)} g/mL", grams, "g"))
    elif amount.kind == "mass":
        grams = amount.g
    else:
        raise CannotReckon("Give an amount in g or mL.").at(place, "amount")
    if not grams:
        raise CannotReckon("Give more than 0.").at(place, "amount")
    mol = grams * share / material.molar_mass
    lines.append(
        WorkLine(
            material.name, f"{figures(grams)} g × {figures(100 * share)} % ÷ {figures(material.molar_mass)} g/mol",
            mol, "mol",
        )
    )  # fmt: skip
    if material.groups > 1:
        what = "Protons it gives" if place == "acid" else "Protons it takes up"
        lines.append(
            WorkLine(what, f"{figures(mol)} mol × {material.groups}", mol * material.groups, "mol")
        )  # fmt: skip
    return Moles(material, grams, mol, mol * material.groups), tuple(lines)


@dataclass(frozen=True, slots=True)
class Neutrality:
    """Acid and base of a mix, mol of protons; how it ends; g of caustic, or first base, to spare (below 0 missing)."""

    acid_mol_h: float
    base_mol_h: float
    ends: str
    base_g_spare: float


def counted_as(result: Reckoning, at: int, role: str, without: str = "") -> bool:
    """True where a line of a mix is counted as an acid or a base: it has that role and not the other, and is there.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        at: position of the line, from 0.
        role: "acid" or "base".
        without: a role that it must not have.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> dish = reckon(house_formulas()["dish-gentle"].formula)
    >>> [line.material.id for at, line in enumerate(dish.formula.lines) if counted_as(dish, at, "base")]
    ['caustic-soda']
    """
    line, worked = result.formula.lines[at], result.lines[at]
    strength = line.counted_strength
    nothing = not worked.mass_g or (strength is not None and not strength.value)
    roles = line.material.roles
    return role in roles and without not in roles and line.material.molar_mass is not None and not nothing


def _in_it(result: Reckoning, role: str, without: str = "") -> list[Moles]:
    return [
        moles("", role, line.material, line.counted_strength, Quantity(worked.mass_g, "g"))[0]
        for at, (line, worked) in enumerate(zip(result.formula.lines, result.lines, strict=True))
        if counted_as(result, at, role, without)
    ]


def neutrality(result: Reckoning) -> Neutrality | None:
    """Acid against base over a whole mix, carbonates left out; None where it has no acid, or no base.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> neutrality(reckon(house_formulas()["dish-gentle"].formula)).ends
    'neutral'
    """
    acids, bases = _in_it(result, "acid"), _in_it(result, "base", without="carbonate")
    if not acids or not bases:
        return None
    acid, base = (Moles(ones[0].material, 0.0, 0.0, sum(one.protons for one in ones)) for ones in (acids, bases))
    told = next((one for one in bases if one.material.id == "caustic-soda"), bases[0])
    spare = (base.protons - acid.protons) * told.g_per_proton
    return Neutrality(acid.protons, base.protons, _ending(acid, base), spare)


def _article(role: str) -> str:
    return {"acid": "an acid", "base": "a base"}.get(role, f"a {role}")


def _reagents(role: str) -> Choices:
    """Materials that are counted as an acid, a base or a carbonate, each in every form it is sold in."""
    known = [one for one in materials().values() if role in one.roles and one.molar_mass is not None]
    return [(form.written, form.name) for one in known for form in (one, *one.forms)]


def _written(asked: Asked, place: str) -> Reagent:
    one = asked[place]
    return one["material"], one["strength"], one["amount"]


def _assumed(asked: Asked) -> list[str]:
    """What is counted where nothing was said, and which form of a material."""
    says = []
    for place in ("acid", "base"):
        material, strength, _ = _written(asked, place)
        if strength is None and material.usual_strength is not None:
            says.append(
                f"No strength was given for {uncapped(material.name)}: counted as {material.usual_strength}. "
                "Read the label."
            )
        if material.forms:
            forms = ", ".join(f"{uncapped(form.name)} {figures(form.molar_mass or 0.0)}" for form in material.forms)
            says.append(
                f"{material.name} is counted as the water-free powder, {figures(material.molar_mass or 0.0)} g/mol; "
                f"{forms} g/mol. Which is it? Choose the one on the label."
            )
    return says


def _amounts(acid: str, base: str, *mol: float) -> tuple[tuple[str, str], ...]:
    """Moles of both as rows; their protons beside them where a molecule gives or takes up more than one."""
    acid_mol, acid_h, base_mol, base_h = mol
    gives = f", {figures(acid_h)} mol of acid protons" if acid_h > acid_mol * 1.001 else ""
    takes = f", which take up {figures(base_h)} mol of protons" if base_h > base_mol * 1.001 else ""
    return (acid, f"{figures(acid_mol)} mol{gives}"), (base, f"{figures(base_mol)} mol{takes}")


def _mol_values(acid_mol: float, acid_h: float, base_mol: float, base_h: float, ends: str) -> dict[str, float | str]:
    """What both questions give of their moles."""
    return {"acid_mol": acid_mol, "acid_mol_h": acid_h, "base_mol": base_mol, "base_mol_h": base_h, "ends": ends}


def _bars(acid: Material, acid_h: float, base: Material, base_h: float) -> Bars:
    return Bars(
        (
            Bar(acid.name, acid_h, f"{figures(acid_h)} mol of protons", "acid"),
            Bar(base.name, base_h, f"{figures(base_h)} mol taken up", "base"),
        )
    )


def _answer(asked: Asked) -> Answer:
    acid, base = _written(asked, "acid"), _written(asked, "base")
    ended = neutralise(acid, base)
    spare = ended.ends == "alkaline" or (ended.ends == "neutral" and ended.base_g_spare > 0)
    key, grams = ("base_g_spare", ended.base_g_spare) if spare else ("base_g_missing", ended.base_g_missing)
    name = uncapped(base[0].name)
    mol = (ended.acid_mol, ended.acid_mol_h, ended.base_mol, ended.base_mol_h)
    rows = (
        *_amounts(acid[0].name, base[0].name, *mol),
        (f"{base[0].name} {'left over' if spare else 'missing'}, as supplied", weight_words(grams)),
    )
    says = [_ENDS[ended.ends].format(name=name, amount=weight_words(grams)), *_assumed(asked)]
    says.append(
        "Counted by mole; measure the pH before you trust it. Molar masses: LABSA a mean of 320 g/mol, from memory."
    )
    return Answer(
        {
            **_mol_values(*mol, ended.ends),
            key: grams,
        },
        ended.working,
        ended.ends,
        "is how the mix ends",
        rows,
        tuple(says),
        picture=_bars(acid[0], ended.acid_mol_h, base[0], ended.base_mol_h),
        cautions=tuple(dict.fromkeys((*base[0].cautions, *acid[0].cautions))),
    )


def _fizzed(asked: Asked) -> Answer:
    acid, base = _written(asked, "acid"), _written(asked, "base")
    sour, salt, ends, gas_L, working = fizz(acid, base)
    mol = (sour.mol, sour.protons, salt.mol, salt.protons)
    jar = f"{figures(gas_L)} L of gas"
    return Answer(
        {
            **_mol_values(*mol, ends),
            "gas_L": gas_L,
        },
        working,
        figures(gas_L),
        "L of carbon dioxide at the most",
        (
            *_amounts(acid[0].name, base[0].name, *mol),
            ("What is left", _LEFT[ends]),
        ),
        (
            "They use each other up: what fizzes away cleans nothing any more.",
            *_assumed(asked),
            "At 20 °C and 1 atm, if all of it reacts; some stays dissolved.",
        ),
        (f"{jar} in a closed jar is pressure enough to burst it. Never close a vessel on acid and carbonate.",),
        _bars(acid[0], sour.protons, base[0], salt.protons),
        tuple(dict.fromkeys(("acid-carbonate", *base[0].cautions, *acid[0].cautions))),
    )


_LEFT = {"acid": "acid", "neutral": "neither, as near as a kitchen scale can place it", "alkaline": "carbonate"}


_ENDS = {
    "acid": "Acid is left: {amount} more of the {name} would take it up. Add it in small amounts, and measure.",
    "neutral": "Acid and base cancel out, as exactly as a kitchen scale can tell.",
    "alkaline": "{amount} of the {name} are more than the acid takes up: the mix stays alkaline.",
}


def _reagent(place: str, role: str, words: str, opens: tuple[str, str, str]) -> Field:
    material, strength, amount = opens
    return Field(
        place,
        Kind.GROUP,
        "",
        fields=(
            Field("material", Kind.MATERIAL, words, material, choices=lambda: _reagents(role)),
            Field("strength", Kind.STRENGTH, "Its strength", strength, hint="as usually sold", optional=True),
            Field("amount", Kind.SIZE, "How much", amount, hint=amount),
        ),
    )


_MOLES = (
    Given("acid_mol", "moles of the acid"),
    Given("acid_mol_h", "moles of protons it gives"),
    Given("base_mol", "moles of the base"),
    Given("base_mol_h", "moles of protons it takes up"),
    Given("ends", "how the mix ends", "text", choices=("acid", "neutral", "alkaline")),
)

NEUTRALISE = Question(
    "neutralise",
    "Acid and base",
    "Does the mix end acid or alkaline?",
    "Acid against base, counted by mole: which one is left over, and how much.",
    "Soap and bottles",
    (
        _reagent("acid", "acid", "Acid", ("labsa", "98 %", "400 g")),
        _reagent("base", "base", "Base", ("caustic-soda", "100 %", "45 g")),
    ),
    (
        *_MOLES,
        Given("base_g_missing", "base still to add, as supplied", optional=True),
        Given("base_g_spare", "base beyond the acid, as supplied", optional=True),
    ),
    _answer,
)

CARBONATE = Question(
    "carbonate",
    "Acid and soda",
    "What happens when acid meets soda?",
    "Citric acid or vinegar with washing soda or baking soda: which is left over, and how much gas it makes.",
    "Soap and bottles",
    (
        _reagent("acid", "acid", "Acid", ("citric-acid", "", "100 g")),
        _reagent("base", "carbonate", "Soda", ("baking-soda", "", "100 g")),
    ),
    (*_MOLES, Given("gas_L", "carbon dioxide at 20 degC and 1 atm, at the most")),
    _fizzed,
)
