"""What a label says besides strength, dates and cautions: words of the family, and what is in this batch."""

from firkin.core.bench.progress import Progress
from firkin.core.catalogue import families, rule_lines
from firkin.core.formula import Formula, Reckoning
from firkin.core.measures import figures
from firkin.core.questions import dose_of

_SHAKE = "Shake before use."


def usual_label_words(formula: Formula) -> tuple[str, ...]:
    """What a label usually says of such a product, for its maker to change; common practice, no source.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula import house_formulas
    >>> usual_label_words(house_formulas()["laundry-bottle"].formula)
    ('Shake before use.', '108 to 120 mL a load.')
    >>> usual_label_words(house_formulas()["foam-oil"].formula)[-1]
    'Shake before use if it has settled.'
    """
    words = list(families()[formula.family].label_words)
    oils = formula.lines_with("oil", "essential-oil") and not formula.lines_with("surfactant", "alcohol")
    if oils and not formula.dry and not any("hake" in said for said in words):
        words.append(_SHAKE)
    dose = dose_of(formula)
    if dose is not None and (dose.said or formula.family == "laundry-soap"):
        words.append(f"{dose.words}.")
    return tuple(words)


def below_its_line(result: Reckoning) -> str:
    """A sentence for the label of a batch that fails a line it is judged by; empty where it fails none.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.

    >>> from dataclasses import replace
    >>> from firkin.core.formula import house_formulas, reckon
    >>> from firkin.core.measures import read_quantity
    >>> rub = house_formulas()["who-one"].formula
    >>> below_its_line(reckon(rub)), below_its_line(reckon(rub.scaled_to(read_quantity("1 L"))))
    ('', '')
    """
    for standing in result.verdicts:
        if standing.verdict.fails:
            active = result.active(standing.active)
            strength = f"{figures(active.lower)} {active.basis}" if active is not None else "0 %"
            return f"Does not meet “{rule_lines()[standing.guideline].name}”: it holds {strength}."
    return ""


def fails_a_line(progress: Progress) -> bool:
    """True when what goes into the bottles fails a line the batch is judged by."""
    return bool(below_its_line(progress.in_bottles))
