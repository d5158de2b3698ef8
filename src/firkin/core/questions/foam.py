"""Foaming soap: 1 part of castile soap to 3, 4 or 5 of water, in any bottle, by marks on it."""

from dataclasses import dataclass

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import Quantity, Working, WorkLine, amount_words, figures
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer

#: What each ratio is like, by parts of water to one of soap (common practice, no source).
LIKE = {
    3.0: "a dense foam that stays; the usual one",
    4.0: "a lighter foam, and a quarter less soap",
    5.0: "the lightest that still foams: thrifty, two strokes for a pair of hands",
}
#: Parts of water to one of soap that a foaming pump makes foam of (common practice, no source).
FOAMS_FROM, FOAMS_TO = 3.0, 5.0
#: How far off that still foams (common practice, no source).
_SLACK = 0.15
#: Drops of scent in a litre, from and to (common practice, no source: 10 to 12 in half a litre).
DROPS_PER_L = (20.0, 24.0)


@dataclass(frozen=True, slots=True)
class FoamingSoap:
    """What goes into a bottle, mL, the level after each, and the drops of scent that are usual, from and to."""

    soap_mL: float
    water_mL: float
    drops: tuple[int, int]
    working: Working

    @property
    def filled_mL(self) -> float:
        """What is in the bottle in all."""
        return self.soap_mL + self.water_mL


def foaming_soap(bottle_mL: float, parts_water: float, headspace_pct: float = 0.0) -> FoamingSoap:
    """Soap and water for a bottle, ``headspace_pct`` of it left free.

    Args:
        bottle_mL: what the bottle holds to the brim, mL.
        parts_water: parts of water to one of soap, by volume.
        headspace_pct: share of a bottle that is left free, in per cent of its volume.

    Raises:
        CannotReckon: for a bottle of nothing, no water, or headspace outside 0 to below 100 %.

    >>> filled = foaming_soap(473.0, 3.0)
    >>> round(filled.soap_mL), round(filled.water_mL), filled.drops
    (118, 355, (9, 11))
    """
    if bottle_mL <= 0:
        raise CannotReckon("A bottle holds more than 0 mL.").at("bottle")
    if parts_water <= 0:
        raise CannotReckon("Undiluted soap clogs a foaming pump: 3 parts of water to one are usual.").at("parts_water")
    if not 0.0 <= headspace_pct < 100.0:
        raise CannotReckon("Headspace is from 0 to below 100 %.").at("headspace_pct")
    fill = bottle_mL * (1.0 - headspace_pct / 100.0)
    soap = fill / (1.0 + parts_water)
    lines = []
    if headspace_pct:
        lines.append(WorkLine("Filled", f"{figures(bottle_mL)} mL × (1 − {figures(headspace_pct)} %)", fill, "mL"))
    lines += [
        WorkLine("Soap", f"{figures(fill)} mL ÷ (1 + {figures(parts_water)})", soap, "mL"),
        WorkLine("Water", f"{figures(fill)} mL − {figures(soap)} mL", fill - soap, "mL"),
    ]
    low, high = drops_for(fill)
    lines.append(
        WorkLine("Scent, at most", f"{figures(fill)} mL × {figures(DROPS_PER_L[1])} drops/L", float(high), "drops")
    )
    return FoamingSoap(soap, fill - soap, (low, high), tuple(lines))


def drops_for(volume_mL: float) -> tuple[int, int]:
    """Drops of scent that are usual in a volume, from and to, one at least.

    Args:
        volume_mL: volume that is scented, mL.

    >>> drops_for(500.0)
    (10, 12)
    """
    few, many = (max(1, round(volume_mL / 1000.0 * each)) for each in DROPS_PER_L)
    return few, many


def like(parts_water: float) -> str:
    """What a ratio is like, by the nearest usual one.

    >>> like(3.0), like(8.0)
    ('a dense foam that stays; the usual one', 'too thin to foam well')
    """
    if parts_water < FOAMS_FROM * (1.0 - _SLACK):
        return "too thick: it clogs a foaming pump"
    if parts_water > FOAMS_TO * (1.0 + _SLACK):
        return "too thin to foam well"
    return LIKE[min(LIKE, key=lambda usual: abs(usual - parts_water))]


def _answer(asked: Asked) -> Answer:
    parts, bottle = asked["parts_water"], asked["bottle"].mL
    filled = foaming_soap(bottle, parts, asked["headspace_pct"] or 0.0)
    few, many = filled.drops
    drops = f"{few} to {many}" if few < many else f"{many}"
    rows = [
        ("Soap, to the first mark", amount_words(filled.soap_mL)),
        ("Water, to the second mark", f"{amount_words(filled.filled_mL)}, which takes {amount_words(filled.water_mL)}"),
        ("Scent, if any", f"{drops} drops"),
    ]
    rows += [(f"1 to {figures(usual)}", words) for usual, words in LIKE.items()]
    values: dict[str, float | str] = {
        "soap_mL": filled.soap_mL,
        "water_mL": filled.water_mL,
        "drops": float(many),
        "like": like(parts),
    }
    if asked["soap_price"] is not None:
        cost = asked["soap_price"] * filled.soap_mL / 1000.0
        values["cost"] = cost
        rows.insert(3, ("The soap in a bottle costs", f"{figures(cost)}, in the money its price is in"))
    says = [
        f"1 to {figures(parts)}: {like(parts)} (common practice, no source).",
        "It takes a foaming pump: another top does not foam it. Pour the water slowly on the soap.",
        "With distilled, or boiled and cooled, water. Diluted soap spoils: it keeps weeks, not months.",
        "A trace of oil floats and separates: shake before use. Vinegar, lemon and hard water curdle it.",
    ]
    if not asked["headspace_pct"]:
        says.append("Counted to what the bottle is sold as. By its brim, leave 10 % free for the pump.")
    wrong = like(parts).startswith("too")
    return Answer(
        values,
        filled.working,
        figures(filled.soap_mL),
        "mL of soap",
        tuple(rows),
        tuple(says),
        (f"1 to {figures(parts)} is {like(parts)}. 1 to 3, up to 1 to 5, foams.",) if wrong else (),
        Filled(
            (
                Layer("Soap", "soap", filled.soap_mL, amount=amount_words(filled.soap_mL)),
                Layer("Water", "water", filled.filled_mL, amount=amount_words(filled.filled_mL - filled.soap_mL)),
            ),
            filled.filled_mL,
            bottle,
        ),
        formula=Formula(
            "Unnamed",
            (
                Line(find("castile-soap"), Quantity(1.0, "part")),
                Line(find("water"), Quantity(parts, "part"), note="distilled, or boiled and cooled"),
            ),
            "foaming-soap",
            make=Quantity(filled.filled_mL, "mL"),
        ),
    )


FOAM = Question(
    "foam",
    "Foaming soap",
    "How much soap in a foaming bottle?",
    "The ratio counts, not the bottle: soap to a first mark, water to a second.",
    "Soap and bottles",
    (
        Field("bottle", Kind.VOLUME, "The bottle holds", "473 mL", hint="473 mL"),
        Field("parts_water", Kind.NUMBER, "Parts of water to one of soap", "3", hint="3", least=0.0, most=1e4),
        Field(
            "headspace_pct",
            Kind.NUMBER,
            "Left free for the pump, %",
            hint="0",
            optional=True,
            least=0.0,
            below=100.0,
        ),
        Field("soap_price", Kind.NUMBER, "A litre of the soap costs", hint="9.50", optional=True, least=0.0, most=1e6),
    ),
    (
        Given("soap_mL", "castile soap"),
        Given("water_mL", "water"),
        Given("drops", "drops of scent, at most"),
        Given("like", "what such a foam is like", "text"),
        Given("cost", "of the soap in the bottle, where its price is given", optional=True),
    ),
    _answer,
)
