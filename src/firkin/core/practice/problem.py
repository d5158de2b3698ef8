"""A problem of the trade's arithmetic, and how an answer to it is marked."""

import re
from dataclasses import dataclass

from firkin.core.errors import CannotReckon
from firkin.core.measures import NUMBER, figures, read_number, read_quantity
from firkin.core.texts import quoted

#: An answer is right within this share of the worked one (common practice, no source).
_NEAR = 0.01
#: One that is rounded is right when it is the worked one to as many figures, of which there are two at least.
_FEWEST_FIGURES = 2


@dataclass(frozen=True, slots=True)
class WrongWay:
    """What a usual wrong way comes to, and what it says of it: "You divided by 3: 3 parts and 1 are 4."."""

    name: str
    value: float
    words: str


@dataclass(frozen=True, slots=True)
class Problem:
    """One problem: its skill and seed, the question, and either a figure with its unit or one of several choices.

    ``answer`` is the figure, or the place of the right choice; ``working`` the worked answer, line by line.
    """

    skill: str
    seed: int
    text: str
    answer: float
    unit: str = ""
    choices: tuple[str, ...] = ()
    working: tuple[str, ...] = ()
    wrong: tuple[WrongWay, ...] = ()

    @property
    def answer_words(self) -> str:
        """The worked answer with its unit."""
        if self.choices:
            return self.choices[int(self.answer)]
        return f"{figures(self.answer)} {self.unit}".strip()


@dataclass(frozen=True, slots=True)
class Marked:
    """How an answer was marked; ``words`` name the wrong way where it is a usual one."""

    right: bool
    words: str


def mark(problem: Problem, given: str) -> Marked:
    """Mark what was answered.

    Args:
        problem: the problem that was set.
        given: what was answered.

    Raises:
        CannotReckon: where it is no figure, in no unit of that kind, or no choice.

    >>> ways = (WrongWay("twice", 300.0, "Halve it."),)
    >>> five = Problem("proof", 1, "A bottle says 150 proof.", 75.0, "%", wrong=ways)
    >>> mark(five, "75 %").right, mark(five, "74.6").right, mark(five, "300").words
    (True, True, 'Halve it.')
    """
    if problem.choices:
        return _of_choices(problem, given)
    value, written = _value(given, problem.unit)
    if _same(value, problem.answer, written):
        return Marked(True, "Right.")
    for way in problem.wrong:
        if _same(value, way.value, written):
            return Marked(False, way.words)
    return Marked(False, f"It is {problem.answer_words}.")


def _of_choices(problem: Problem, given: str) -> Marked:
    plain = given.strip()
    if not (plain.isascii() and plain.isdigit() and len(plain) < 3 and int(plain) < len(problem.choices)):
        raise CannotReckon("Choose one of the answers.")
    chosen = int(plain)
    if chosen == int(problem.answer):
        return Marked(True, "Right.")
    said = next((way.words for way in problem.wrong if int(way.value) == chosen), "")
    return Marked(False, said or f"It is: {problem.answer_words}")


def _value(given: str, unit: str) -> tuple[float, str]:
    """The figure of an answer in the problem's unit, and its digits as they were written."""
    plain = given.strip()
    if not plain:
        raise CannotReckon("Write a figure.")
    first = NUMBER.match(plain)
    if first is None:
        raise CannotReckon(f"{quoted(plain)} is no figure.")
    rest = plain[first.end() :].strip().lower()
    if not rest or rest in _SPELLED.get(unit, (unit.lower(),)):
        return read_number(first.group()), first.group()
    if unit in ("mL", "g"):
        amount = read_quantity(plain)
        if amount.kind != ("volume" if unit == "mL" else "mass"):
            raise CannotReckon(f"It is asked for in {unit}.")
        return (amount.mL if unit == "mL" else amount.g), first.group()
    raise CannotReckon(f"It is asked for in {unit}." if unit else "It is asked for as a plain number.")


#: What a unit may be written as.
_SPELLED = {
    "%": ("%", "per cent", "percent", "% v/v", "% w/w", "% w/v"),
    "loads": ("loads", "load"),
    "parts": ("parts", "part"),
    "mg/L": ("mg/l", "ppm"),
}


def _same(value: float, wanted: float, written: str) -> bool:
    """True for what is near enough, or is the wanted figure honestly rounded as it was written."""
    if abs(value - wanted) <= _NEAR * abs(wanted) + 1e-9:
        return True
    digits = re.sub(r"[^0-9]", "", written).lstrip("0")
    count = len(digits.rstrip("0")) if "." not in written and "," not in written else len(digits)
    if count < _FEWEST_FIGURES or not value or not wanted:
        return False
    return float(f"{wanted:.{count}g}") == float(f"{value:.{count}g}") and abs(value - wanted) <= 0.05 * abs(wanted)
