"""How sure a strength is, as pages show it: tools chosen line by line, the sentence, the drawing, what would help."""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django import forms

from firkin.core.catalogue import rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, tops_last, work_out
from firkin.core.measures import figures, tools
from firkin.core.questions import Bar
from firkin.drawings.bars import bars
from firkin.drawings.sureness import sureness
from firkin.ui.fields import Select

#: So many draws a page makes: a tenth of a second at the most.
DRAWS = 20_000
#: While somebody types, so many are enough to count batches by twenty.
_FEW = 4000
#: So many changes are shown.
_MOST_TRIED = 4
#: A line that makes less of the spread than this per cent of it is not drawn.
_LEAST_SHARE = 1.0


@dataclass(frozen=True, slots=True)
class Sure:
    """What a page shows: the sentence first, then the figures, two drawings and the changes that were tried."""

    sentence: str
    more: tuple[str, ...]
    svg: str
    ranked: str
    tried: tuple[str, ...]
    best: str


@dataclass(frozen=True, slots=True)
class AsSaid:
    """How sure a strength is by what is said with it: the sentence, and the spread drawn."""

    sentence: str
    svg: str


@dataclass(frozen=True, slots=True)
class Spare:
    """Of a mix of acid and base: how sure it is that they meet."""

    sentence: str
    svg: str
    ranked: str


@dataclass(frozen=True, slots=True)
class OwnTool:
    """A tool of the maker's own: its name, per cent it is off, whether it weighs, what it holds in mL or g."""

    name: str
    error_pct: float
    weighs: bool
    size: float


class SureForm(forms.Form):
    """With what each line is measured."""

    def __init__(self, data: Mapping[str, Any] | None, formula: Formula, own: Iterable[OwnTool] = ()) -> None:
        super().__init__(data)
        self.formula, self.own = formula, {one.name: one for one in own}
        for at, line in enumerate(formula.lines):
            weighed = formula.weighed(at) and not (formula.topped_up == at and tops_last(formula))
            field = forms.ChoiceField(
                choices=self._choices(weighed), required=False, label=line.material.name, widget=Select()
            )
            field.initial = self._usual(at, weighed)
            self.fields[f"tool_{at}"] = field

    def _choices(self, weighed: bool) -> list[tuple[str, str]]:
        known = [(key, f"{tool.name}, good to {_good_to(key)}") for key, tool in tools().items()]
        mine = [
            (f"own:{one.name}", f"{one.name}, good to {figures(one.error_pct)} %")
            for one in self.own.values()
            if one.weighs is weighed
        ]
        usual = [one for one in known if one[0].startswith("scale") is weighed]
        others = [one for one in known if one not in usual]
        return [*mine, *usual, *others, ("exact", "measured exactly")]

    def _usual(self, at: int, weighed: bool) -> str:
        if self.formula.topped_up == at and tops_last(self.formula):
            return "mark"
        mine = next((f"own:{one.name}" for one in self.own.values() if one.weighs is weighed), "")
        return mine or ("scale" if weighed else "cup")

    def chosen(self) -> list[str]:
        """The tool of each line by its key; the usual one where nothing was chosen, or what was is no tool."""
        found = []
        for name, field in self.fields.items():
            asked = str(self.data.get(name, "")) if self.is_bound else ""
            keys = [key for key, _ in field.choices]  # type: ignore[attr-defined]
            found.append(asked if asked in keys else field.initial)
        return found

    def rows(self) -> list[tuple[str, forms.BoundField]]:
        """Each line with its choice."""
        return [(line.material.name, self[f"tool_{at}"]) for at, line in enumerate(self.formula.lines)]


def _good_to(key: str) -> str:
    tool = tools()[key]
    if tool.error_g:
        return f"{figures(tool.error_g)} g"
    return f"{figures(tool.error_pct)} %"


def sure_with(formula: Formula, chosen: Sequence[str], own: Iterable[OwnTool] = ()) -> Sure | None:
    """How sure the strength of a formula is with these tools; None where nothing in it has a strength."""
    return _sure(formula, _measures(chosen, own))


def spare_with(formula: Formula, chosen: Sequence[str], own: Iterable[OwnTool] = ()) -> Spare | None:
    """How sure it is with these tools that acid and caustic meet; None where there is no acid, or no base."""
    from firkin.core.tolerance import how_neutral

    try:
        found = how_neutral(formula, _measures(chosen, own), DRAWS, 1)
    except CannotReckon:
        return None
    if found is None:
        return None
    window = found.window_pct
    rule = f"within {figures(window)} % of neutral"
    over, acid = found.share_over_pct, found.share_acid_pct
    said = [f"{in_twenty(found.share_near_pct)} made with these tools end {rule}."]
    if over >= _LEAST_SHARE:
        said.append(f"{_in_hundred(over)} have caustic left over, which burns: check the pH of each.")
    if acid >= _LEAST_SHARE:
        said.append(f"{_in_hundred(acid)} end acid.")
    svg = sureness(found.lowest, found.highest, found.density, found.nominal, -window, window, rule)
    return Spare(" ".join(said), svg, _ranked(formula, found.ranked))


def _in_hundred(share: float) -> str:
    """A share of what goes wrong, rounded up.

    >>> _in_hundred(12.2), _in_hundred(1.0)
    ('13 in 100', '1 in 100')
    """
    return f"{math.ceil(share - 1e-9)} in 100"


def _measures(chosen: Sequence[str], own: Iterable[OwnTool]) -> list[Any]:
    from firkin.core.tolerance import Measure, measure_of

    mine = {one.name: one for one in own}
    measures = []
    for key in chosen:
        if key.startswith("own:") and key[4:] in mine:
            tool = mine[key[4:]]
            measures.append(Measure(systematic=tool.error_pct / 100.0, group=key, size=tool.size, name=tool.name))
        else:
            measures.append(measure_of(tools()[key]) if key in tools() else Measure())
    return measures


def sure_as_said(formula: Formula) -> AsSaid | None:
    """How sure it is by what is said of its lines and bottles; None where nothing is, or it has no rule to hold."""
    if not formula.has_range:
        return None
    from firkin.core.tolerance import Measure, how_sure

    measures = [Measure(systematic=line.error) for line in formula.lines]
    try:
        found = how_sure(formula, measures, draws=_FEW, seed=1)
    except CannotReckon:
        return None
    if found.share_holding_pct is None:
        return None
    rule = rule_lines()[found.guideline].short
    many = in_twenty(found.share_holding_pct)
    sentence = f"With these bottles and tools, {many[0].lower()}{many[1:]} hold {_the(rule)}."
    return AsSaid(sentence, _density(found, rule))


def _the(rule: str) -> str:
    """A rule's short name in a sentence.

    >>> _the("60 % line"), _the("WHO I"), _the("monograph")
    ('the 60 % line', 'WHO I', 'the monograph')
    """
    return rule if rule[0].isupper() else f"the {rule}"


def _density(found: Any, rule: str) -> str:
    """The spread of a strength over its rule line, drawn."""
    least, most = (found.limit.minimum, found.limit.maximum) if found.limit else (None, None)
    return sureness(found.lowest, found.highest, found.density, found.nominal, least, most, rule)


def _sure(formula: Formula, measures: Sequence[Any]) -> Sure | None:
    from firkin.core.tolerance import asked_of, better_tools, changes_tried, how_sure

    try:
        found = how_sure(formula, measures, draws=DRAWS, seed=1)
        tried = changes_tried(formula, measures, better_tools(), asked_of(formula, work_out(formula)), 4000, 1)
    except CannotReckon:
        return None
    low, _, high = found.percentiles
    rule = rule_lines()[found.guideline].short if found.guideline else ""
    more = [f"9 in 10 come to {figures(low, 3)} to {figures(high, 3)} %, planned {figures(found.nominal, 3)} %."]
    if found.table_share_pct > _LEAST_SHARE:
        more.append(f"The density table makes {figures(found.table_share_pct, 2)} % of the spread.")
    best = _best(found.share_holding_pct, found.sd, tried)
    said = tuple(
        f"{one.change[0].upper()}{one.change[1:]}: {_holding(one.share_holding_pct)}" for one in tried[:_MOST_TRIED]
    )
    return Sure(
        _sentence(found.share_holding_pct, rule),
        tuple(more),
        _density(found, rule),
        _ranked(formula, found.ranked),
        said,
        best,
    )


def _ranked(formula: Formula, ranked: Sequence[Any]) -> str:
    """Whose error matters most, drawn; empty where nobody's does."""
    drawn = [
        Bar(
            formula.lines[one.line].material.name,
            max(0.0, one.share_of_variance_pct),
            _share(one.share_of_variance_pct),
            "honey",
        )
        for one in ranked
        if abs(one.share_of_variance_pct) >= _LEAST_SHARE
    ]
    return bars(drawn) if drawn else ""


def _share(pct: float) -> str:
    return f"{figures(pct, 2)} % of the spread" if pct >= 0.0 else "takes back another's error"


def _sentence(share: float | None, rule: str) -> str:
    """The answer first: "19 of 20 batches made with these tools hold the 60 % line."; never more than was found."""
    if share is None:
        return "No rule to hold: this is how its strength spreads."
    return f"{in_twenty(share)} made with these tools hold {_the(rule)}."


def in_twenty(share: float) -> str:
    """A share in per cent as a maker counts it, rounded down.

    >>> in_twenty(97.4), in_twenty(99.95), in_twenty(98.0), in_twenty(2.0)
    ('19 of 20 batches', 'Practically all batches', 'More than 39 of 40 batches', 'Hardly any batches')
    """
    if share >= 99.9:
        return "Practically all batches"
    if share >= 97.5:
        return "More than 39 of 40 batches"
    if share < 5.0:
        return "Hardly any batches"
    return f"{int(share / 5.0 + 1e-9)} of 20 batches"


def _holding(share: float | None) -> str:
    return "less spread." if share is None else f"{in_twenty(share)[0].lower()}{in_twenty(share)[1:]} hold."


def _best(share: float | None, sd: float, tried: Sequence[Any]) -> str:
    """What helps most, where anything does."""
    if not tried:
        return ""
    best = tried[0]
    now, then = share or 0.0, best.share_holding_pct or 0.0
    if then > now + 0.5:
        return f"What helps most: {best.change}. Then {_holding(then)}"
    if best.sd < 0.9 * sd:
        return f"For less spread, {best.change}."
    return "No other tool would make it much surer."
