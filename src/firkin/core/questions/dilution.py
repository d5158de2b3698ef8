"""The questions of strength and dilution: convert, thin, how much additive, which stock."""

from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.densities import ALCOHOLS
from firkin.core.errors import CannotReckon
from firkin.core.measures import UK_PROOF_PER_PCT, US_PROOF_PER_PCT, Strength, Working, WorkLine, figures

CONVERT_TO = ("% v/v", "% w/w", "% w/v", "proof", "proof_uk")


def convert(active: Material, strength: Strength, to: str) -> tuple[float, Working]:
    """The nominal strength in another unit of CONVERT_TO, per cent or degrees.

    Alcohols go by their density tables, hydrogen peroxide by its densities; others only where their
    density is known. Raises CannotReckon for proof of what is no alcohol, and for unknown units.

    >>> from firkin.core.catalogue import find
    >>> round(convert(find("ethanol"), Strength.of(60.0, "w/w"), "% v/v")[0], 2)
    67.74
    """
    if to not in CONVERT_TO:
        raise CannotReckon(f"“{to[:20]}” is not a strength unit. Write one of {', '.join(CONVERT_TO)}.").at("to")
    alcohol = ALCOHOLS.get(active.id)
    fraction = active.mass_fraction(strength)
    assert fraction is not None
    density = active.density_at(fraction)
    lines = [
        WorkLine(f"{active.name}, share by weight of {strength}", "", 100.0 * fraction, "% w/w"),
        WorkLine("Density of that mixture at 20 °C", "", density, "g/mL"),
    ]
    if to == "% w/w":
        return 100.0 * fraction, (lines[0],)
    if to == "% w/v":
        value = 100.0 * fraction * density
        lines.append(WorkLine("Grams in 100 mL", f"{figures(100 * fraction)} × {figures(density)}", value, "% w/v"))
        return value, tuple(lines)
    if alcohol is None:
        raise CannotReckon(f"{active.name} is not measured in {to}; write % w/w or % w/v.").at("to")
    volume = 100.0 * alcohol.volume_fraction(fraction)
    lines.append(
        WorkLine(
            "Share by volume",
            f"{figures(100 * fraction)} × {figures(density)} ÷ {figures(alcohol.pure_density)}",
            volume,
            "% v/v",
        )
    )
    if to == "% v/v":
        return volume, tuple(lines)
    factor = US_PROOF_PER_PCT if to == "proof" else UK_PROOF_PER_PCT
    lines.append(WorkLine("Proof", f"{figures(volume)} × {figures(factor)}", volume * factor, to))
    return volume * factor, tuple(lines)


@dataclass(frozen=True, slots=True)
class Thinned:
    """How to thin a stock: mL and g to measure, and the water label arithmetic would have said."""

    stock_mL: float
    water_mL: float
    label_water_mL: float
    stock_g: float
    water_g: float
    working: Working


def dilute(active: Material, stock: Strength, target: Strength, make_mL: float, celsius: float = 20.0) -> Thinned:
    """Stock and water for ``make_mL`` of ``target``, contraction counted; all measured at ``celsius``.

    Raises CannotReckon when the target is above the stock.

    >>> from firkin.core.catalogue import find
    >>> thin = dilute(find("ethanol"), Strength.of(96.0, "v/v"), Strength.of(70.0, "v/v"), 1000.0)
    >>> round(thin.stock_mL, 1), round(thin.water_mL, 1), round(thin.label_water_mL, 1)
    (729.2, 297.4, 270.8)
    """
    strong, weak = active.mass_fraction(stock), active.mass_fraction(target)
    assert strong is not None and weak is not None
    if weak > strong * (1 + 1e-9):
        raise CannotReckon(
            f"{target} cannot be reached from {stock}: thinning only weakens. At most {stock} is possible; "
            "for more, find a stronger stock."
        ).at("target")
    if not weak:
        raise CannotReckon("A target of 0 % is plain water.").at("target")
    wanted, stocked = active.density_at(weak, celsius), active.density_at(strong, celsius)
    total = make_mL * wanted
    stock_g = total * weak / strong
    water_g = total - stock_g
    stock_mL = stock_g / stocked
    water_mL = water_g / active.density_at(0.0, celsius)
    label_water = make_mL - stock_mL
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
        WorkLine("Label arithmetic would say", f"{figures(make_mL)} − {figures(stock_mL)}", label_water, "mL water"),
    )
    return Thinned(stock_mL, water_mL, label_water, stock_g, water_g, working)


@dataclass(frozen=True, slots=True)
class Room:
    """How much additive a stock can take: share of the whole, and parts of stock per part additive."""

    additive_share_pct: float
    parts_stock_per_part_additive: float | None
    working: Working


def max_additive(stock: Strength, target: Strength) -> Room:
    """The largest additive share that holds ``target``, by label arithmetic, in % v/v.

    The lowest end of the stock and the highest of the target are counted. A stock exactly at the
    target takes none (share 0, no ratio). Raises CannotReckon when the stock is below the target.

    >>> room = max_additive(Strength.of(70.0, "v/v"), Strength.of(60.0, "v/v"))
    >>> round(room.additive_share_pct, 2), round(room.parts_stock_per_part_additive, 3)
    (14.29, 6.0)
    """
    have, want = _volumes(stock, "stock").low, _volumes(target, "target").high
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


def required_stock(target: Strength, stock_parts: float, additive_parts: float) -> tuple[float, Working]:
    """The stock in % v/v that holds ``target`` at a ratio, by label arithmetic.

    Raises CannotReckon when even pure alcohol would not do.

    >>> round(required_stock(Strength.of(60.0, "v/v"), 2, 1)[0], 6)
    90.0
    """
    if stock_parts <= 0 or additive_parts < 0:
        raise CannotReckon("Parts must be more than 0.").at("parts")
    want = _volumes(target, "target").high
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


def _volumes(strength: Strength, place: str) -> Strength:
    if strength.basis != "v/v":
        raise CannotReckon(f"{strength}: parts are by volume here, so give the strength in % v/v.").at(place)
    return strength
