"""The layout of a recipe's text: what a page would show of it, its lines, tables and sentences, each with its place.

Text is untrusted: its length is bounded, and markup is blanked out place for place.
"""

import html
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cache

from firkin.core.catalogue import alcohol_names, names_of_materials
from firkin.core.recipe.pasted import runs_on

MOST_CHARACTERS = 50_000
MOST_SENTENCES = 1_500
MOST_IN_A_SENTENCE = 800

_TAG = re.compile(r"<(/?)\s*([a-z][a-z0-9]*)\b[^<>]{0,300}>|<!--.{0,2000}?-->", re.IGNORECASE | re.DOTALL)
_HIDDEN = re.compile(r"<(script|style)\b.{0,20000}?(?:</\1\s*>|\Z)", re.IGNORECASE | re.DOTALL)
_ENTITY = re.compile(r"&(?:[a-z]{2,10}\d{0,2}|#\d{1,6}|#x[0-9a-f]{1,6});", re.IGNORECASE)
_INLINE = frozenset({"b", "i", "em", "strong", "span", "a", "u", "small", "sup", "sub", "font"})
_SIGNS = str.maketrans(
    '０１２３４５６７８９％’‘`⁄×−٪\u00a0\u2009\u202f\u2007\r\x00*_“”"',
    "0123456789%'''/x-%    \n " + " " * 5,
)
_UNITS = frozenset(
    {
        "g", "kg", "ml", "l", "cl", "dl", "tsp", "tbsp", "tbs", "oz", "lb", "lbs", "c", "pt",
        "qt", "gal", "min", "h", "hr", "hrs",
    }
)  # fmt: skip
#: Words that end in a dot within a sentence.
_SHORT = (_UNITS - {"h"}) | {
    "abv", "alc", "approx", "aq", "boil", "ca", "conc", "demin", "dest", "dist", "e.g", "fig", "fl", "glyc", "i.e",
    "iso", "no", "nr", "q", "q.s", "s", "t", "vol",
}  # fmt: skip
_STOP = re.compile(r"(?<![.\s])\.(?=\s|$)|[!?]+(?=\s|$)")
#: So many items between slashes are a list.
_FEWEST_ITEMS = 3
_BULLET = re.compile(
    r"[ \t]*(?:(?:[-–—•·▪◦‣>+]|\[[ xX]?\])[ \t]+)*(?:step[ \t]+\d{1,2}[.:)]?|\(?\d{1,2}[.)](?=[ \t]))?[ \t]*",
    re.IGNORECASE,
)
_INLINE_NUMBER = re.compile(
    r"(?<=[\s.])\(?\d{1,2}[.)][ \t]+(?=[a-z])|(?<=[\s.])\((?:i{1,3}|iv|vi{0,3}|ix|x)\)[ \t]+", re.IGNORECASE
)
_RULE = re.compile(r"[\s|:+=.-]*")
_UNIT_OF = re.compile(r"\(?\b(percent|per cent|grams?|g|kg|ml|l|litres?|parts?|oz|% ?w/w|% ?v/v)\b\)?|%", re.IGNORECASE)
_UNIT_ALONE = re.compile(r"\s*\(?(?:grams?|g|mls?|ml|kg|kilos?|litres?|ounces|oz|cups|parts)\)?\s*")
_AMOUNT_HEAD = re.compile(
    r"\b(?:amount|qty|quantity|how much|unit|percent|measure)\b|%|\((?:g|ml|kg|l|oz)\)", re.IGNORECASE
)


@dataclass(frozen=True, slots=True)
class Sentence:
    """A stretch of the text that is read by itself.

    ``cells`` are the places where a column ends, ``unit`` what a bare figure in it is counted in; ``listed`` says that
    it is a line of a list, ``header`` that it is the head of a table, ``number`` is where it has a number in front.
    """

    start: int
    end: int
    line: int
    cells: tuple[int, ...] = ()
    unit: str = ""
    listed: bool = False
    header: bool = False
    number: tuple[int, int] | None = None


@dataclass(frozen=True, slots=True)
class Page:
    """A text in small letters and plain signs, as long as it was; and its sentences."""

    plain: str
    sentences: tuple[Sentence, ...]
    left_out: str = ""


def layout(text: str) -> Page:
    """Lay a text out; places in the result are places in ``text``.

    >>> page = layout("Hand rub\\n- 2 cups alcohol. Stir!")
    >>> [page.plain[one.start:one.end] for one in page.sentences]
    ['hand rub', '2 cups alcohol', 'stir']
    """
    left_out = ""
    if len(text) > MOST_CHARACTERS:
        left_out = f"Only the first {MOST_CHARACTERS} characters are read; the text has {len(text)}."
        text = text[:MOST_CHARACTERS]
    shown = _shown(text)
    plain = _small(shown)
    sentences: list[Sentence] = []
    for one in _short_enough(plain, _sentences(shown, plain)):
        if len(sentences) == MOST_SENTENCES:
            left_out = f"Only the first {MOST_SENTENCES} sentences are read."
            break
        sentences.append(one)
    return Page(plain, tuple(sentences), left_out)


def _short_enough(plain: str, sentences: Iterator[Sentence]) -> Iterator[Sentence]:
    """The sentences, a very long one in pieces."""
    for one in sentences:
        rest = one
        while rest.end - rest.start > MOST_IN_A_SENTENCE:
            cut = plain.rfind(" ", rest.start + MOST_IN_A_SENTENCE // 2, rest.start + MOST_IN_A_SENTENCE)
            cut = cut if cut > 0 else rest.start + MOST_IN_A_SENTENCE
            yield replace(rest, end=cut)
            rest = replace(rest, start=cut, number=None)
        yield rest


def _blank(found: re.Match[str]) -> str:
    return " " * len(found.group())


def _shown(text: str) -> str:
    """The text as long as it was, without markup."""
    text = _HIDDEN.sub(_blank, text)

    def tag(found: re.Match[str]) -> str:
        name = (found[2] or "").lower()
        sign = " " if name in _INLINE else "\t" if name in ("td", "th") else "\n"
        return sign + " " * (len(found.group()) - 1)

    def entity(found: re.Match[str]) -> str:
        meant = html.unescape(found.group())
        return (meant if len(meant) == 1 else "?") + " " * (len(found.group()) - 1)

    return _slashed(_ENTITY.sub(entity, _TAG.sub(tag, text)))


def _slashed(text: str) -> str:
    """The text with slashes between the items of a list as ends of lines: "ethanol 833 ml / glycerol 15 ml / water"."""
    lines = text.split("\n")
    for at, line in enumerate(lines):
        items = line.split(" / ")
        if (
            len(items) >= _FEWEST_ITEMS
            and sum(any(sign.isdigit() for sign in item) for item in items) >= len(items) - 2
        ):
            lines[at] = " \n ".join(items)
    return "\n".join(lines)


def _small(text: str) -> str:
    """Small letters and plain signs, place for place."""
    small = text.lower()
    if len(small) != len(text):
        small = "".join(letter.lower() if len(letter.lower()) == 1 else letter for letter in text)
    return small.translate(_SIGNS)


def _lines(plain: str) -> list[tuple[int, int]]:
    places, start = [], 0
    for line in plain.split("\n"):
        places.append((start, start + len(line)))
        start += len(line) + 1
    return places


def _sentences(shown: str, plain: str) -> Iterator[Sentence]:
    lines = [(start, end) for start, end in _lines(plain) if plain[start:end].strip(" .,;!?-–—=|~:+")]
    table = _Table(shown, plain, lines)
    joined = _run_on(plain, lines, table)
    several = len(joined) > 1
    for number, (start, end) in enumerate(joined):
        if table.rule(start, end):
            continue
        cells = table.cells(start, end)
        if cells or table.counted:
            yield Sentence(
                *_trim(plain, table.first(start, end), end), number, cells, table.unit, True, table.header(start, end)
            )
            continue
        found = _BULLET.match(plain, start, end)
        first = found.end() if found else start
        digits = re.search(r"\d", plain[start:first])
        numbered = (start, first) if digits else None
        unit = table.unit_below(start)
        bulleted = first > start and bool(plain[start:first].strip())
        parts = list(_parts(shown, plain, first, end))
        for i, (one, other) in enumerate(parts):
            begin, stop = _trim(plain, one, other)
            if begin < stop:
                yield Sentence(
                    begin,
                    stop,
                    number,
                    (),
                    unit,
                    bulleted or (several and len(parts) == 1),
                    number=numbered if i == 0 else None,
                )


def _trim(plain: str, start: int, end: int) -> tuple[int, int]:
    while start < end and plain[start] in " \t;|":
        start += 1
    while end > start and plain[end - 1] in " \t;|!?":
        end -= 1
    if (
        end > start
        and plain[end - 1] == "."
        and not plain[max(start, end - 6) : end].rstrip(".").endswith(("q.s", "qs"))
    ):
        end -= 1
    return start, end


#: "2 c. Borax": a line that begins with its amount.
_AMOUNT_FIRST = re.compile(r"[\s\d/.,½¼¾⅓⅔–-]*\d?[½¼¾⅓⅔]?\s*[a-z]+")
#: So many letters behind a short form are looked at.
_A_NAME = 40


@cache
def _names() -> frozenset[str]:
    return frozenset({*names_of_materials(), *alcohol_names().unnamed, "soap", "gel"})


def _names_something(ahead: str) -> bool:
    """True where a material's name comes next: "2 c. Borax" is one line, however it is written."""
    words = re.findall(r"[^\W\d_]+", ahead)[:3]
    return any(" ".join(words[:count]) in _names() for count in range(1, len(words) + 1))


def _parts(shown: str, plain: str, start: int, end: int) -> Iterator[tuple[int, int]]:
    """The sentences of a line: a stop ends one where no short form stands before it and no figure goes on."""
    cuts = (
        [found.start() for found in _INLINE_NUMBER.finditer(plain, start + 3, end)]
        if _counts_up(plain, start, end)
        else []
    )
    numbered = {found.start(): found.end() for found in _INLINE_NUMBER.finditer(plain, start, end)}
    last = start
    for found in _STOP.finditer(plain, start, end):
        if any(cut <= found.start() < numbered[cut] for cut in cuts):
            continue
        word = re.search(r"[a-z.'’]*$", plain[max(start, found.start() - 8) : found.start()])
        before = (word.group() if word else "").strip(".")
        ahead = plain[found.end() : found.end() + _A_NAME].lstrip()
        if found.group() == "." and (before in _SHORT or len(before) == 1) and found.end() < end:
            sure = re.match(
                r"(?:this|it|then|mix|stir|add|shake|pour|put|makes?|you|i|we|the|for|to|use|top|fill)\b", ahead
            )
            next_line_amount = re.match(r"\d", ahead) and before in _UNITS
            begins = _AMOUNT_FIRST.fullmatch(plain, last, found.start()) is not None and _names_something(ahead)
            capital = before in _UNITS and shown[found.end() :].lstrip()[:1].isupper() and not begins
            never = before in ("q.s", "q", "s", "i.e", "e.g", "approx", "ca", "fl", "vol", "no", "nr")
            if never or (not sure and not next_line_amount and not capital):
                continue
        yield from _at_numbers(last, found.end(), cuts, numbered)
        last = found.end()
    yield from _at_numbers(last, end, cuts, numbered)


def _at_numbers(start: int, end: int, cuts: list[int], numbered: dict[int, int]) -> Iterator[tuple[int, int]]:
    """A stretch parted where a number of the text's own counting stands."""
    for cut in cuts:
        if start < cut < end:
            yield start, cut
            start = numbered[cut]
    yield start, end


_ROMAN = ("i", "ii", "iii", "iv", "v", "vi", "vii", "viii", "ix", "x")


def _number(said: str) -> int:
    """The number of a step: "3." or "(iii)"."""
    digits = re.sub(r"\D", "", said)
    return int(digits) if digits else _ROMAN.index(said.strip(" ().\t")) + 1


def _counts_up(plain: str, start: int, end: int) -> bool:
    """True for "1. Pour it in 2. Stir": numbers inside one line that count up."""
    numbers = [_number(found.group()) for found in _INLINE_NUMBER.finditer(" " + plain[start:end])]
    return len(numbers) >= 2 and numbers == list(range(numbers[0], numbers[0] + len(numbers)))


def _run_on(plain: str, lines: list[tuple[int, int]], table: "_Table") -> list[tuple[int, int]]:
    """Lines with those joined that go on from a paragraph of speech without a stop at its end."""
    joined: list[tuple[int, int]] = []
    for start, end in lines:
        before, stop = joined[-1] if joined else (0, 0)
        last = plain[before:stop].rstrip().rpartition("\n")[2]
        if runs_on(last, table.shown[start:end]) and not table.counted and not table.cells(start, end):
            joined[-1] = (before, end)
        else:
            joined.append((start, end))
    return joined


#: What the head of a table does not hold: a figure, a number in words, the end of a sentence. It is not counted.
_NO_HEAD = re.compile(
    r"[\d½¼¾⅓⅔⅛]|(?<!qty)[.!?]\s+[a-z]"
    r"|\b(?:half|one|two|three|four|five|six|seven|eight|nine|ten|(?:twen|thir|for|fif|six|seven|eigh|nine)ty|hundred)\b"
)


def _names_columns(text: str) -> bool:
    """True for a line that may be the head of a table."""
    return _NO_HEAD.search(text) is None


class _Table:
    """What a text's lines have of a table: columns, a heading with units, rows that count up."""

    def __init__(self, shown: str, plain: str, lines: list[tuple[int, int]]) -> None:
        self.shown, self.plain, self.lines = shown, plain, lines
        self.sign = self._separator()
        self.head = self._head()
        self.counted = self._rows_count_up()
        self.unit = self._head_unit()

    def _separator(self) -> str:
        texts = [self.plain[start:end] for start, end in self.lines]
        for sign in ("|", "\t"):
            if sum(sign in text for text in texts) >= max(1, (len(texts) + 1) // 2):
                return sign
        quoted = sum(self.shown[start:end].count('","') > 0 for start, end in self.lines)
        commas = [text.count(",") for text in texts]
        if len(texts) >= 2 and (
            quoted or (min(commas) >= 1 and _AMOUNT_HEAD.search(texts[0]) and _names_columns(texts[0]))
        ):
            return ","
        return ""

    def _head(self) -> int | None:
        """Where the line stands that names the columns, or what a bare figure is counted in."""
        for start, end in self.lines[:4]:
            text = self.plain[start:end]
            named = _AMOUNT_HEAD.search(text) or any(_UNIT_ALONE.fullmatch(cell) for cell in re.split(r"[|\t,;]", text))
            if named and _names_columns(re.sub(r"w/w|v/v", "", text)) and len(text) <= 80 and len(self.lines) > 1:
                return start
        return None

    def _head_unit(self) -> str:
        if self.head is None:
            return ""
        end = next(stop for start, stop in self.lines if start == self.head)
        found = _UNIT_OF.search(self.plain, self.head, end)
        return (
            ""
            if found is None
            else {"percent": "%", "per cent": "%"}.get(found.group().strip("()"), found.group().strip("()"))
        )

    def _rows_count_up(self) -> bool:
        """True where the rows carry numbers 1, 2, 3 of their own, without a point."""
        numbers = [re.match(r"\s*(\d{1,2})\s+[a-z]", self.plain[start:end]) for start, end in self.lines]
        found = [int(one[1]) for one in numbers if one]
        return len(found) >= 3 and found == list(range(1, len(found) + 1)) and len(found) >= len(self.lines) - 2

    def rule(self, start: int, end: int) -> bool:
        """True for a line that only draws."""
        return _RULE.fullmatch(self.plain, start, end) is not None

    def header(self, start: int, end: int) -> bool:
        """True for the line that names the columns."""
        return start == self.head

    def first(self, start: int, end: int) -> int:
        """Where a row begins, behind its number."""
        found = re.compile(r"\s*\d{1,2}\s+(?=[a-z])").match(self.plain, start, end) if self.counted else None
        return found.end() if found else start

    def cells(self, start: int, end: int) -> tuple[int, ...]:
        """Where the columns of a line end."""
        if not self.sign:
            return ()
        places = [at for at in range(start, end) if self.plain[at] == self.sign]
        if self.sign == ",":  # not the comma inside quotes or a number
            quoted = '","' in self.shown[start:end]
            places = [
                at
                for at in places
                if (
                    self.shown[at - 1 : at + 2] == '","'
                    if quoted
                    else not (
                        self.plain[at - 1 : at].isdigit()
                        and self.plain[at + 1 : at + 2].isdigit()
                        and self.plain[at + 1 : at + 4].isdigit()
                    )
                )
            ]
        return tuple(places)

    def unit_below(self, start: int) -> str:
        """What a bare figure is counted in on a line below the heading."""
        return self.unit if self.head is not None and start > self.head else ""
