"""Powders by parts: from a jar and a scoop to grams, the balance of acid and soda in it, and what a wash takes."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import Quantity, Working, WorkLine, amount_words, figures, weight_words
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.hardness import called, read_hardness
from firkin.core.questions.neutralisation import GAS_L_PER_MOL
from firkin.core.questions.pictures import Bar, Bars, Filled, Layer, look_of
from firkin.core.texts import uncapped

#: mL of dishwasher powder in the main cup (common practice, no source).
USUAL_SCOOP_ML = 20.0
#: Parts of salt beside one of acid in soft and in hard water (common practice, no source).
SALT_SOFT, SALT_HARD = 1.0, 2.0
#: How far a weighed scoop may be off the usual bulk density before it is worth a word (common practice, no source).
_ODD = 0.25
_HARD = ("hard", "very hard")


@dataclass(frozen=True, slots=True)
class Heap:
    """One powder by parts: its bulk density in g/mL, by a scoop that was weighed where one was."""

    material: Material
    parts: float
    bulk: float
    weighed: bool = False


@dataclass(frozen=True, slots=True)
class Portion:
    """What a powder comes to in a jar: loose mL, and g."""

    heap: Heap
    volume_mL: float
    mass_g: float

    @property
    def amount(self) -> tuple[Material, float]:
        """What it is, and g of it."""
        return self.heap.material, self.mass_g


@dataclass(frozen=True, slots=True)
class Balance:
    """Acid against carbonate in a dry mix, in mol of protons; litres of gas if damp gets at it all; what is left."""

    acid_mol: float
    acid_mol_h: float
    carbonate_mol: float
    carbonate_mol_h: float
    gas_L: float

    @property
    def left(self) -> str:
        """What is left once they have used each other up."""
        return "acid" if self.acid_mol_h > self.carbonate_mol_h else "soda"

    @property
    def bars(self) -> Bars:
        """The two to one scale."""
        return Bars(
            (
                Bar("Acid gives", self.acid_mol_h, f"{figures(self.acid_mol_h)} mol of protons", "acid"),
                Bar("Soda takes up", self.carbonate_mol_h, f"{figures(self.carbonate_mol_h)} mol", "base"),
            )
        )


def heap_of(material: Material, parts: float, scoop_g: float | None = None, scoop_mL: float | None = None) -> Heap:
    """A powder by parts; a level scoop of ``scoop_mL`` that weighs ``scoop_g`` gives its bulk density.

    Args:
        material: a material of the catalogue or the workshop, known or not.
        parts: parts by volume.
        scoop_g: what a level scoop of it weighs, g.
        scoop_mL: what that scoop holds, mL.

    Raises:
        CannotReckon: for what is no powder, or has no bulk density and no weighed scoop.

    >>> from firkin.core.catalogue import find
    >>> soda = heap_of(find("washing-soda"), 2.0, scoop_g=11.0, scoop_mL=20.0)
    >>> round(soda.bulk, 2), soda.weighed, heap_of(find("borax"), 2.0).bulk
    (0.55, True, 0.85)
    """
    if not material.solid and material.known:
        raise CannotReckon(f"{material.name} is no powder.").at("material")
    if parts <= 0:
        raise CannotReckon("More than 0 parts.").at("parts")
    if scoop_g is not None:
        if scoop_mL is None:
            raise CannotReckon("Say how much the scoop holds that was weighed.").at("scoop_g")
        bulk = scoop_g / scoop_mL
        if not 0.1 <= bulk <= 3.0:
            said = f"{figures(scoop_g)} g in {amount_words(scoop_mL)} is {figures(bulk)} g/mL, and no powder is."
            raise CannotReckon(f"{said} Weigh it again, without the scoop.").at("scoop_g")
        return Heap(material, parts, bulk, weighed=True)
    if material.bulk is None:
        raise CannotReckon(f"How dense {uncapped(material.name)} lies is not known: weigh a scoop of it.").at("scoop_g")
    return Heap(material, parts, material.bulk)


def powder(jar_mL: float, heaps: Sequence[Heap], headspace_pct: float = 0.0) -> tuple[tuple[Portion, ...], Working]:
    """Parts by volume in a jar, as mL and g each, loose volumes added.

    Raises CannotReckon for a jar of nothing, no powders, or headspace outside 0 to below 100 %.

    >>> from firkin.core.catalogue import find
    >>> heaps = [heap_of(find(name), parts) for name, parts in
    ...          (("citric-acid", 1.0), ("borax", 2.0), ("washing-soda", 2.0), ("salt", 2.0))]
    >>> [round(portion.mass_g) for portion in powder(1000.0, heaps)[0]]
    [126, 243, 286, 357]
    """
    if jar_mL <= 0:
        raise CannotReckon("A jar holds more than 0 mL.").at("jar")
    if not heaps:
        raise CannotReckon("Name what goes in, in parts.").at("powders")
    if not 0.0 <= headspace_pct < 100.0:
        raise CannotReckon("Headspace is from 0 to below 100 %.").at("headspace_pct")
    whole = sum(heap.parts for heap in heaps)
    part = jar_mL * (1.0 - headspace_pct / 100.0) / whole
    lines = [
        WorkLine(
            "One part", f"{figures(jar_mL)} mL × (1 − {figures(headspace_pct)} %) ÷ {figures(whole)} parts", part, "mL"
        )
    ]
    portions = []
    for heap in heaps:
        volume = part * heap.parts
        portions.append(Portion(heap, volume, volume * heap.bulk))
        how = "by the scoop weighed" if heap.weighed else "usual"
        lines.append(
            WorkLine(
                heap.material.name, f"{figures(volume)} mL × {figures(heap.bulk)} g/mL ({how})", volume * heap.bulk, "g"
            )
        )
    return tuple(portions), tuple(lines)


def balance(amounts: Iterable[tuple[Material, float]]) -> Balance | None:
    """Acid against carbonate of a dry mix, by what is in it and g of each; None where one of them is missing.

    Args:
        amounts: each material with its grams.

    >>> from firkin.core.catalogue import find
    >>> found = balance([(find("citric-acid"), 440.0), (find("washing-soda"), 500.0)])
    >>> round(found.acid_mol_h / found.acid_mol), found.left
    (3, 'soda')
    """
    acid_mol = acid_h = salt_mol = salt_h = 0.0
    for material, grams in amounts:
        if material.molar_mass is None:
            continue
        mol = grams / material.molar_mass
        if "free-acid" in material.roles:
            acid_mol, acid_h = acid_mol + mol, acid_h + mol * material.groups
        elif "carbonate" in material.roles:
            salt_mol, salt_h = salt_mol + mol, salt_h + mol * material.groups
    if not acid_mol or not salt_mol:
        return None
    return Balance(acid_mol, acid_h, salt_mol, salt_h, min(acid_h * salt_mol / salt_h, salt_mol) * GAS_L_PER_MOL)


def doses(volume_mL: float, dose_mL: float, hardness_mg_per_L: float | None) -> tuple[float, int]:
    """Washes in a jar, and scoops for one: one in the main cup, another in the pre-wash in hard water.

    >>> doses(1000.0, 20.0, 100.0), doses(1000.0, 20.0, 300.0)
    ((50.0, 1), (25.0, 2))
    """
    scoops = 2 if hardness_mg_per_L is not None and called(hardness_mg_per_L) in _HARD else 1
    return volume_mL / (dose_mL * scoops), scoops


def _heaps(asked: Asked) -> list[Heap]:
    scoop = asked["scoop"].mL if asked["scoop"] is not None else None
    heaps = []
    for at, row in enumerate(asked["powders"]):
        try:
            heaps.append(heap_of(row["material"], row["parts"], row["scoop_g"], scoop))
        except CannotReckon as error:
            raise error.at("powders", at) from None
    return heaps


def _answer(asked: Asked) -> Answer:
    jar, heaps = asked["jar"].mL, _heaps(asked)
    headspace = asked["headspace_pct"] or 0.0
    portions, working = powder(jar, heaps, headspace)
    filled, mass = sum(one.volume_mL for one in portions), sum(one.mass_g for one in portions)
    hardness = _hardness(asked)
    dose = asked["dose"].mL if asked["dose"] is not None else USUAL_SCOOP_ML
    washes, scoops = doses(filled, dose, hardness)
    found = balance(one.amount for one in portions)
    rows = [
        (one.heap.material.name, f"{weight_words(one.mass_g)}, or {amount_words(one.volume_mL)} loose")
        for one in portions
    ]
    rows.append(("In all", f"{weight_words(mass)}, {amount_words(filled)} loose"))
    where = "one in the main cup, one in the pre-wash" if scoops > 1 else "in the main cup"
    rows.append(("A wash", f"{scoops} × {amount_words(dose)}, {where}"))
    rows.append(("Washes in the jar", figures(washes)))
    values: dict[str, object] = {
        "powders": [
            {"material": one.heap.material.written, "mass_g": one.mass_g, "volume_mL": one.volume_mL}
            for one in portions
        ],
        "total_g": mass,
        "washes": washes,
    }
    if found is not None:
        values |= {"acid_mol_h": found.acid_mol_h, "carbonate_mol_h": found.carbonate_mol_h, "gas_L": found.gas_L}
        rows.append(("If damp gets at it", f"{figures(found.gas_L)} L of gas, and {found.left} is left"))
    level, layers = 0.0, []
    for one in portions:
        level += one.volume_mL
        layers.append(Layer(one.heap.material.name, look_of(one.heap.material.roles), level))
    return Answer(
        values,
        working,
        figures(mass),
        "g of powder",
        tuple(rows),
        tuple(_says(heaps, hardness)),
        tuple(_warns(heaps, found)),
        Filled(tuple(layers), filled, jar),
        cautions=tuple(dict.fromkeys(key for heap in heaps for key in heap.material.cautions)),
        formula=Formula(
            "Unnamed",
            tuple(Line(one.heap.material, Quantity(one.mass_g, "g")) for one in portions),
            "dishwasher-powder",
        ),
        beside=None if found is None else found.bars,
    )


def _hardness(asked: Asked) -> float | None:
    if asked["hardness"] is None:
        return None
    try:
        return read_hardness(str(asked["hardness"]))
    except CannotReckon as error:
        raise error.at("hardness") from None


def _says(heaps: Sequence[Heap], hardness: float | None) -> list[str]:
    says = [material.told_apart for material in dict.fromkeys(heap.material for heap in heaps) if material.told_apart]
    if hardness is None:
        says.append("How hard the water is was not said: one scoop is counted, and hard water takes another.")
    else:
        says.append(
            f"{figures(hardness)} mg/L is {called(hardness)} water (US Geological Survey, from memory). Fill the "
            "machine’s softener with its own salt too: the salt in the powder does not soften."
        )
    says.append(
        "Dry bowl and spoon, a dust mask, a jar that seals, and a desiccant sachet or rice: damp makes it cake."
    )
    if not all(heap.weighed for heap in heaps):
        says.append("Bulk densities where no scoop was weighed: common practice, no source; a stock may be half of it.")
    return says


def _warns(heaps: Sequence[Heap], found: Balance | None) -> list[str]:
    warns = []
    for heap in heaps:
        usual = heap.material.bulk
        if heap.weighed and usual and abs(heap.bulk / usual - 1.0) > _ODD:
            warns.append(
                f"{heap.material.name} weighs {figures(heap.bulk)} g/mL by the scoop; {figures(usual)} is usual. "
                "Another grade, or a heaped scoop? The scoop is counted."
            )
        if not heap.material.known:
            warns.append(f"{heap.material.name} is not known here: what it does beside the others is not looked at.")
    if found is not None:
        warns.append(
            f"Acid and soda in one jar: with damp they make up to {figures(found.gas_L)} L of gas, pressure enough to "
            "burst a closed jar. Keep it bone dry."
        )
    return warns


POWDER = Question(
    "powder",
    "Powder",
    "What goes into the powder jar?",
    "Parts by the scoop become grams, by how dense each lies; what acid and soda do to each other; what a wash takes.",
    "Soap and bottles",
    (
        Field("jar", Kind.VOLUME, "The jar holds", "1 L", hint="1 L"),
        Field(
            "headspace_pct",
            Kind.NUMBER,
            "Left free, %",
            "10",
            hint="0",
            optional=True,
            least=0.0,
            below=100.0,
            help="Room for a sachet, and to turn it over.",
        ),
        Field(
            "powders",
            Kind.GROUP,
            "Powders",
            rows=(1, 12),
            fields=(
                Field(
                    "material", Kind.MATERIAL, "Powder", ("citric acid", "borax", "washing soda", "salt"), hint="borax"
                ),
                Field("parts", Kind.NUMBER, "Parts", ("1", "2", "2", "1"), hint="1", least=0.0, most=1e6),
                Field("scoop_g", Kind.GRAMS, "A level scoop weighs, g", hint="not weighed", optional=True, most=1e5),
            ),
            row_labels=("Powders",),
        ),
        Field("scoop", Kind.VOLUME, "The scoop that was weighed holds", "20 mL", hint="20 mL", optional=True),
        Field("dose", Kind.VOLUME, "A wash takes", "20 mL", hint="20 mL", optional=True),
        Field("hardness", Kind.NAME, "Hardness of the water", hint="15 dH", optional=True),
    ),
    (
        Given(
            "powders",
            "how much of which",
            "rows",
            fields=(
                Given("material", "the powder", "text"),
                Given("mass_g", "by weight"),
                Given("volume_mL", "by a level measure, loose"),
            ),
        ),
        Given("total_g", "of powder in all"),
        Given("washes", "washes in the jar"),
        Given("acid_mol_h", "moles of protons the acid gives", optional=True),
        Given("carbonate_mol_h", "moles of protons the soda takes up", optional=True),
        Given("gas_L", "carbon dioxide if damp gets at all of it", optional=True),
    ),
    _answer,
)
