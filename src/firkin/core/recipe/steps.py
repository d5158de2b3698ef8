"""The steps of a recipe: what its sentences say to do, without the amounts that its lines hold."""

import re
from collections.abc import Iterator, Sequence

from firkin.core.formula import Step
from firkin.core.measures import rounded
from firkin.core.recipe.heard import Heard
from firkin.core.recipe.pieces import Pieces
from firkin.core.recipe.recipe import MarkKind
from firkin.core.recipe.said import Lasting
from firkin.core.recipe.spans import Span

_HOURS = {"h": 1.0, "m": 1 / 60, "s": 1 / 3600, "d": 24.0, "w": 168.0, "mo": 730.0, "y": 8766.0}
#: A time up to this, in hours, is spent beside the batch; a longer one is a wait.
_BESIDE_H = 1.0
_DOING = "dXZ"
#: A step begins at a word that does, behind a comma, an "and" or a "then".
_STEP = re.compile(r"(?<=[,&;!])(?=[dXZu])")


def steps_of(heard: Heard, read: Sequence[Pieces]) -> tuple[Step, ...]:
    """The steps in the order of the text; what none of them names goes in first. None where nothing is to do."""
    steps = [step for pieces in read for step in _steps(heard, pieces)]
    if not steps:
        return ()
    named = {line for step in steps for line in step.lines}
    others = tuple(line for line in range(len(heard.lines)) if line not in named)
    if others:
        steps.insert(0, Step("combine" if len(others) > 1 else "measure", _combined(heard, others), others))
    return tuple(steps)


def _combined(heard: Heard, lines: Sequence[int]) -> str:
    names = [heard.lines[line].said or heard.lines[line].material.name.lower() for line in lines]
    return f"Measure out {', '.join(names)}."


def _steps(heard: Heard, pieces: Pieces) -> Iterator[Step]:
    """The steps of one sentence."""
    letters = pieces.said
    if not any(letter in _DOING for letter in letters):
        return
    cuts = [0, *(found.start() for found in _STEP.finditer(letters)), len(letters)]
    edges = [pieces.sentence.start, *(pieces.spans[cut].start for cut in cuts[1:-1]), pieces.sentence.end]
    for first, after, start, end in zip(cuts, cuts[1:], edges, edges[1:], strict=False):
        if "x" in letters[first:after]:
            continue  # what not to do is no step
        inside = [span for span in pieces.spans if start <= span.start < end]
        lines = _lines(heard, start, end)
        text = _text(heard, start, end)
        if not text or not (lines or any(letter in _DOING for letter in letters[first:after])):
            continue
        yield Step(_does(text), text, lines, *_times(inside, text))


def _lines(heard: Heard, start: int, end: int) -> tuple[int, ...]:
    """The lines that a stretch of the text names."""
    return tuple(
        dict.fromkeys(
            mark.line
            for mark in sorted(heard.marks, key=lambda mark: mark.start)
            if mark.kind is MarkKind.LINE and mark.line is not None and start <= mark.start < end
        )
    )


def _text(heard: Heard, start: int, end: int) -> str:
    """What a stretch says, without the amounts that stand in lines."""
    text = heard.text[start:end]
    for at, stop in sorted(heard.measured, reverse=True):
        if start <= at and stop <= end:
            text = text[: at - start] + re.sub(r"^\s*of\b", "", text[stop - start :])
    text = re.sub(r"^(?:[\s,;.:]|and\b|then\b)+", "", text)
    text = re.sub(r"\(\s*\)", "", text)
    text = re.sub(r"\s+", " ", text)
    text = text.strip(" ,;.").removesuffix(" and").removesuffix(", then").removesuffix(" then").strip(" ,;")
    return text[:1].upper() + text[1:] + "." if text else ""


def _does(text: str) -> str:
    word = re.match(r"[A-Za-z]+", text)
    return (word.group().lower() if word else "do")[:40]


def _times(inside: Sequence[Span], text: str) -> tuple[float | None, int, float | None, float | None]:
    """The wait in hours, the portions, the time spent beside it in hours, and the temperature in degC."""
    wait = timer = heat = None
    portions = 1
    for span in inside:
        if span.kind == "time" and isinstance(span.value, Lasting):
            hours = hours_of(span.value)
            if hours <= _BESIDE_H:
                timer = hours
            else:
                wait = hours
        elif span.kind == "portions" and not isinstance(span.value, str):
            portions = max(1, min(1000, int(span.value)))
        elif span.kind == "heat_at" and -20.0 <= span.value <= 120.0:
            heat = rounded(span.value, 4)
    if wait is None and re.search(r"\bovernight\b", text, re.IGNORECASE):
        wait = 12.0
    return wait, portions, timer, heat


def hours_of(lasting: Lasting) -> float:
    """A time in hours.

    >>> hours_of(Lasting(3.0, "days")), hours_of(Lasting(30.0, "min"))
    (72.0, 0.5)
    """
    unit = lasting.unit
    return lasting.number * _HOURS["mo" if unit.startswith("mo") else unit[0]]
