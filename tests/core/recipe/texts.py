"""Recipe texts with what each must be read as, and how a reading is held against it.

A text starts with "## voice | fault", where the fault is the id of the rule that must speak, or "-" for a sound one.
After "->" stand its lines, "material; strength; amount" ("?" where none is said), and what is said of the whole.
"""

import re
from collections import Counter
from dataclasses import dataclass
from pathlib import Path

from firkin.core.measures import Quantity, read_quantity
from firkin.core.recipe import Recipe, in_household

#: Whose cups a voice uses; else they are US.
_WHOSE = {"uk": "imperial", "au": "australian", "metric": "metric"}


@dataclass(frozen=True, slots=True)
class Text:
    """One text: in whose measures, which rule must speak, its words, and what it must be read as."""

    whose: str
    fault: str
    words: str
    lines: tuple[tuple[str, str, str], ...]
    whole: dict[str, str]


def texts(name: str) -> list[Text]:
    """Every text of a file."""
    raw = (Path(__file__).parent / f"texts_{name}.txt").read_text("utf-8")
    return [_text(block) for block in re.split(r"(?m)^## ", raw) if block.strip()]


def _text(block: str) -> Text:
    head, _, rest = block.partition("\n")
    voice, fault = (part.strip() for part in head.split("|"))
    words, _, meant = rest.partition("\n->\n")
    rows = [row for row in meant.splitlines() if row.strip()]
    lines = tuple(tuple(cell.strip() for cell in row.split(";")) for row in rows if ";" in row)
    whole = dict(row.split(" ", 1) for row in rows if ";" not in row)
    whose = next((key for word, key in _WHOSE.items() if word in voice.split()), "us")
    return Text(whose, fault, words, lines, whole)  # type: ignore[arg-type]


def lines_right(text: Text, recipe: Recipe) -> tuple[int, int]:
    """How many of the lines were read exactly right, and how many there are, too many counted as well."""
    meant = Counter(
        (name, strength, size_of(meant_amount(amount, text.whose))) for name, strength, amount in text.lines
    )
    read = Counter((line.material.written, str(line.strength or ""), size_of(line.amount)) for line in recipe.lines)
    right = sum((meant & read).values())
    return right, max(sum(meant.values()), sum(read.values()))


def whole_right(text: Text, recipe: Recipe) -> bool:
    """True where every line is right and what is said of the whole too."""
    right, of = lines_right(text, recipe)
    return (
        right == of
        and all(_says(recipe, text, kind, said) for kind, said in text.whole.items())
        and _no_more(text, recipe)
    )


def _says(recipe: Recipe, text: Text, kind: str, said: str) -> bool:
    if kind == "claim":
        return recipe.claim is not None and f"{recipe.claim.strength.value:g} %" == " ".join(said.split()[:2])
    if kind == "hand":
        return any(str(line.claims.on_hand) == said for line in recipe.lines)
    if kind == "loads":
        return recipe.claims.loads == float(said)
    got = {
        "make": recipe.make,
        "size": recipe.claims.size or recipe.make,
        "vessel": recipe.claims.vessel,
        "dose": recipe.claims.dose,
    }[kind]
    return size_of(got) == size_of(meant_amount(said, text.whose))


def _no_more(text: Text, recipe: Recipe) -> bool:
    """True where nothing is claimed that the text does not say."""
    made_up = (recipe.claim is not None and "claim" not in text.whole) or (
        recipe.claims.loads is not None and "loads" not in text.whole
    )
    return not made_up


def meant_amount(amount: str, whose: str) -> Quantity | None:
    return None if amount == "?" else in_household(read_quantity(amount), whose)


def size_of(amount: Quantity | None) -> tuple[str, str] | None:
    if amount is None:
        return None
    value = {"volume": lambda: amount.mL, "mass": lambda: amount.g}.get(amount.kind, lambda: amount.value)()
    return amount.kind, f"{value:.4g}"
