"""Thinning a stock with water, to a size or from all that is left."""

from dataclasses import dataclass

from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import QS, Quantity, Strength, Working, WorkLine, amount_words, figures, weight_words
from firkin.core.questions.bases import both, comes_to, counted, fraction, grams_per_mL, range_rows, range_says
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer
from firkin.core.questions.temperature import check_liquid
from firkin.core.questions.wording import HIGH, LOW, doubt_rows, doubts, strength_field, thinned
from firkin.core.texts import uncapped


@dataclass(frozen=True, slots=True)
class Thinned:
    """How to thin a stock: mL and g to measure, the water label arithmetic would have said, and what it comes to.

    ``low`` and ``high`` are the strengths at the ends of the stock's range, in per cent on the target's basis.
    """

    stock_mL: float
    water_mL: float
    label_water_mL: float
    stock_g: float
    water_g: float
    low: float
    high: float
    working: Working


def dilute(active: Material, stock: Strength, target: Strength, make_mL: float, celsius: float = 20.0) -> Thinned:
    """Stock and water for ``make_mL`` of ``target``, contraction counted; all measured at ``celsius``.

    A stock given as a range is reckoned at its weaker end. Raises CannotReckon when the target is above that.

    >>> from firkin.core.catalogue import find
    >>> thin = dilute(find("ethanol"), Strength.of(96.0, "v/v"), Strength.of(70.0, "v/v"), 1000.0)
    >>> round(thin.stock_mL, 1), round(thin.water_mL, 1), round(thin.label_water_mL, 1)
    (729.2, 297.4, 270.8)
    """
    strong, weak = fraction(active, counted(stock)), fraction(active, target)
    if weak > strong * (1 + 1e-9):
        raise CannotReckon(
            f"{target} cannot be reached from {stock}: thinning only weakens. At most "
            f"{both(active, counted(stock))} is sure; for more, find a stronger stock."
        ).at("target")
    if not weak:
        raise CannotReckon("A target of 0 % is plain water.").at("target")
    check_liquid(active, weak, celsius, "temperature")
    wanted, stocked = active.density_at(weak, celsius), grams_per_mL(active, strong, celsius)
    total = make_mL * wanted
    stock_g = total * weak / strong
    water_g = total - stock_g
    stock_mL = stock_g / stocked
    water_mL = water_g / grams_per_mL(active, 0.0, celsius)
    label_water = make_mL - (stock_mL if not active.solid else make_mL * weak / strong)  # a litre taken for a kilo
    working = (
        WorkLine(
            "Weight of what is wanted",
            f"{figures(make_mL)} mL × {figures(wanted)} g/mL",
            total,
            "g",
        ),
        WorkLine(
            "Stock, by the active it carries",
            f"{figures(total)} g × {figures(100 * weak)} ÷ {figures(100 * strong)}",
            stock_g,
            "g",
        ),
        WorkLine(
            "Stock to measure",
            f"{figures(stock_g)} g ÷ {figures(stocked)} g/mL",
            stock_mL,
            "mL",
        ),
        WorkLine("Water that really goes in", f"{figures(total)} g − {figures(stock_g)} g", water_mL, "mL"),
        WorkLine(
            "Label arithmetic would say",
            f"{figures(make_mL)} − {figures(make_mL - label_water)}",
            label_water,
            "mL water",
        ),
    )
    low, high = comes_to(active, ((stock_mL, stock), (water_mL, Strength.of(0.0, stock.basis))), target, celsius)
    return Thinned(stock_mL, water_mL, label_water, stock_g, water_g, low, high, working)


def _answer(asked: Asked) -> Answer:
    celsius = 20.0 if asked["temperature"] is None else asked["temperature"]
    stock, target, material = asked["stock"], asked["target"], asked.active
    if asked["left"] is None and asked["make"] is None:
        raise CannotReckon("Say how much to make, or what is left of the stock.").at("make")
    if asked["left"] is not None:
        make = asked["left"].mL / (dilute(material, stock, target, 1000.0, celsius).stock_mL / 1000.0)
    else:
        make = asked["make"].mL
    thin = dilute(material, stock, target, make, celsius)
    rows = (
        ("Stock", f"{amount_words(thin.stock_mL)}, or {weight_words(thin.stock_g)}"),
        ("Water that really goes in", f"{amount_words(thin.water_mL)}, or {weight_words(thin.water_g)}"),
        *([] if material.solid else [("Water by label arithmetic", amount_words(thin.label_water_mL))]),
        ("It comes to", amount_words(make)),
        *range_rows(material, thin.low, thin.high, target),
        *doubt_rows(material, make, thin.stock_g + thin.water_g),
    )
    says = [
        _how(material, thin, make),
        *range_says(stock),
        *doubts(material),
    ]
    if celsius != 20.0:
        says.append(f"Measured at {figures(celsius)} °C; strengths are at 20 °C.")
    layers, formula = _to_keep(material, stock, thin, make, celsius)
    return Answer(
        {
            "stock_mL": thin.stock_mL,
            "water_mL": thin.water_mL,
            "label_water_mL": thin.label_water_mL,
            "stock_g": thin.stock_g,
            "water_g": thin.water_g,
            "low": thin.low,
            "high": thin.high,
        },
        thin.working,
        figures(thin.water_mL),
        "mL of water",
        rows,
        tuple(says),
        picture=Filled(layers, make),
        cautions=material.cautions,
        formula=formula,
    )


def _into_water(material: Material) -> bool:
    """True for what heats up with water, so that it goes into the water and never the other way."""
    return "caustic-into-water" in material.cautions or "sulfonic-acid" in material.cautions


def _to_keep(
    material: Material, stock: Strength, thin: Thinned, make_mL: float, celsius: float
) -> tuple[tuple[Layer, ...], Formula]:
    """What the drawing shows and what is kept, both in the order it is done: the water first where it must be."""
    poured, water = Line(material, Quantity(thin.stock_mL, "mL"), stock), find("water")
    if not (material.solid or _into_water(material)):
        layers = (
            Layer(material.name, "alcohol", thin.stock_mL, amount=amount_words(thin.stock_mL)),
            Layer("Water", "water", make_mL, top_up=True, amount=amount_words(thin.water_mL)),
        )
        lines, make = (poured, Line(water, Quantity(0.0, QS))), Quantity(make_mL, "mL")
    else:
        weight = weight_words(thin.stock_g)
        layers = (
            Layer("Water", "water", thin.water_mL, amount=amount_words(thin.water_mL)),
            Layer(material.name, "alcohol", make_mL, amount=weight),
        )
        weighed = Line(material, Quantity(thin.stock_g, "g"), stock)
        lines, make = (Line(water, Quantity(thin.water_g, "g")), weighed), None
    family = "liquid-rub" if material.alcohol else "surface" if "oxidiser" in material.roles else "other"
    return layers, Formula("Unnamed", lines, family, make=make, temperature=celsius)


def _how(material: Material, thin: Thinned, make_mL: float) -> str:
    """How it is done: into the water what heats up in it, and to the mark everything else."""
    if _into_water(material):
        return (
            f"Weigh {weight_words(thin.water_g)} of cold water first, and add the {uncapped(material.name)}, "
            f"{weight_words(thin.stock_g)}, to it slowly: never water onto it. It grows hot; goggles and gloves."
        )
    if material.solid:
        return f"Dissolve {weight_words(thin.stock_g)} in {weight_words(thin.water_g)} of water, by weight."
    return (
        f"By topping up: pour {amount_words(thin.stock_mL)} of stock, then water to the {amount_words(make_mL)} mark, "
        "let it cool, and top up again."
    )


DILUTE = Question(
    "dilute",
    "Thin",
    "How much water thins this bottle?",
    "To a size, or from all that is left. Alcohol and water shrink: more water goes in than label arithmetic says.",
    "Strength",
    (
        Field("active", Kind.ACTIVE, "What", "ethanol", choices=thinned),
        strength_field("stock", "Strength on the label", "96 %", "Or the name of a stock on your shelf."),
        strength_field("target", "Thin it to", "70 %"),
        Field("make", Kind.VOLUME, "Make", "1 L", hint="1 L", optional=True),
        Field(
            "left",
            Kind.VOLUME,
            "Or use up",
            hint="350 mL",
            help="What is left of the stock; then “Make” is not counted.",
            optional=True,
        ),
        Field("temperature", Kind.TEMPERATURE, "Bench temperature", hint="20 °C", optional=True),
    ),
    (
        Given("stock_mL", "stock to measure"),
        Given("water_mL", "water that really goes in"),
        Given("label_water_mL", "water label arithmetic would say"),
        Given("stock_g", "stock by weight"),
        Given("water_g", "water by weight"),
        LOW,
        HIGH,
    ),
    _answer,
)
