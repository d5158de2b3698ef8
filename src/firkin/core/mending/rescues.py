"""Rescuing a batch that came out wrong: amounts where there are amounts, advice where there are none."""

from functools import cache

from firkin.core import datafiles
from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning
from firkin.core.measures import Quantity, Side, Strength, figures, rounded_down
from firkin.core.mending import ph_rescues
from firkin.core.mending.help import UNSEEN, Addition, Rescue, Seen, in_g, in_mL, overnight
from firkin.core.questions import SOAP_G_PER_L, WATER, strengthen, weaken
from firkin.core.texts import quoted, uncapped

#: Points inside its line that a rescued batch is brought to, beyond what its own ranges and errors take.
_INSIDE = 0.5  # common practice, no source
_THICKER_NEXT_DAY = "Let it rest overnight, covered: it is thicker next day."

TROUBLES = {
    "weak": "It came out too weak",
    "strong": "It came out too strong",
    "watery": "It is like water",
    "thick": "It is too thick",
    "clumped": "It has clumps",
    "collapsed": "The gel collapsed",
    "acid": "The pH is too low",
    "alkaline": "The pH is too high",
    "boiled-over": "It boiled over",
    "caked": "The powder caked",
    "mouldy": "Something grows on it",
    "no-gas": "It gives no gas",
    "no-foam": "It does not foam",
    "separated": "It separates",
    "sticky": "It stays sticky",
    "scented": "Too much scent",
    "forgot": "I forgot something",
    "wrong-bottle": "It was the wrong bottle",
    "parted-late": "It separated after days",
    "smells-off": "It smells off",
    "hisses": "The cap hisses",
}
#: What may be wrong with a batch of any family.
ANY_BATCH = ("forgot", "wrong-bottle", "smells-off", "hisses")


@cache
def _advice() -> dict[str, tuple[str, ...]]:
    """The troubles for which there is advice and nothing to add."""
    return {trouble: tuple(said) for trouble, said in datafiles.toml("mending/advice.toml").items()}


#: Of what is too weak or too strong, and is judged by no alcohol and nothing that fades.
_NO_STRENGTH = (
    "Nothing in it has a strength to check. If it cleans too little, use more of it, or put more "
    "detergent into the next batch. If it cleans too well, use less.",
)

#: Of what is too weak or too strong, and holds what fades (WHO, May 2020: chlorine is made fresh every day).
_NOT_MENDED = (
    "Thinned bleach and peroxide can't be fixed: they fade, and you can't see how strong they are.",
    "Pour it away with much water, and make it fresh from a bottle whose age and label you know.",
)

#: Of what holds chlorine, by trouble (CDC, Cleaning and Disinfecting with Bleach: never mixed with anything).
_OF_CHLORINE = {
    "alkaline": (
        "Bleach is alkaline by nature, and that keeps it. Never bring it down: acid drives chlorine gas out of it.",
    ),
    "acid": (
        "Bleach that is not alkaline gives off chlorine gas. Put nothing into it, open the windows and keep away; "
        "breathed in, call a poison centre.",
    ),
}
#: Of a dry powder, of which water would spoil all (common practice, no source).
_OF_POWDER = ("It is a powder and has to stay dry: put nothing wet in. Choose one of the troubles of powders.",)
#: Of a ferment (common practice, no source).
_OF_A_FERMENT = {
    "thick": ("What is thick in it is the peel: it comes out when it is strained. Leave it closed, and vent it.",),
    "boiled-over": (
        "It foams over where it was filled too high: vent it, wipe it off, and leave a fifth of the container empty.",
        "You don't need to replace what ran over.",
    ),
}
#: Of what is flammable (ethanol boils at 78.3 °C, 2-propanol at 82.3 °C: NIST Chemistry WebBook).
_ALCOHOL_BOILED = (
    "Alcohol boils off before water. What is left is weaker, and nobody can say how much. Take no water; measure "
    "its strength, and choose “too weak”.",
    "Never heat it: its vapour catches fire, even from across the room.",
)
#: Humectant that leaves hands dry, % by weight: glycerol 1.45 % v/v of WHO's formulas (WHO, Guide to Local Production).
_USUAL_HUMECTANT_PCT = 2.1
#: Scent that is plenty on skin, % by weight (common practice, no source).
_MOST_SCENT_PCT = 1.0
#: Troubles against which something is poured in, or would be by one who does not know what it is.
_POURS = frozenset({"watery", "thick", "acid", "alkaline", "boiled-over", "collapsed", "no-foam", "separated"})
#: Less than this share of what is in is not asked for: no kitchen scale shows it (common practice, no source).
_NOTHING = 0.001


def rescue(trouble: str, result: Reckoning, seen: Seen = UNSEEN) -> Rescue:
    """What helps a batch with a trouble.

    Args:
        trouble: one of TROUBLES.
        result: the batch, reckoned: masses in g, strengths in per cent.
        seen: what its maker measured of it.

    Raises:
        CannotReckon: with a sentence, where what it needs to know is missing, or nothing can help.

    >>> from firkin.core.formula import house_formulas
    >>> from firkin.core.formula import reckon
    >>> weak = rescue("weak", reckon(house_formulas()["who-one"].formula),
    ...               Seen(now=Strength.of(70.0, "v/v"), stock=(find("ethanol"), Strength.of(96.0, "v/v"))))
    >>> str(weak.additions[0].amount)
    '269 mL'
    """
    finders = {
        "weak": _weak,
        "strong": _strong,
        "watery": _watery,
        "thick": _thick,
        "clumped": _clumped,
        "collapsed": _collapsed,
        "sticky": _sticky,
        "scented": _scented,
        "acid": ph_rescues.acid,
        "alkaline": ph_rescues.alkaline,
        "boiled-over": _boiled_over,
    }
    if trouble in ("weak", "strong") and not any(active.is_alcohol for active in result.actives):
        fades = result.formula.lines_with("oxidiser")
        return Rescue(trouble, _NOT_MENDED if fades else _NO_STRENGTH)
    if leave_be := left_be(trouble, result.formula):
        return Rescue(trouble, leave_be)
    if trouble in _advice():
        return Rescue(trouble, _advice()[trouble])
    if trouble not in finders:
        raise CannotReckon(f"{quoted(trouble)} is no trouble Firkin knows. Choose one from the list.")
    return finders[trouble](result, seen)


def left_be(trouble: str, formula: Formula) -> tuple[str, ...]:
    """What is said of a batch into which nothing may go against a trouble; nothing where something may.

    Args:
        trouble: id of a trouble, such as "weak".
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula import house_formulas
    >>> bleach = house_formulas()["chlorine-surfaces"].formula
    >>> left_be("alkaline", bleach)[0][:31], left_be("caked", bleach)
    ('Bleach is alkaline by nature, a', ())
    """
    if trouble in _POURS and formula.lines_with("chlorine"):
        return _OF_CHLORINE.get(trouble, _NOT_MENDED)
    if trouble in _POURS and formula.dry:
        return _OF_POWDER
    if trouble == "boiled-over" and formula.lines_with("alcohol"):
        return _ALCOHOL_BOILED
    if trouble == "boiled-over" and formula.lines_with("oxidiser"):
        return _NOT_MENDED
    if trouble == "collapsed" and not formula.lines_with("thickener"):
        return ("There is no thickener in it: no gel to collapse.",)
    return _OF_A_FERMENT.get(trouble, ()) if formula.family == "ferment" else ()


def _alcohol(result: Reckoning) -> tuple[Material, Strength]:
    """The alcohol of a batch and the strength it is judged by."""
    active = result.main
    if active is None or not active.is_alcohol:
        raise CannotReckon("There is no alcohol in this batch to be weak or strong.")
    return find(active.active), Strength.of(active.lower, "v/v")


def _limits(result: Reckoning) -> tuple[float | None, float | None]:
    """The highest minimum and the lowest maximum of its rule lines; 60 % where it has none."""
    lows = [verdict.minimum for verdict in result.verdicts if verdict.minimum is not None]
    highs = [verdict.maximum for verdict in result.verdicts if verdict.maximum is not None]
    return max(lows) if lows else None, min(highs) if highs else None


def _just_inside(result: Reckoning, limit: float, side: Side) -> float:
    """The strength at which the worst case of this batch is just inside a limit, in % v/v."""
    active = result.main
    if side is Side.LOW:
        worst = active.low / active.lower if active is not None and active.lower else 1.0
        return min(99.0, (limit + _INSIDE) / worst)
    worst = active.high / active.higher if active is not None and active.higher else 1.0
    return (limit - _INSIDE) / worst


def _held(seen: Seen, now: Strength) -> str:
    """What it holds, and how that is known: read off, or the cautious one of label and true strength."""
    if seen.now is not None:
        return f"It was measured at {figures(now.value)} % v/v"
    return f"By what went in it holds {figures(now.value)} % v/v, the cautious one of label and true strength"


def _weak(result: Reckoning, seen: Seen) -> Rescue:
    material, counted = _alcohol(result)
    now = seen.now or counted
    low, high = _limits(result)
    least = max(low if low is not None else 60.0, seen.aim_pct or 0.0)
    target = _just_inside(result, least, Side.LOW)
    if low is not None and high is not None:
        middle = (low + high) / 2.0
        target = min(target, middle if least <= middle else max(least, _just_inside(result, high, Side.HIGH)))
    if seen.stock is None or seen.stock[0].id != material.id:
        raise CannotReckon(f"Choose a stock of {uncapped(material.name)} to lift it with.").at("stock")
    lift = strengthen(material, result.total.volume_mL, now, seen.stock[1], Strength.of(target, "v/v"))
    return Rescue(
        "weak",
        (
            f"{_held(seen, now)}. It should hold at least {figures(least, 3)} %.",
            "See that the vessel holds what it comes to.",
            "Measure the strength again afterwards, in the liquid.",
        ),
        (Addition(material, in_mL(max(lift.add_mL, lift.label_add_mL)), seen.stock[1]),),
        aim=target,
    )


def _strong(result: Reckoning, seen: Seen) -> Rescue:
    material, counted = _alcohol(result)
    active = result.active(material.id)
    now = seen.now or Strength.of(active.higher if active else counted.value, "v/v")
    low, high = _limits(result)
    if seen.aim_pct is not None:
        return _down_to(result, material, now, max(seen.aim_pct, low or 0.0), seen)
    if high is None:
        raise CannotReckon("No rule of this batch sets an upper limit, so none calls it too strong.")
    target = _just_inside(result, high, Side.HIGH)
    if low is not None:
        target = max(target, (low + high) / 2.0)
    thin = weaken(material, result.total.volume_mL, now, WATER, Strength.of(target, "v/v"))
    return Rescue(
        "strong",
        (
            f"{_held(seen, now)}. It should hold at most {figures(high)} %.",
            "See that the vessel holds what it comes to.",
        ),
        (Addition(find("water"), in_mL(thin.add_mL)),),
        aim=target,
        thins=True,
    )


def _down_to(result: Reckoning, material: Material, now: Strength, least: float, seen: Seen) -> Rescue:
    """A batch stronger than it is meant to be, thinned down to its aim and no further."""
    target = _just_inside(result, least, Side.LOW)
    if now.value <= target:
        raise CannotReckon(f"It is not above {figures(least, 3)} %. Nothing needs to go in.")
    thin = weaken(material, result.total.volume_mL, now, WATER, Strength.of(target, "v/v"))
    return Rescue(
        "strong",
        (f"{_held(seen, now)}. {figures(least, 3)} % is aimed at.", "See that the vessel holds what it comes to."),
        (Addition(find("water"), Quantity(rounded_down(thin.add_mL, 3), "mL")),),
        aim=least,
        thins=True,
        keeps=True,
    )


def _soap(result: Reckoning) -> float:
    """Grams of bar soap per litre."""
    grams = sum(result.lines[i].mass_g for i in result.formula.lines_of("bar-soap"))
    return 1000.0 * grams / result.total.volume_mL


def _watery(result: Reckoning, seen: Seen) -> Rescue:
    now = _soap(result)
    if now and result.formula.family == "laundry-soap" and seen.soap_g_per_L is None:
        return Rescue(
            "watery",
            (
                "Laundry soap sets overnight, by its borax and washing soda; look again tomorrow before adding soap.",
                f"It washes as well when it is thin: it holds {figures(now)} g of soap per litre, and the dose "
                "counts that.",
                "To thicken it anyway, enter how much soap worked for you, in g a litre.",
            ),
        )
    if now:
        wanted = seen.soap_g_per_L or (SOAP_G_PER_L[1] if now >= SOAP_G_PER_L[0] else sum(SOAP_G_PER_L) / 2)
        if wanted <= now * (1.0 + _NOTHING):
            raise CannotReckon(
                f"It holds {figures(now)} g of soap per litre already, and {figures(wanted)} are wanted. "
                "Wait a night: it thickens as it cools."
            ).at("soap")
        more = (wanted - now) * result.total.volume_mL / 1000.0
        return Rescue(
            "watery",
            (
                f"It holds {figures(now)} g of soap per litre; {figures(wanted)} g per litre is aimed at.",
                "Warm it gently, stir the gratings in until they are gone, and let it rest overnight. It boils over "
                "quickly. How thick it gets depends on the bar.",
            ),
            (Addition(find("bar-soap"), in_g(more)),),
            mix="Stir until the gratings are gone."
            if result.formula.lines_with("alcohol")
            else "Warm it gently and stir until the gratings are gone. It boils over quickly.",
            rest=overnight(_THICKER_NEXT_DAY),
        )
    if result.formula.lines_with("surfactant"):
        salt = 0.002 * result.total.mass_g
        return Rescue(
            "watery",
            (
                "Salt thickens a detergent to a peak, then thins it. Dissolve it in a little water, add it in small "
                "amounts, and stop when it thickens no more.",
            ),
            (Addition(find("salt"), in_g(salt), portions=4, caution="Past its peak, more salt thins."),),
            mix="Stir gently until even, and let the foam go before you look.",
        )
    if result.formula.lines_with("thickener"):
        advice = "A gel thickens overnight, and a polymer gels only once it is neutralised: check the pH first."
    elif result.formula.lines_with("alcohol"):
        advice = "A rub is thin by nature: spray it. A gel thickens overnight: look again before adding anything."
    elif result.formula.family == "foaming-soap":
        advice = "It is meant to be like water: the pump makes the foam, and thicker soap clogs it."
    else:
        advice = (
            "Nothing in it thickens it, and it works as well thin. What is sprayed or wiped on is meant to be thin."
        )
    return Rescue("watery", (advice,))


def _sticky(result: Reckoning, _seen: Seen) -> Rescue:
    """Glycerol and its like, against what is usual."""
    lines = result.formula.lines_with("humectant")
    share = sum(result.lines[i].mass_g for i in lines) / result.total.mass_g * 100.0
    if not share:
        said = "There is nothing in it that stays sticky. Rinse the bottle: something else may have got in."
        return Rescue("sticky", (said,))
    names = " and ".join(dict.fromkeys(uncapped(result.formula.lines[i].material.name) for i in lines))
    holds = f"It holds {figures(share, 2)} % {names}; about {figures(_USUAL_HUMECTANT_PCT, 2)} % feels dry (WHO)."
    if share <= _USUAL_HUMECTANT_PCT * 1.5:
        return Rescue("sticky", (holds, "That is usual. Use less of it at a time, and rub until it is dry."))
    times = share / _USUAL_HUMECTANT_PCT - 1.0
    return Rescue(
        "sticky",
        (
            holds,
            f"Make it again without, and mix {figures(times, 2)} parts of that with 1 of this. Or use it: it works.",
        ),
    )


def _scented(result: Reckoning, _seen: Seen) -> Rescue:
    """Oils and fragrance, against what skin bears."""
    lines = result.formula.lines_with("essential-oil", "fragrance")
    share = sum(result.lines[i].mass_g for i in lines) / result.total.mass_g * 100.0
    if not share:
        return Rescue("scented", ("There is no scent in the record. Put in what went in, under “I also put in”.",))
    holds = f"It holds {figures(share, 2)} % of scent; {figures(_MOST_SCENT_PCT, 2)} % is plenty on skin."
    if share <= _MOST_SCENT_PCT:
        return Rescue("scented", (holds, "That is no danger, only strong. Leave it open in a draught for an hour."))
    parts = share / _MOST_SCENT_PCT - 1.0
    return Rescue(
        "scented",
        (
            f"{holds} Do not use it on skin as it is.",
            f"Make it again without scent and mix: {figures(parts, 2)} parts of that to 1 of this.",
        ),
    )


def _thick(result: Reckoning, seen: Seen) -> Rescue:
    now = _soap(result)
    if now and (result.formula.family != "laundry-soap" or seen.soap_g_per_L is not None):
        wanted = seen.soap_g_per_L or SOAP_G_PER_L[0]
        if wanted >= now * (1.0 - _NOTHING):
            raise CannotReckon(f"It holds {figures(now)} g of soap per litre, no more than {figures(wanted)}.").at(
                "soap"
            )
        more = result.total.volume_mL * (now / wanted - 1.0)
        return Rescue(
            "thick",
            (f"It holds {figures(now)} g of soap per litre; water brings it to {figures(wanted)}. Stir it in warm.",),
            (Addition(find("water"), in_mL(more), portions=3),),
            mix="Stir until even.",
            rest=overnight(_THICKER_NEXT_DAY),
        )
    return Rescue(
        "thick",
        ("Stir a little water in, and look again before adding more.",),
        (Addition(find("water"), Quantity(rounded_down(0.05 * result.total.volume_mL), "mL"), portions=2),),
        mix="Stir until even, and look again.",
    )


def _clumped(result: Reckoning, seen: Seen) -> Rescue:
    if result.formula.lines_with("thickener"):
        return Rescue(
            "clumped",
            (
                "Let it stand covered overnight: most clumps swell and go. Press the rest through a sieve.",
                "Next time slurry the powder in glycerol, or sprinkle it on still water and let it wet out.",
            ),
        )
    if result.formula.lines_with("soap"):
        return Rescue(
            "clumped",
            ("Squeeze the clumps by hand, with gloves, or stir while it is hot; a cap of detergent helps then.",),
        )
    return Rescue("clumped", ("Break the clumps up and sieve it.",))


def _collapsed(result: Reckoning, seen: Seen) -> Rescue:
    """Water that brings the alcohol under what the thickener stands."""
    alcohol = sum(active.pct_ww for active in result.actives if active.is_alcohol)
    limits = [
        limit
        for i in result.formula.lines_with("thickener")
        if (limit := result.formula.lines[i].material.alcohol_limit_ww) is not None
    ]
    if limits and alcohol > min(limits):
        water = result.total.mass_g * (alcohol / min(limits) - 1.0)
        low, _ = _limits(result)
        volume = result.total.volume_mL + water
        after = (result.main.lower if result.main else 0.0) * result.total.volume_mL / volume
        advice = f"It holds {figures(alcohol)} % alcohol by weight and this thickener stands {figures(min(limits))} %."
        if low is not None and after < low:
            return Rescue(
                "collapsed",
                (
                    advice
                    + f" Water would bring it to about {figures(after)} % v/v, below its line of {figures(low)} %; "
                    "this gel cannot be mended without falling short. Use it thin, as a spray, or start again with a "
                    "thickener made for it.",
                ),
            )
        return Rescue(
            "collapsed",
            (advice, "Stir the water in slowly and let the gel re-form."),
            (Addition(find("water"), in_mL(water / find("water").density), portions=4),),
            mix="Stir slowly and let the gel re-form.",
            rest=overnight("Cover it and let the gel re-form overnight."),
        )
    return Rescue(
        "collapsed",
        (
            "Its thickener can take this much alcohol, so it went in too fast. Let it rest overnight and "
            "whisk it again, by hand or with spark-proof equipment.",
            "Next time add the alcohol in ten portions and let the gel re-form each time.",
        ),
    )


def _boiled_over(result: Reckoning, seen: Seen) -> Rescue:
    if seen.mass_g is None:
        raise CannotReckon("Weigh what is left, without the pot, and enter it.").at("mass")
    lost = result.total.mass_g - seen.mass_g
    if lost <= _NOTHING * result.total.mass_g:
        raise CannotReckon(
            f"{figures(seen.mass_g)} g is no less than the {figures(result.total.mass_g)} g that went in."
        ).at("mass")
    return Rescue(
        "boiled-over",
        (
            f"{figures(lost)} g of {figures(result.total.mass_g)} g are gone, "
            f"{figures(100 * lost / result.total.mass_g, 2)} %. "
            "What ran over took soap and water alike; only what steamed away was water. Add the water in portions and "
            "stop when it is as thick as usual.",
            "From here on, all of that counts as run over: it holds at least this much.",
            "Take it off the heat first; a larger pot next time.",
        ),
        (Addition(find("water"), in_mL(lost / find("water").density), portions=4),),
        mix="Stir until even.",
        rest=overnight(_THICKER_NEXT_DAY),
        left=seen.mass_g / result.total.mass_g,
    )
