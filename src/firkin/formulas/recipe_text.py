"""A recipe's own text with what each piece of it was taken for."""

from collections.abc import Iterator
from dataclasses import dataclass

from firkin.core.recipe import (
    MarkKind,
    Recipe,
)

#: What a mark in the text is, in a word.
MARK_WORDS = {
    MarkKind.LINE: "goes in",
    MarkKind.CLAIM: "said of the whole",
    MarkKind.STEP: "part of a step",
    MarkKind.ADVICE: "not counted",
    MarkKind.TITLE: "a title",
    MarkKind.UNREAD: "not understood",
}


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece of the maker's own text: plain, or marked with what it was taken for."""

    text: str
    kind: str = ""
    word: str = ""
    says: str = ""


def pieces_of(recipe: Recipe) -> Iterator[Piece]:
    """The text cut where a mark begins or ends; of two marks the shorter one shows."""
    shown: list[int | None] = [None] * len(recipe.text)
    longest_first = sorted(range(len(recipe.marks)), key=lambda at: recipe.marks[at].start - recipe.marks[at].end)
    for at in longest_first:
        mark = recipe.marks[at]
        shown[mark.start : mark.end] = [at] * (mark.end - mark.start)
    start = 0
    for end in range(1, len(shown) + 1):
        if end == len(shown) or shown[end] != shown[start]:
            yield _piece(recipe, recipe.text[start:end], shown[start])
            start = end


def _piece(recipe: Recipe, text: str, at: int | None) -> Piece:
    if at is None or not text.strip():
        return Piece(text)
    mark = recipe.marks[at]
    says = mark.what
    if mark.line is not None:
        line = recipe.lines[mark.line]
        name, strength, amount = line.words()
        name = line.material.name if line.material.known else name
        more = f" {', '.join(line.qualifiers)}." if line.qualifiers else ""
        words = " ".join(part for part in (amount or "no amount", strength, name) if part)
        says = f"Line {mark.line + 1}: {words}. {says}{more}"
    return Piece(text, mark.kind.value, MARK_WORDS[mark.kind], says.strip())
