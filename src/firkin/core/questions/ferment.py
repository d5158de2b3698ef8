"""The citrus ferment: 1 part sugar, 3 peel, 10 water by weight, in a container that holds 15 parts."""

from dataclasses import dataclass

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Claims, Formula, Line
from firkin.core.measures import Quantity, Working, WorkLine, amount_words, figures, rounded_down, weight_words
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer

SUGAR, PEEL, WATER, GAS = 1, 3, 10, 1  # common practice, no source: the free part is for gas
_WHOLE = SUGAR + PEEL + WATER + GAS
#: More of the water than this as finished ferment is no splash any more (common practice, no source).
MOST_STARTER = 0.2
#: At least so much of the peel is citrus (common practice, no source).
LEAST_CITRUS = 0.5
_GLASS = "A ferment builds pressure, and glass bursts into splinters. Take plastic with a tight lid."


@dataclass(frozen=True, slots=True)
class Ferment:
    """What goes into a container: g of sugar, g of peel, mL of water, mL of finished ferment, mL left free for gas.

    ``peel_left_g`` is what of the peel there is finds no room.
    """

    sugar_g: float
    peel_g: float
    water_mL: float
    gas_space_mL: float
    starter_mL: float
    peel_left_g: float
    working: Working

    @property
    def mass_g(self) -> float:
        """What goes in in all, a mL of water or starter counted as a gram."""
        return self.sugar_g + self.peel_g + self.water_mL + self.starter_mL


def ferment(container_mL: float, starter_mL: float = 0.0, peel_there_g: float | None = None) -> Ferment:
    """The amounts for a container of a brim volume, a part of each counting as 1 g or 1 mL.

    A starter stands in for as much of the water. With less peel there than the container takes, everything is made
    to that peel, and more stays free. Raises CannotReckon for a container of nothing, or a starter that is more than
    a splash.

    >>> filled = ferment(2500.0, starter_mL=100.0)
    >>> round(filled.sugar_g), round(filled.peel_g), round(filled.water_mL), filled.starter_mL
    (167, 500, 1567, 100.0)
    >>> round(ferment(2500.0, peel_there_g=300.0).sugar_g)
    100
    """
    if container_mL <= 0:
        raise CannotReckon("A container holds more than 0 mL.").at("container")
    part = container_mL / _WHOLE
    lines = [WorkLine("One part of fifteen", f"{figures(container_mL)} mL ÷ {_WHOLE}", part, "mL, or g")]
    peel_left = 0.0
    if peel_there_g is not None:
        if peel_there_g <= 0:
            raise CannotReckon("There is no peel to ferment.").at("peel")
        if peel_there_g < PEEL * part:
            part = peel_there_g / PEEL
            lines.append(WorkLine("By the peel there is", f"{figures(peel_there_g)} g ÷ {PEEL}", part, "g a part"))
        peel_left = max(0.0, peel_there_g - PEEL * part)
    wet = WATER * part
    if starter_mL < 0 or starter_mL > MOST_STARTER * wet * (1 + 1e-9):
        most = amount_words(rounded_down(MOST_STARTER * wet, 2))
        raise CannotReckon(f"A splash of finished ferment is enough: {most} at the most here.").at("starter")
    gas = container_mL - (SUGAR + PEEL + WATER) * part
    lines += [
        WorkLine("Sugar", f"{SUGAR} × {figures(part)}", SUGAR * part, "g"),
        WorkLine("Peel", f"{PEEL} × {figures(part)}", PEEL * part, "g"),
        WorkLine("Water", f"{WATER} × {figures(part)}", wet, "mL"),
    ]
    if starter_mL:
        lines.append(
            WorkLine("Water beside the starter", f"{figures(wet)} − {figures(starter_mL)}", wet - starter_mL, "mL")
        )
    lines.append(
        WorkLine("Left free for gas", f"{figures(container_mL)} − {SUGAR + PEEL + WATER} × {figures(part)}", gas, "mL")
    )
    return Ferment(SUGAR * part, PEEL * part, wet - starter_mL, gas, starter_mL, peel_left, tuple(lines))


def _answer(asked: Asked) -> Answer:
    if asked["container_is"] == "glass":
        raise CannotReckon(_GLASS).at("container_is")
    container = asked["container"].mL
    starter = asked["starter"].mL if asked["starter"] is not None else 0.0
    filled = ferment(container, starter, asked["peel"])
    others = asked["others"] or 0.0
    if others > filled.peel_g:
        raise CannotReckon(f"That is more than the {weight_words(filled.peel_g)} of peel that go in.").at("others")
    rows = [
        ("Raw sugar", weight_words(filled.sugar_g)),
        ("Peel, mostly citrus" if not others else "Citrus peel", weight_words(filled.peel_g - others)),
    ]
    if others:
        rows.append(("Other peel and herbs", weight_words(others)))
    rows.append(("Water", amount_words(filled.water_mL)))
    if starter:
        rows.append(("Finished ferment, to start it", amount_words(starter)))
    rows.append(("Left free for gas", amount_words(filled.gas_space_mL)))
    if filled.peel_left_g > 0:
        rows.append(("Peel there is no room for", weight_words(filled.peel_left_g)))
    says = [
        "Measure the container by filling it to the brim with a bottle you know, and count.",
        "Plastic with a tight lid, never glass: the gas must be let out, daily in the first week.",
        "The marks count each gram as a millilitre; peel that floats stands higher.",
        "1 part sugar, 3 peel, 10 water, 1 free: common practice, no source.",
    ]
    warns = []
    if others > (1.0 - LEAST_CITRUS) * filled.peel_g:
        warns.append("Less than half of the peel is citrus: it sours less, and may not keep. Mostly citrus is usual.")
    if asked["container_is"] is None:
        warns.append("What the container is of was not said. Glass bursts: take plastic.")
    return Answer(
        {
            "sugar_g": filled.sugar_g,
            "peel_g": filled.peel_g,
            "water_mL": filled.water_mL,
            "gas_space_mL": filled.gas_space_mL,
        },
        filled.working,
        figures(filled.peel_g),
        "g of peel",
        tuple(rows),
        tuple(says),
        tuple(warns),
        picture=_drawn(filled, others, container),
        cautions=("pressure",),
        formula=_formula(filled, others, container),
    )


def _drawn(filled: Ferment, others_g: float, container_mL: float) -> Filled:
    level, layers = 0.0, []
    for name, kind, mL, words in (
        ("Sugar", "honey", filled.sugar_g, weight_words),
        ("Citrus peel", "gel", filled.peel_g - others_g, weight_words),
        ("Other peel", "plain", others_g, weight_words),
        ("Finished ferment", "soap", filled.starter_mL, amount_words),
        ("Water", "water", filled.water_mL, amount_words),
    ):
        if mL > 0:
            level += mL
            layers.append(Layer(name, kind, level, amount=words(mL)))
    return Filled(tuple(layers), level, container_mL, "for gas")


def _formula(filled: Ferment, others_g: float, container_mL: float) -> Formula:
    """The ferment as a formula; other peel than citrus counts in the 3 parts."""
    note = "mostly citrus" if not others_g else f"of it {weight_words(others_g)} of other peel and herbs"
    lines = [
        Line(find("raw-sugar"), Quantity(filled.sugar_g, "g")),
        Line(find("citrus-peel"), Quantity(filled.peel_g, "g"), note=note),
        Line(find("water"), Quantity(filled.water_mL, "mL")),
    ]
    if filled.starter_mL:
        lines.append(Line(find("ferment-starter"), Quantity(filled.starter_mL, "mL"), note="of an earlier batch"))
    claims = Claims(vessel=Quantity(container_mL, "mL"))
    return Formula("Unnamed", tuple(lines), "ferment", basis="weight", claims=claims)


FERMENT = Question(
    "ferment",
    "Ferment",
    "What goes into the ferment?",
    "From the container to sugar, peel and water by weight, with room left for the gas.",
    "Soap and bottles",
    (
        Field(
            "container",
            Kind.VOLUME,
            "The container holds, to the brim",
            "2.5 L",
            hint="2 x 1 L + 500 mL",
            help="Not marked on it? Count the bottles that fill it: 2 x 1 L + 500 mL.",
        ),
        Field(
            "container_is",
            Kind.CHOICE,
            "It is of",
            "plastic",
            choices=lambda: [("plastic", "plastic, with a tight lid"), ("glass", "glass")],
            optional=True,
        ),
        Field("peel", Kind.GRAMS, "Peel there is, g", hint="as much as fits", optional=True, least=0.0, most=1e6),
        Field("others", Kind.GRAMS, "Of it not citrus, g", hint="0", optional=True, least=0.0, most=1e6),
        Field(
            "starter",
            Kind.VOLUME,
            "Finished ferment to start it",
            hint="none",
            help="A splash from an earlier batch speeds it; as much less water goes in.",
            optional=True,
        ),
    ),
    (
        Given("sugar_g", "raw sugar"),
        Given("peel_g", "peel, mostly citrus"),
        Given("water_mL", "water"),
        Given("gas_space_mL", "left free for gas"),
    ),
    _answer,
)
