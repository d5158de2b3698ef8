"""What a batch is to hold: what it promises, what was planned, or what its rule asks for; and whether it does."""

from dataclasses import dataclass

from firkin.core.bench import below_its_line
from firkin.core.catalogue import rule_lines
from firkin.core.densities import ALCOHOLS
from firkin.core.formula import Active, Formula, Reckoning
from firkin.core.measures import figures

#: What a batch may aim at, in the order in which one stands for another that is not there.
AIMS = {"claim": "what it promises", "planned": "its planned strength", "rule": "its rule"}
#: So near to a promise, in points, counts as kept: labels say whole numbers (common practice, no source).
_KEPT = 0.05


@dataclass(frozen=True, slots=True)
class Aim:
    """A strength a batch works towards: which of AIMS, and how much in % v/v."""

    key: str
    pct: float

    @property
    def words(self) -> str:
        """The aim as the pages say it."""
        return f"{AIMS[self.key]}, {figures(self.pct, 3)} %"


def aims_of(planned: Reckoning) -> tuple[Aim, ...]:
    """What a batch of alcohol may aim at, by its formula as it was planned; nothing for anything else.

    Args:
        planned: the formula as it was planned, reckoned.

    >>> from dataclasses import replace
    >>> from firkin.core.formula import Claim, house_formulas, reckon
    >>> from firkin.core.measures import Strength
    >>> rub = house_formulas()["aloe-sixty"].formula
    >>> says = replace(rub, claim=Claim("isopropanol", Strength.of(62.0, "v/v")))
    >>> [(one.key, round(one.pct)) for one in aims_of(reckon(says))]
    [('claim', 62), ('planned', 63), ('rule', 60)]
    """
    main = planned.main
    if main is None or not main.is_alcohol:
        return ()
    found = {"planned": main.lower}
    promised = promised_pct(planned.formula)
    if promised is not None:
        found["claim"] = promised
    lows = [one.minimum for one in planned.verdicts if one.minimum is not None and one.active == main.active]
    if lows:
        found["rule"] = max(lows)
    return tuple(Aim(key, found[key]) for key in AIMS if key in found)


def promised_pct(formula: Formula) -> float | None:
    """The strength a formula claims of its alcohol, in % v/v; None where it claims none."""
    claim = formula.claim
    alcohol = ALCOHOLS.get(claim.active) if claim is not None else None
    if claim is None or alcohol is None:
        return None
    return 100.0 * alcohol.as_volume(claim.strength).fraction


def chosen(aims: tuple[Aim, ...], key: str) -> Aim | None:
    """The aim that was picked; without one what it promises, or else its rule, or what was planned.

    Args:
        aims: what the batch may aim at.
        key: key of the one that was picked, or empty.

    >>> chosen((Aim("planned", 72.8), Aim("rule", 60.0)), "").key, chosen((Aim("planned", 72.8),), "rule").key
    ('rule', 'planned')
    """
    by_key = {one.key: one for one in aims}
    return next((by_key[one] for one in (key, "claim", "rule", "planned") if one in by_key), None)


def short_of_promise(result: Reckoning, promised: float | None) -> str:
    """A sentence for a batch that holds its rule and not what it promises; empty where it does both, or neither.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        promised: per cent by volume that the label or the maker promises; None where nothing does.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> rub = reckon(house_formulas()["aloe-sixty"].formula)
    >>> short_of_promise(rub, 70.0), short_of_promise(rub, 60.0)
    ('It holds its rule, but not the 70 % it promises: it has 63 %.', '')
    """
    active = _alcohol(result)
    if promised is None or active is None or active.lower >= promised - _KEPT or below_its_line(result):
        return ""
    rule = "It holds its rule, but not" if result.verdicts else "It does not hold"
    return f"{rule} the {figures(promised, 3)} % it promises: it has {figures(active.lower, 3)} %."


def _alcohol(result: Reckoning) -> Active | None:
    active = result.main
    return active if active is not None and active.is_alcohol else None


def what_to_do(result: Reckoning, promised: float | None, bottles: int) -> tuple[str, ...]:
    """What to do about bottles that are filled already, once it is known what is really in them.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        promised: per cent by volume that the label or the maker promises; None where nothing does.
        bottles: how many are filled.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> from firkin.core.formula import with_bottles
    >>> from firkin.core.measures import Strength
    >>> weak, _ = with_bottles(house_formulas()["aloe-sixty"].formula, {0: Strength.of(70.0, "v/v")})
    >>> what_to_do(reckon(weak), None, 3)[1]
    'Stop using them. Tell everyone who has one, and take them back.'
    """
    if not bottles:
        return ()
    filled = "1 bottle is filled with it." if bottles == 1 else f"{bottles} bottles are filled with it."
    fails = next((one for one in result.verdicts if one.verdict.fails), None)
    if fails is not None:
        name = rule_lines()[fails.guideline].name
        return (
            f"{filled} It does not meet “{name}”.",
            "Stop using them. Tell everyone who has one, and take them back.",
            "Pour them back and mend the batch, or pour it away.",
        )
    short = short_of_promise(result, promised)
    if short:
        return (f"{filled} {short}", "Put new labels on them, or pour them back and mend the batch.")
    return (f"{filled} Print new labels where the label says something else.",)
