"""What a maker of a family looks at first, beside strength: moles, kinds of surfactant, ratio, loads, gas.

Worked out from a reckoning, so that sheet and bench show the same: as planned there, as measured here.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from firkin.core.bench.approach import Reads, approach_of
from firkin.core.bench.progress import Progress
from firkin.core.bench.tasks import Task
from firkin.core.catalogue import families
from firkin.core.formula import Reckoning, reckon
from firkin.core.measures import Quantity, amount_words, figures, weight_words
from firkin.core.questions import (
    SOAP_THICKNESS,
    USUAL_SCOOP_ML,
    Bar,
    Bars,
    Picture,
    Scale,
    balance,
    dose_of,
    drops_for,
    foaming_soap,
    foams_like,
    neutrality,
    soap_thickness,
    whole_mL,
)

#: Besides the alcohols, what a surface solution is judged by.
_KILLS = frozenset({"sodium-hypochlorite", "hydrogen-peroxide"})
#: Kinds of surfactant in the order they are said, by their roles.
_KINDS = {"anionic": "Anionic, which cleans", "amphoteric": "Amphoteric, milder", "nonionic": "Nonionic, for grease"}


#: The title of the one that works out acid and caustic by mole.
NEUTRALISED = "Acid against caustic"


@dataclass(frozen=True, slots=True)
class Insight:
    """One of them: a title, rows of name and value, sentences, warnings, a picture."""

    title: str
    rows: tuple[tuple[str, str], ...] = ()
    says: tuple[str, ...] = ()
    warns: tuple[str, ...] = ()
    picture: Picture | None = None


@dataclass(frozen=True, slots=True)
class Held:
    """A bottle on the shelf by its name and brim volume in mL."""

    name: str
    brim_mL: float


def insights(result: Reckoning, bottles: Sequence[Held] = ()) -> tuple[Insight, ...]:
    """What is worth a look in a mix; ``bottles`` are those on the shelf that suit it.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        bottles: bottles on the shelf that suit it.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> [one.title for one in insights(reckon(house_formulas()["dish-gentle"].formula))]
    ['Acid against caustic', 'What cleans in it']
    >>> insights(reckon(house_formulas()["who-one"].formula))
    ()
    """
    ways: tuple[Callable[[], Iterator[Insight]], ...] = (
        lambda: _neutralised(result),
        lambda: _surfactants(result),
        lambda: _fizz(result),
        lambda: _foam(result, bottles),
        lambda: _soap(result),
        lambda: _loads(result),
        lambda: _ferment(result),
        lambda: _surface(result),
    )
    return tuple(one for way in ways for one in way())


def so_far(progress: Progress, task: Task) -> Insight | None:
    """Acid against caustic by what is in the vessel by now, while one is led to the other in doses; None otherwise.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["dish-gentle"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> so_far(progress, progress.tasks[0]) is None
    True
    """
    approach, there = approach_of(progress, task), progress.in_vessel
    if approach is None or approach.reads is not Reads.PH or not approach.so_far or there is None:
        return None
    dosed = replace(approach.line, amount=Quantity(approach.so_far, approach.unit))
    lines = [
        replace(line, amount=Quantity(worked.mass_g, "g"))
        for line, worked in zip(there.formula.lines, there.lines, strict=True)
    ]
    now = reckon(replace(there.formula, lines=(*lines, dosed), steps=(), make=None))
    return next((replace(one, title="In it by now") for one in _neutralised(now)), None)


def _neutralised(result: Reckoning) -> Iterator[Insight]:
    """Acid and base in a wet mix; LABSA a mean of 320 g/mol, from memory."""
    if result.formula.dry or not result.formula.lines_with("surfactant"):
        return
    there = neutrality(result)
    if there is None:
        return
    acid, base = there.acid_mol_h, there.base_mol_h
    window = families()[result.formula.family].ph
    aim = f"{figures(window[0])} to {figures(window[1])}" if window else "as the formula says"
    grams = weight_words(abs(there.base_g_spare))
    ends = {
        "neutral": "Acid and base cancel out, as exactly as a kitchen scale can tell.",
        "acid": f"It ends acid: {grams} more of the base would take it up.",
        "alkaline": f"It ends alkaline: {grams} of the base is left over.",
    }[there.ends]
    counted = "Counted by mole, sulfonic acid at a mean of 320 g/mol (from memory)"
    yield Insight(
        NEUTRALISED,
        (("It ends", there.ends),),
        (ends, f"{counted}: read the pH. It should be {aim}."),
        picture=Bars(
            (
                Bar("Acid gives", acid, f"{figures(acid)} mol of protons", "acid"),
                Bar("Base takes up", base, f"{figures(base)} mol", "base"),
            )
        ),
    )


def _surfactants(result: Reckoning) -> Iterator[Insight]:
    kinds: dict[str, float] = {}
    for line, worked in zip(result.formula.lines, result.lines, strict=True):
        roles = line.material.roles
        if "surfactant" in roles:
            kind = next((kind for kind in _KINDS if kind in roles), "another kind")
            kinds[kind] = kinds.get(kind, 0.0) + worked.pure_share_w_pct
    if not kinds:
        return
    rows = (("Active matter in all", f"{figures(sum(kinds.values()))} % of the batch, by weight"),)
    bars = tuple(
        Bar(_KINDS.get(kind, "Of another kind"), share, f"{figures(share)} %", "soap") for kind, share in kinds.items()
    )
    says = "From the strengths of the stocks: a recipe for SLES of 70 % is another with one of 28 %."
    yield Insight("What cleans in it", rows, (says,), picture=Bars(bars))


def _fizz(result: Reckoning) -> Iterator[Insight]:
    """Acid and carbonate in a dry mix: what they would do to each other in damp."""
    if not result.formula.dry or result.formula.family != "dishwasher-powder":
        return
    lines, loose = result.formula.lines, sum(line.loose_mL for line in result.lines)
    rows = [
        ("Loose, it fills", amount_words(loose)),
        (f"Scoops of {figures(USUAL_SCOOP_ML)} mL in it", figures(loose / USUAL_SCOOP_ML)),
        ("A wash in soft water", "1 scoop, in the main cup"),
        ("A wash in hard water", "2 scoops, one of them in the pre-wash"),
    ]
    found = balance((line.material, worked.pure_g) for line, worked in zip(lines, result.lines, strict=True))
    if found is None:
        yield Insight("In the jar", tuple(rows))
        return
    gas = f"{figures(found.gas_L)} L of gas"
    rows += [("If damp gets at it", f"{gas}, and {found.left} is left")]
    yield Insight(
        "In the jar",
        tuple(rows),
        (f"Acid and soda use each other up: only what is left of the {found.left} works on.",),
        (f"Damp makes up to {gas} of it: pressure enough to burst a closed jar. Keep it bone dry.",),
        found.bars,
    )


def _foam(result: Reckoning, bottles: Sequence[Held]) -> Iterator[Insight]:
    soap = result.active("castile-soap")
    if result.formula.family != "foaming-soap" or soap is None or not 0.0 < soap.label < 100.0:
        return
    parts = 100.0 / soap.label - 1.0
    few, many = drops_for(result.total.volume_mL)
    rows = [("Soap to the rest", f"1 to {figures(parts, 3)}"), ("Scent, if any", f"{few} to {many} drops")]
    free = families()[result.formula.family].headspace_pct
    for bottle in bottles:
        filled = foaming_soap(bottle.brim_mL, parts, free)
        marks = f"soap to {amount_words(filled.soap_mL)}, then to {amount_words(filled.filled_mL)}"
        rows.append((f"{bottle.name}, {amount_words(bottle.brim_mL)}", marks))
    like = foams_like(parts)
    says = [f"1 to {figures(parts, 3)}: {like} (common practice, no source)."]
    if bottles:
        says.append(f"Marks for mixing it in the bottle itself, {figures(free)} % left free for the pump.")
    yield Insight("The foam", tuple(rows), tuple(says))


def _soap(result: Reckoning) -> Iterator[Insight]:
    grams = sum(result.lines[i].mass_g for i in result.formula.lines_of("bar-soap"))
    if not grams or result.formula.family != "liquid-soap":
        return
    strength = 1000.0 * grams / result.total.volume_mL
    yield Insight(
        "Soap in a litre",
        (("Bar soap in a litre", f"{figures(strength)} g"), ("Next day, usually", soap_thickness(strength))),
        ("How it turns out depends on the bar. Look the next day, and write it down.",),
        picture=Scale(SOAP_THICKNESS, strength, f"{figures(strength)} g/L"),
    )


def _loads(result: Reckoning) -> Iterator[Insight]:
    """How many loads, washes or uses it comes to, at the formula's dose; of a laundry soap also at the usual one."""
    formula = result.formula
    dose = dose_of(formula, result)
    if dose is None or not (dose.said or formula.family == "laundry-soap"):
        return
    whole = whole_mL(result)
    fewest, most = dose.times_in(whole)
    many = figures(most, 3) if dose.low == dose.high else f"{figures(fewest, 3)} to {figures(most, 3)}"
    rows = [(f"{dose.of.capitalize()}s", many)]
    if formula.cut:
        rows.insert(0, ("Cut with water, it comes to", amount_words(whole)))
    title = "What it washes" if dose.of in ("load", "wash") else "How far it goes"
    yield Insight(title, tuple(rows), (f"At {dose.words} ({dose.source}).",))


def _ferment(result: Reckoning) -> Iterator[Insight]:
    family = families()[result.formula.family]
    if family.id != "ferment":
        return
    room = result.total.mass_g * family.headroom
    says = "A fifteenth of it stays free for gas. Plastic with a tight lid, never glass."
    yield Insight("The container", (("Holds, to the brim, at least", amount_words(room)),), (says,))


def _surface(result: Reckoning) -> Iterator[Insight]:
    if result.formula.family == "surface" and not any(one.active in _KILLS or one.is_alcohol for one in result.actives):
        says = "Nothing in it kills germs. Wiping takes dirt and some germs away, but meets no rule."
        yield Insight("What it does", (("It", "cleans, and does not disinfect"),), (says,))
    active = result.active("sodium-hypochlorite")
    if active is None or active.label <= 0:
        return
    rows = (
        ("Available chlorine", f"{figures(active.label)} %, or {figures(active.label * 10_000.0, 3)} ppm"),
        ("Poured away after", "24 h"),
    )
    says = "Counted as the label says. Bleach fades: an old or warm bottle holds less, and nobody can say how much."
    yield Insight("As it is used", rows, (says,))
