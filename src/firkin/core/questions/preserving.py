"""Preservatives: how much for a batch as it weighs now, and whether its pH and warmth let it work."""

from dataclasses import dataclass

from firkin.core.catalogue import Material, find, materials
from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, figures, weight_words
from firkin.core.questions.declaration import Answer, Asked, Choices, Field, Given, Kind, Question
from firkin.core.questions.pictures import Scale, Zone
from firkin.core.texts import uncapped


@dataclass(frozen=True, slots=True)
class Preserved:
    """Grams of a preservative for a batch, the least and the most that keep it, and what stands against it."""

    mass_g: float
    least_g: float
    most_g: float
    against: tuple[str, ...]
    unsure: tuple[str, ...]
    working: Working


def preserve(
    material: Material, batch_g: float, pct: float | None = None, ph: float | None = None, celsius: float | None = None
) -> Preserved:
    """A preservative by the weight of the batch now, at ``pct`` of it or what is usual, pure, by weight.

    Raises CannotReckon for what is no preservative, a batch of nothing, or a share outside what it is used at.

    >>> kept = preserve(find("phenoxyethanol"), 1750.0, ph=9.5, celsius=45.0)
    >>> round(kept.mass_g, 2), len(kept.against)
    (14.11, 1)
    """
    if not material.preserves_pct:
        raise CannotReckon(f"How much of {uncapped(material.name)} preserves is not known here.").at("material")
    if batch_g <= 0:
        raise CannotReckon("Weigh the batch: more than 0 g.").at("batch_g")
    low, high = material.preserves_pct
    share = pct if pct is not None else material.usually_preserves_pct
    if not low - 1e-9 <= share <= high + 1e-9:
        raise CannotReckon(
            f"{material.name} is used at {figures(low)} to {figures(high)} % of the batch by weight, not at "
            f"{figures(share)} %: less does not keep it, more irritates."
        ).at("pct")
    lines = [
        WorkLine(
            material.name,
            f"{figures(batch_g)} g × {figures(share)} % ÷ (100 % − {figures(share)} %)",
            batch_g * share / (100.0 - share),
            "g",
        )
    ]
    least, most = (batch_g * one / (100.0 - one) for one in (low, high))
    against, unsure = stands_against(material, ph, celsius)
    return Preserved(lines[0].result, least, most, against, unsure, tuple(lines))


def stands_against(
    material: Material, ph: float | None, celsius: float | None
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What pH and warmth say against a preservative going in now, and what was not measured.

    Args:
        material: a material of the catalogue or the workshop, known or not.
        ph: the last pH that was read; None where none was.
        celsius: the last temperature that was read, degC; None where none was.

    >>> stands_against(find("potassium-sorbate"), 9.0, None)[1]
    ('The temperature was not read: it goes in below 40 °C.',)
    """
    against, unsure = [], []
    name = material.name
    if material.preserves_to_ph is not None and ph is None:
        unsure.append(f"The pH was not read: {uncapped(name)} works only below {figures(material.preserves_to_ph)}.")
    elif material.preserves_to_ph is not None and ph is not None and ph >= material.preserves_to_ph:
        against.append(
            f"At pH {figures(ph)} it does nothing: {uncapped(name)} works only below "
            f"{figures(material.preserves_to_ph)}."
        )
    low, high = material.preserves_ph or (None, None)
    if ph is not None and low is not None and high is not None and not low <= ph <= high:
        against.append(f"pH {figures(ph)} is outside {figures(low)} to {figures(high)}, where {uncapped(name)} holds.")
    most = material.preserves_below_C
    if most is not None and celsius is None:
        unsure.append(f"The temperature was not read: it goes in below {figures(most)} °C.")
    elif most is not None and celsius is not None and celsius > most:
        against.append(
            f"At {figures(celsius)} °C it is too warm, heat spoils it: wait until it is below {figures(most)} °C."
        )
    return tuple(against), tuple(unsure)


def _preservatives() -> Choices:
    return [(one.id, one.name) for one in materials().values() if one.preserves_pct]


def _answer(asked: Asked) -> Answer:
    material: Material = asked["material"]
    kept = preserve(material, asked["batch_g"], asked["pct"], asked["ph"], asked["temperature"])
    low, high = material.preserves_pct
    share = asked["pct"] if asked["pct"] is not None else material.usually_preserves_pct
    rows = [
        (material.name, weight_words(kept.mass_g)),
        ("At least", weight_words(kept.least_g)),
        ("At most", weight_words(kept.most_g)),
        ("Used at", f"{figures(low)} to {figures(high)} % of the whole, by weight"),
    ]
    if material.preserves_ph:
        rows.append(("Holds at pH", f"{figures(material.preserves_ph[0])} to {figures(material.preserves_ph[1])}"))
    if material.preserves_to_ph is not None:
        rows.append(("Works below pH", figures(material.preserves_to_ph)))
    if material.preserves_below_C is not None:
        rows.append(("Goes in below", f"{figures(material.preserves_below_C)} °C"))
    says = []
    if material.preserves_not_with:
        says.append(f"Not with {material.preserves_not_with}.")
    if material.flag:
        instead = f" Use {uncapped(find(material.instead).name)} instead." if material.instead else ""
        says.append(f"{material.name} is {material.flag}.{instead}")
    says.append(
        "By weight of the batch as it is now, not of the plan: water boils off. What is used of it: Regulation (EC) "
        "1223/2009, Annex V, from memory; its pH and warmth: supplier data, from memory."
    )
    zones = (Zone("too little", low), Zone("keeps it", high), Zone("too much", high * 2.0))
    return Answer(
        {
            "mass_g": kept.mass_g,
            "least_g": kept.least_g,
            "most_g": kept.most_g,
            "works": False if kept.against else None if kept.unsure else True,
        },
        kept.working,
        figures(kept.mass_g),
        f"g of {uncapped(material.name)}",
        tuple(rows),
        tuple(says),
        (*kept.against, *kept.unsure),
        Scale(zones, share, f"{figures(share)} %"),
        cautions=material.cautions,
    )


PRESERVE = Question(
    "preserve",
    "Preservative",
    "How much preservative does it need?",
    "By the weight of the batch as it stands on the scale, within the preservative’s own pH and warmth.",
    "Soap and bottles",
    (
        Field("material", Kind.MATERIAL, "Preservative", "phenoxyethanol", choices=_preservatives),
        Field("batch_g", Kind.GRAMS, "The batch weighs now, g", "1750", hint="1750", most=1e7),
        Field("pct", Kind.NUMBER, "Per cent of the whole", hint="what is usual", optional=True, above=0.0, below=100.0),
        Field("ph", Kind.NUMBER, "Its pH", hint="not read", optional=True, least=0.0, most=14.0),
        Field("temperature", Kind.NUMBER, "Its warmth, °C", hint="not read", optional=True, least=-20.0, most=120.0),
    ),
    (
        Given("mass_g", "of the preservative"),
        Given("least_g", "the least that keeps it"),
        Given("most_g", "the most it is used at"),
        Given(
            "works", "whether what was read lets it work; null where something was not read", "boolean", or_null=True
        ),
    ),
    _answer,
)
