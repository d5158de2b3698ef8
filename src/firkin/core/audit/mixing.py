"""Audit rules about what must never meet, and what is too strong or unfit to be used at all."""

from collections.abc import Iterator
from itertools import combinations

from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import Material, Meeting, Verdict, is_unfit, kinds_of, meeting
from firkin.core.formula import Formula, Reckoning, moved, scaled_lines, without
from firkin.core.measures import QS, Quantity, figures, rounded_up
from firkin.core.texts import uncapped

#: WHO, Guide to Local Production: not more than this made or stored in one place, mL.
MOST_ALCOHOL_ML = 50_000.0
_STRONG_PEROXIDE_PCT = 6.0  # WHO, Guide to Local Production: concentrates are corrosive
_STRONG_CHLORINE_PCT = 1.0  # twice the strongest rule line
_USUAL_CHLORINE_PCT = 0.5  # WHO, May 2020: large spills
_MUCH_CHLORINE_PCT = 0.55  # a tenth above the strongest rule line
_SPIRIT_PCT = 50.0  # drinking spirits are below that (common practice)


#: The answers to whether something goes in.
GOES_IN = ("It goes in", "It is only talked about")


def _name(result: Reckoning, position: int) -> str:
    return uncapped(result.formula.lines[position].material.name)


def _never_mix(result: Reckoning) -> Iterator[Finding]:
    """What must never meet what stands in one table of the catalogue (hazards.toml, with its sources)."""
    formula = result.formula
    for pair in combinations(range(len(formula.lines)), 2):
        i, j = sorted(pair, key=lambda at: "chlorine" not in kinds_of(formula.lines[at].material))
        one, other = formula.lines[i], formula.lines[j]
        met = meeting(one.material, other.material)
        if met is not None:
            unsure = one.claims.talked or other.claims.talked
            asked = one.material if one.claims.talked and not other.claims.talked else None
            fixed = without(formula, j)
            yield meeting_finding(one.material, other.material, met, (i, j), unsure=unsure, asked=asked, fixed=fixed)


def meeting_finding(
    one: Material,
    other: Material,
    met: Meeting,
    lines: tuple[int, ...] = (),
    *,
    unsure: bool = False,
    asked: Material | None = None,
    fixed: Formula | None = None,
) -> Finding:
    """The stop for two things that must never meet; a question where it is not sure that both go in.

    Args:
        one: the first material.
        other: the second.
        met: what is known of the two together.
        lines: their positions in the formula, where they have any.
        unsure: True where it is not sure that both go in.
        asked: which of the two it is not sure of; None for the second.
        fixed: a formula without the danger, to be offered.

    >>> from firkin.core.catalogue import find, meeting
    >>> bleach, vinegar = find("bleach"), find("vinegar")
    >>> meeting_finding(bleach, vinegar, meeting(bleach, vinegar)).rule
    'bleach-mixed'
    """
    if not met.harm:
        what = f"{one.called} with {uncapped(other.name)} is not known to be harmless."
    else:
        what = f"{one.called} with {uncapped(other.name)} makes {met.harm}."
    if unsure:
        return Finding(
            met.rule,
            Severity.ASK,
            f"{what} Does {uncapped((asked or other).name)} go into this mix?",
            "If it does, do not make it.",
            lines,
            choices=GOES_IN,
        )
    return Finding(met.rule, Severity.STOP, f"{what} {met.more}".strip(), met.fix, lines, fixed)


def _acid_and_carbonate(result: Reckoning) -> Iterator[Finding]:
    acid = result.formula.lines_with("free-acid")
    carbonate = result.formula.lines_with("carbonate")
    if not acid or not carbonate:
        return
    if result.formula.dry:
        yield Finding(
            "acid-carbonate-dry",
            Severity.NOTE,
            "Acid and carbonate fizz and clump in damp air.",
            "Dry bowl and spoon, a sealed jar, and a desiccant sachet.",
            (*acid, *carbonate),
        )
    else:
        yield Finding(
            "acid-carbonate-wet",
            Severity.STOP,
            f"{_name(result, acid[0]).capitalize()} and {_name(result, carbonate[0])} fizz away in water and use each "
            "other up; in a closed jar they build pressure.",
            "Keep them apart: use one in this product, the other as a rinse.",
            (*acid, *carbonate),
            without(result.formula, *acid),
        )


def _water_onto_caustic(formula: Formula) -> str:
    """The vessel in which water goes onto caustic by the steps of a formula; empty where in none."""
    vessels: dict[str, set[str]] = {}
    for step in formula.steps:
        poured = vessels.pop(step.source, set()) if step.source else set()
        there = vessels.setdefault(step.vessel, set())
        for new in (*({formula.lines[line].material.id} for line in step.lines), poured):
            onto_it = "caustic-soda" in there and "water" not in there
            if onto_it and "water" in new:
                return step.vessel or "main vessel"
            there |= new
    return ""


def _caustic_first(result: Reckoning) -> Iterator[Finding]:
    """Always caustic into water: by the steps where they are told, else in the order of the lines."""
    formula = result.formula
    told = [line for step in formula.steps for line in step.lines]
    order = told if formula.steps and set(told) == set(range(len(formula.lines))) else list(range(len(formula.lines)))
    caustic, water = formula.lines_of("caustic-soda"), formula.lines_of("water")
    in_cups = order is told and any(step.vessel for step in formula.steps)
    if in_cups and caustic and water:
        if cup := _water_onto_caustic(formula):
            yield Finding(
                "water-onto-caustic",
                Severity.STOP,
                f"Water goes onto caustic soda in the {cup}. Water poured onto caustic boils and spits.",
                f"Put the water in the {cup} first and add the caustic to it slowly, with goggles and gloves.",
                (min(caustic), min(water)),
            )
    elif caustic and water and min(map(order.index, caustic)) < min(map(order.index, water)):
        yield Finding(
            "water-onto-caustic",
            Severity.STOP,
            "Water is listed after caustic soda. Water poured onto caustic boils and spits.",
            "Put the water first and add the caustic to it slowly, with goggles and gloves.",
            (min(caustic), min(water)),
            moved(result.formula, min(water), min(caustic)),
        )
    elif caustic and not water:
        yield Finding(
            "caustic-without-water",
            Severity.WARN,
            "Caustic soda stands here without water to dissolve it in.",
            "Dissolve it in cold water first; never pour water onto it.",
            caustic,
        )


def _unfit_alcohol(result: Reckoning) -> Iterator[Finding]:
    """FDA warnings on methanol in hand sanitisers."""
    for i, line in enumerate(result.formula.lines):
        called = next((said for said in (line.material.name, line.claims.words, line.note) if is_unfit(said)), None)
        if called is not None:
            yield Finding(
                "unfit-alcohol",
                Severity.STOP,
                f"“{called}” is not for skin: denatured, methylated or unknown alcohol may hold methanol, which "
                "poisons through the skin and causes blindness.",
                "Use undenatured or cosmetic-grade alcohol.",
                (i,),
            )


def _spirits(result: Reckoning) -> Iterator[Finding]:
    """Where a line cannot be met: every stock of the alcohol is below it."""
    short = {one.active: one.minimum for one in result.verdicts if one.verdict is Verdict.SHORT and one.minimum}
    for i in result.formula.lines_with("alcohol"):
        line = result.formula.lines[i]
        minimum = short.get(line.material.id)
        strength = line.counted_strength
        if minimum is None or strength is None or line.amount.unit == QS or line.material.alcohol is None:
            continue
        others = [result.formula.lines[j].counted_strength for j in result.formula.lines_of(line.material.id)]
        best = max(line.material.alcohol.as_volume(one).high for one in others if one is not None)
        if best < minimum and 0 < line.material.alcohol.as_volume(strength).high <= _SPIRIT_PCT:
            yield Finding(
                "spirit-too-weak",
                Severity.STOP,
                f"{_name(result, i).capitalize()} of {strength} is as strong as drinking spirits. It can never reach "
                f"{figures(minimum)} %, whatever you mix it with. Is it {figures(strength.value * 2)} proof?",
                f"Use a stock well above {figures(minimum)} %.",
                (i,),
            )


def _strong_peroxide(result: Reckoning) -> Iterator[Finding]:
    for i in result.formula.lines_of("hydrogen-peroxide"):
        strength = result.formula.lines[i].counted_strength
        if strength is not None and strength.high > _STRONG_PEROXIDE_PCT:
            yield Finding(
                "peroxide-strong",
                Severity.WARN,
                f"Peroxide of {strength} burns skin and eyes when poured.",
                "Gloves and goggles, or buy it at 3 %.",
                (i,),
            )


def _strong_chlorine(result: Reckoning) -> Iterator[Finding]:
    active = result.active("sodium-hypochlorite")
    if active is not None and len(result.lines) > 1 and active.higher > _STRONG_CHLORINE_PCT:
        yield Finding(
            "chlorine-strong",
            Severity.WARN,
            f"{figures(active.higher)} % chlorine is too much: it attacks metal, cloth and lungs.",
            "Use 0.1 % for surfaces, 0.5 % for large spills (WHO, May 2020).",
            result.formula.lines_of("sodium-hypochlorite"),
        )


def _much_chlorine(result: Reckoning) -> Iterator[Finding]:
    """WHO, May 2020: 0.1 % for surfaces, 0.5 % for large spills."""
    active, formula = result.active("sodium-hypochlorite"), result.formula
    if active is None or len(result.lines) < 2 or active.higher <= _MUCH_CHLORINE_PCT:
        return
    times = active.higher / _USUAL_CHLORINE_PCT
    water = formula.lines_of("water")
    fixed = None
    if len(water) == 1 and formula.topped_up is None and formula.make is None:
        volume = result.total.volume_mL
        now = result.lines[water[0]].volume_mL
        fixed = scaled_lines(formula, water, rounded_up((now + volume * (times - 1.0)) / now))
    yield Finding(
        "chlorine-much",
        Severity.WARN,
        f"{figures(active.higher)} % chlorine is too much. Surfaces take 0.1 %, large spills of blood 0.5 % "
        "(WHO, May 2020). Stronger harms more and cleans no better.",
        f"Thin it to 0.5 %: {figures(rounded_up(times, 3), 3)} times the volume, with water.",
        formula.lines_of("sodium-hypochlorite"),
        fixed,
    )


def _too_much_alcohol(result: Reckoning) -> Iterator[Finding]:
    if result.formula.lines_with("alcohol") and result.total.volume_mL > MOST_ALCOHOL_ML * (1 + 1e-9):
        yield Finding(
            "too-much-alcohol",
            Severity.STOP,
            f"{figures(result.total.volume_mL / 1000)} L in one place: more than 50 L of rub needs special ventilation "
            "(WHO, Guide to Local Production).",
            "Make it in smaller batches, and store them apart.",
            (),
            result.formula.scaled_to(Quantity(MOST_ALCOHOL_ML / 1000.0, "L")),
        )


#: Those that hold whatever the amounts are.
ANY_AMOUNT_RULES = (_never_mix, _acid_and_carbonate, _unfit_alcohol, _strong_peroxide)

MIXING_RULES = (
    _never_mix,
    _acid_and_carbonate,
    _caustic_first,
    _unfit_alcohol,
    _spirits,
    _strong_peroxide,
    _strong_chlorine,
    _much_chlorine,
    _too_much_alcohol,
)
