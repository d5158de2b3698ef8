"""One sentence that is being read: its pieces, and what was heard so far."""

import re

from firkin.core.recipe.heard import Heard, Share, shared
from firkin.core.recipe.pieces import Pieces
from firkin.core.recipe.recipe import MarkKind
from firkin.core.recipe.said import Amount, Percent
from firkin.core.recipe.spans import Span

Found = re.Match[str]


class Telling:
    """A sentence with its pieces by place, and what they are taken for."""

    def __init__(self, pieces: Pieces, heard: Heard, *, title: bool, follows: bool) -> None:
        self.pieces, self.heard, self.title, self.follows = pieces, heard, title, follows

    def _span(self, at: int) -> Span:
        return self.pieces.spans[at]

    def _take(self, kind: MarkKind, *places: int, what: str = "", line: int | None = None) -> None:
        for at in places:
            self.heard.mark_span(self._span(at), kind, what, line)
        self.pieces.take(*places)

    def _stretch(self, *places: int) -> tuple[int, int]:
        """From where the first of some pieces begins to where the last ends."""
        spans = [self._span(at) for at in places]
        return min(span.start for span in spans), max(span.end for span in spans)

    def _of(self, found: Found, letters: str) -> list[int]:
        return [at for at in range(*found.span()) if self.pieces.letters[at] in letters]

    def _claim(self, found: Found, what: str, *letters: str) -> None:
        self._take(MarkKind.CLAIM, *self._of(found, "".join(letters)), what=what)

    def _amount(self, found: Found) -> Amount:
        value = self._span(self._of(found, "A")[0]).value
        return Amount(*shared(value)) if isinstance(value, Share) else value

    def _stated(self, name: int) -> list[tuple[int, Percent]]:
        """The strengths beside a name, with their places."""
        out = []
        for at in (name - 1, name - 2, name + 1, name + 2):
            between = self.pieces.letters[min(at, name) + 1 : max(at, name)]
            near = 0 <= at < len(self.pieces.letters) and between in ("", "(", "o", "@")
            if near and self.pieces.letters[at] == "S":
                out.append((at, self._span(at).value))
            if near and self.pieces.letters[at] == "N" and at in self.pieces.plausible():
                out.append((at, Percent(self._span(at).value, self._span(at).value)))
        return out[:1]
