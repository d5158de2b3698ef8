"""How much additive a stock can take, and which stock a ratio needs."""

from dataclasses import dataclass, replace

from firkin.core.densities import ALCOHOLS
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import (
    Quantity,
    Strength,
    Working,
    WorkLine,
    amount_words,
    figures,
    rounded_down,
    rounded_up,
)
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Additives, Mark, Rail, StockLine, Window
from firkin.core.questions.wording import RUB_CAUTIONS, active_field, lines_at, strength_field, with_gel

_US_CUP_ML = Quantity(1.0, "cup").mL


@dataclass(frozen=True, slots=True)
class Room:
    """How much additive a stock can take: share of the whole, and parts of stock per part additive."""

    additive_share_pct: float
    parts_stock_per_part_additive: float | None
    working: Working


def max_additive(stock: Strength, target: Strength, active: str = "ethanol") -> Room:
    """The largest additive share that holds ``target``, by label arithmetic, in % v/v.

    Other bases are converted, as of ``active``, an alcohol. The lowest end of the stock and the highest of the target
    are counted. A stock exactly at the target takes none (share 0, no ratio). Raises CannotReckon when the stock is
    below the target.

    >>> room = max_additive(Strength.of(70.0, "v/v"), Strength.of(60.0, "v/v"))
    >>> round(room.additive_share_pct, 2), round(room.parts_stock_per_part_additive, 3)
    (14.29, 6.0)
    """
    have, want = ALCOHOLS[active].as_volume(stock).low, ALCOHOLS[active].as_volume(target).high
    if not want:
        raise CannotReckon("A target of 0 % leaves nothing to hold.").at("target")
    if want > have:
        raise CannotReckon(
            f"A stock of {stock} is already below {target}, so it can take no additive. "
            f"At most {figures(have)} % is possible, used straight."
        ).at("target")
    share = 100.0 * (1.0 - want / have)
    line = WorkLine("Additive share at most", f"1 − {figures(want)} ÷ {figures(have)}", share, "% of the whole")
    if share == 0:
        return Room(0.0, None, (line,))
    parts = (100.0 - share) / share
    ratio = WorkLine("Parts of stock to 1 of additive", f"{figures(100 - share)} ÷ {figures(share)}", parts, "parts")
    return Room(share, parts, (line, ratio))


def required_stock(
    target: Strength, stock_parts: float, additive_parts: float, active: str = "ethanol"
) -> tuple[float, Working]:
    """The stock in % v/v that holds ``target`` at a ratio, by label arithmetic.

    Raises CannotReckon when even pure alcohol would not do.

    >>> round(required_stock(Strength.of(60.0, "v/v"), 2, 1)[0], 6)
    90.0
    """
    if stock_parts <= 0 or additive_parts < 0:
        raise CannotReckon("Parts must be more than 0.").at("parts")
    want = ALCOHOLS[active].as_volume(target).high
    whole = stock_parts + additive_parts
    needed = want * whole / stock_parts
    if needed > 100.0 + 1e-9:
        best = 100.0 * stock_parts / whole
        raise CannotReckon(
            f"{figures(stock_parts)} to {figures(additive_parts)} would need a stock of {figures(needed)} %, "
            f"more than pure. That ratio reaches at most {figures(best)} %; use less additive."
        ).at("parts")
    line = WorkLine("Stock needed", f"{figures(want)} % × {figures(whole)} ÷ {figures(stock_parts)}", needed, "% v/v")
    return needed, (line,)


def _by_volume(asked: Asked, key: str) -> Strength:
    alcohol = asked.active.alcohol
    if alcohol is None:
        raise CannotReckon(f"{asked.active.name} is no alcohol. Ask this of ethanol or isopropanol.").at("active")
    return alcohol.as_volume(asked[key])


def _room(asked: Asked) -> Answer:
    stock, target, active = _by_volume(asked, "stock"), _by_volume(asked, "target"), asked.active
    room = max_additive(stock, target)
    share, parts = room.additive_share_pct, room.parts_stock_per_part_additive
    owned = [
        StockLine(one.name, one.strength.low)
        for one in asked.stocks
        if one.material == active.id and one.strength.basis == "v/v" and one.strength != stock
    ]
    lines = ((f"{figures(target.high)} % line", target.high),)
    picture = Additives((*owned, StockLine("this one", stock.low, chosen=True)), lines, share)
    values = {"additive_share_pct": share, "parts_stock_per_part_additive": parts}
    sources = lines_at(active.id, target)
    if parts is None:
        says = ("Use it straight: this stock can take none.", *sources)
        return Answer(values, room.working, "0", "% additive", says=says, picture=picture, cautions=RUB_CAUTIONS)
    rows = [("Parts of stock to 1 of additive", f"at least {figures(rounded_up(parts))}")]
    if asked["bottle"] is not None:
        take = rounded_down(asked["bottle"].mL / parts)
        cups = figures(rounded_down(take / _US_CUP_ML, 3), 3)
        rows.append(("For this bottle, at most", f"{amount_words(take)}, or {cups} US cups"))
        rows.append(("It comes to, poured", amount_words(asked["bottle"].mL + take)))
    formula = with_gel(active.id, stock, parts, target)
    exact = replace(formula.lines[0], amount=Quantity(parts, "part"))
    mixed = reckon(replace(formula, lines=(exact, formula.lines[1])))
    rows.append(("True strength with aloe gel", f"{figures(mixed.actives[0].true)} % v/v"))
    return Answer(
        values,
        room.working,
        figures(rounded_down(share, 3), 3),
        "% additive at most",
        tuple(rows),
        sources,
        picture=picture,
        cautions=RUB_CAUTIONS,
        formula=formula,
    )


MAX_ADDITIVE = Question(
    "max-additive",
    "Gel in a bottle",
    "How much gel can this bottle take?",
    "Everything that is not alcohol counts: gel, water, glycerol, oil. By label arithmetic, the lower of the two.",
    "Strength",
    (
        active_field("isopropanol", fallback="isopropanol"),
        strength_field("stock", "Strength on the label", "70 %", "Or the name of a stock on your shelf."),
        strength_field("target", "Rule to hold", "60 %", "60 % is CDC’s line, 70 % a stricter house line."),
        Field("bottle", Kind.VOLUME, "What is in the bottle", "500 mL", hint="500 mL", optional=True),
    ),
    (
        Given("additive_share_pct", "share of the whole, at most"),
        Given("parts_stock_per_part_additive", "at least; null when the stock takes none", or_null=True),
    ),
    _room,
)


def _needed(asked: Asked) -> Answer:
    target, active, parts = _by_volume(asked, "target"), asked.active, asked["parts"]
    needed, working = required_stock(target, parts["stock"], parts["additive"])
    owned = [one for one in asked.stocks if one.material == active.id]
    fit = [f"{one.name}, {one.strength}" for one in owned if one.strength.low >= needed - 1e-9]
    short = [f"{one.name}, {one.strength}" for one in owned if one.strength.low < needed - 1e-9]
    rows = [("On your shelf and strong enough", "; ".join(fit) or "none")]
    if short:
        rows.append(("Too weak for this ratio", "; ".join(short)))
    window = Window(f"{figures(target.high)} % line", target.high, None)
    mark = Mark(f"{active.name} needed", needed, needed, needed, needed)
    ratio = parts["stock"] / parts["additive"] if parts["additive"] else None
    stock = Strength.of(rounded_up(needed), "v/v")
    return Answer(
        {"stock_pct_vv": needed},
        working,
        figures(rounded_up(needed)),
        "% v/v at least",
        tuple(rows),
        lines_at(active.id, target),
        picture=Rail((window,), (mark,)),
        cautions=RUB_CAUTIONS,
        formula=None if ratio is None else with_gel(active.id, stock, ratio, target),
    )


REQUIRED_STOCK = Question(
    "required-stock",
    "Which stock",
    "Which stock do I need?",
    "For a ratio somebody told you, and the rule it must hold.",
    "Strength",
    (
        active_field("isopropanol", fallback="isopropanol"),
        strength_field("target", "Rule to hold", "60 %", "60 % is CDC’s line, 70 % a stricter house line."),
        Field(
            "parts",
            Kind.GROUP,
            "",
            fields=(
                Field("stock", Kind.NUMBER, "Parts of stock", "2", above=0.0, most=1e6),
                Field("additive", Kind.NUMBER, "Parts of everything else", "1", least=0.0, most=1e6),
            ),
        ),
    ),
    (Given("stock_pct_vv", "the weakest stock that does"),),
    _needed,
)
