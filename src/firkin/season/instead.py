"""Where something on the shopping list is not to be had: what would do in its place, tried in every formula that takes
it.

What would break a rule the formula holds, or brings a stop or a question, is not offered.
"""

from dataclasses import dataclass
from urllib.parse import urlencode

from django.urls import reverse

from firkin.accounts.models import Workshop
from firkin.core.audit import Severity
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula
from firkin.core.measures import amount_words, plain_figures, weight_words
from firkin.formulas.substitution import Before, Choice, Swap, choices, swap
from firkin.season.asking import Material
from firkin.season.models import Product
from firkin.shelf.on_hand import Shelf

#: So many are offered for a product.
_MOST = 3


@dataclass(frozen=True, slots=True)
class Instead:
    """Something to take in place of what is not to be had: for which product, what and how much, what else changes."""

    product: str
    words: str
    note: str
    url: str


class Substitution:
    """What the products of a workshop could be made with instead, one missing stock at a time."""

    def __init__(self, workshop: Workshop) -> None:
        self.shelf = Shelf.of(workshop)
        chosen = Product.objects.filter(formula__workshop=workshop, formula__put_away_at=None)
        self.products = [(product, product.formula.current.as_core()) for product in chosen.select_related("formula")]
        self._before: dict[int, Before] = {}

    def of(self, missing: Material) -> list[Instead]:
        """What would do in place of a stock, by product."""
        found: list[Instead] = []
        for product, formula in self.products:
            for at, line in enumerate(formula.lines):
                if line.material.written == missing.material:
                    found += self._in_line(product, formula, at, missing)
        return found

    def _in_line(self, product: Product, formula: Formula, at: int, missing: Material) -> list[Instead]:
        line = formula.lines[at]
        found: list[Instead] = []
        seen = {(line.material.id, str(missing.strength))}
        for choice in choices(line.material, line.counted_strength, self.shelf):
            key = (choice.material.id, str(choice.strength))
            if key in seen or len(found) >= _MOST:
                continue
            seen.add(key)
            try:
                before = self._before.get(product.pk) or Before.of(formula)
                self._before[product.pk] = before
                changed = swap(formula, at, choice.material.id, choice.strength, before)
            except CannotReckon:  # it does not reach what the formula promises
                continue
            if _holds(changed):
                found.append(_instead(product, at, choice, changed))
        return found


def _holds(changed: Swap) -> bool:
    """True where no rule is missed that was held, and nothing new stops or asks."""
    if any(one.severity in (Severity.STOP, Severity.ASK) for one in changed.come):
        return False
    failed = sum(one.verdict.fails for one in changed.before.verdicts)
    return sum(one.verdict.fails for one in changed.after.verdicts) <= failed


def _instead(product: Product, at: int, choice: Choice, changed: Swap) -> Instead:
    worked, litres = changed.after.lines[at], changed.after.total.volume_mL / 1000.0
    weighed = changed.after.formula.lines[at].solid
    a_litre = weight_words(worked.mass_g / litres) if weighed else amount_words(worked.volume_mL / litres)
    strong = f", {plain_figures(round(choice.strength.value, 1))} %" if choice.strength is not None else ""
    here = " It is on your shelf." if choice.bottle else ""
    asked = {"to": choice.material.id, "strength": "" if choice.strength is None else str(choice.strength)}
    return Instead(
        product.formula.name,
        f"{choice.material.name}{strong}: {a_litre} a litre.{here}",
        choice.note,
        f"{reverse('formulas:swap', args=[product.formula_id, at])}?{urlencode(asked)}",
    )
