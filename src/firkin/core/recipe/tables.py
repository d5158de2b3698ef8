"""Tables of any layout, written as plain lines that the reader knows: "833.3 mL Ethanol 96 %".

Which column holds the names, which the amounts, and where their unit stands (in the cell, a column of its own, the
heading) is decided by what the cells are. The text that is read keeps, sign by sign, its place in the one given.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from firkin.core.catalogue import dangers_in
from firkin.core.measures import spellings
from firkin.core.recipe.plaintext import PlainText, without_slips, words_of_names

_NUMBER = r"\d[\d.,]*(?:[-–]\d/\d{1,2}|\s?[-–]\s?\d[\d.,]*| \d/\d{1,2}|/\d{1,2}| ?[½¼¾⅓⅔⅛])?|[½¼¾⅓⅔⅛]"
_UNITS = "|".join(
    sorted((re.escape(name) for name in (*spellings(), "%", "percent", "per cent")), key=len, reverse=True)
)
_UNIT = re.compile(rf"(?<![\w/])(?:{_UNITS})(?![\w])", re.IGNORECASE)
#: A cell that is a figure, with its unit or none.
_FIGURE = re.compile(rf"[~+≈]?\s*({_NUMBER})\s*((?:{_UNITS})\.?)?", re.IGNORECASE)
_AMOUNTS = re.compile(rf"(?:(?:{_NUMBER})\s*(?:{_UNITS})\.?\s*(?:\+|and|,)?\s*)+", re.IGNORECASE)
_TOPPED = re.compile(
    r"(?:q\.?\s?s\.?(?:\s?p\.?)?|ad|up to|to|bis|auf|make up to|fill to)\s*(?:(\d[\d.,]*)\s*([^\W\d_]{1,7})?)?",
    re.IGNORECASE,
)
_TOTAL = re.compile(r"(?:batch |grand )?(?:(?:total|sum|gesamt|summe|yield)\b|[Σ∑]).*", re.IGNORECASE)
#: Headings of columns that hold no amounts: prices, sources, numbers of rows and the like.
_NO_AMOUNTS = re.compile(
    r".*(?:\b(?:price|cost|supplier|from|shop|source|notes?|remarks?|phase|role|function|cas|step|no|nr|pos|time|min|eur|usd|gbp)\b|[€$£#]|(?:per|/)\s?kg).*",
    re.IGNORECASE,
)
#: Headings of the column that names what goes in; of one that says how; and what of that is read.
_WHAT = re.compile(
    r"\W*(?:what|of what|ingredients?|materials?|names?|items?|stuff|substances?|components?|raw materials?|inci"
    r"|zutat(?:en)?|stoff|ingrédients?|ingredientes?|ingrediënt(?:en)?)\W*",
    re.IGNORECASE,
)
_HOW = re.compile(r"\W*(?:how|how to|do|method|way|procedure|action|instructions?|manner|doing)\W*", re.IGNORECASE)
_MANNER = re.compile(
    r"\b(?:in (?:\d{1,2}|two|three|four|five|six|seven|eight|ten|small|several|a few) \w+"
    r"|\d{1,2} (?:portions|additions|goes|lots|times)|thirds|halves|quarters|drop by drop|dropwise|slow(?:ly)?|gently"
    r"|thin stream|trickle|last|first|overnight|\d+\s?(?:h|hours?|min|minutes?|days?)|at a time"
    r"|leave|stand|rest|cool)\b",
    re.IGNORECASE,
)
#: "We make the 1 L": which of several sizes.
_MADE = re.compile(
    r"\b(?:we|i) (?:always |usually |only )?(?:make|made|do|use|took|take) (?:the |a )?"
    r"(?P<size>\d[\d.,]*\s?(?:ml|l|kg|g))\b",
    re.IGNORECASE,
)
_RULE = re.compile(r"[\s|:=+_–—;-]*")
_GAP = re.compile(r"\t| {2,}|\s*\.{3,}\s*|\s*…+\s*")
#: "Dish base, kg per 100 kg: water 73.6 / NaOH 0.6": one unit, said first.
_INLINE = re.compile(
    r"(?P<head>[^\n:]*?(?P<unit>%|\b(?:per ?cent|percent|mL|ml|g|kg|parts?|grams?)\b)[^\n:/]*?)"
    r"\s*(?:[:/])\s(?P<rest>.+)"
)
_ITEM = re.compile(rf"(?P<name>.*?[^\W\d_%)].*?|.*?%)\s+(?P<number>{_NUMBER})")
#: "1+1+8 - bleach + spirits of salts + water": how many parts, before their names.
_RATIO = re.compile(
    r"(?P<parts>\d+(?:\s?\+\s?\d+)+)\s*[-–—,:]\s*(?P<names>(?!\d)[^\n.]*?\S\s*(?:\+|,|and|:)\s*[^\n.]*)"
)
#: What both hold, and few lines of prose.
_OF_PARTS = re.compile(r"\d\s?[+:]\s?\d")
_NAMES_FIRST = re.compile(
    r"(?P<names>[^\n.,=]*?\S\s*(?:\+|:)\s*[^\n,=:]*?)"
    r"(?:\s*[,=]\s*(?P<parts>\d+(?:\s?\+\s?\d+)+)|\s*=\s*(?P<equal>\d+(?:\s?:\s?\d+)+))"
)
_STRENGTHS = re.compile(r".*\b(?:strength|conc\w*|grade|purity)\b.*", re.IGNORECASE)
_SIZE = re.compile(rf".*?\b((?:{_NUMBER}) ?(?:mL|ml|l|L|kg|g))\b.*")
_DITTO = re.compile(rf"({_NUMBER})\s*(?:[\"”„]|\bdo\b\.?|-ʺ-)")
_MOST_CELLS = 9
#: A line longer than this is prose, and holds no table.
_LONGEST_LINE = 300


@dataclass(frozen=True, slots=True)
class _Cell:
    """A cell from ``start`` to ``end`` of the text."""

    text: str
    start: int
    end: int


def in_plain_lines(given: str) -> PlainText | None:
    """A text with its tables written as plain lines; None where it holds none.

    >>> table = "Ingredient;Amount;Unit\\nEthanol 96 %;833,3;mL\\nWasser;ad 1000;mL"
    >>> print(in_plain_lines(table).text.strip())
    833.3 mL Ethanol 96 %
    Wasser up to 1000 mL
    """
    lines = _lines(given)
    out = PlainText()
    found = False
    written, slipped = without_slips(given)
    if slipped:
        out.slips = frozenset(at for at, (one, other) in enumerate(zip(given, written, strict=True)) if one != other)
    given = written
    at = 0
    while at < len(lines):
        table, after = _table(given, lines, at)
        if table is not None:
            table.write(out)
            found, at = True, after
            continue
        start, end = lines[at]
        if _one_line(out, given, start, end):
            found = True
        else:
            out.put(given[start:end], start, end)
            out.put("\n", end, end + 1) if at + 1 < len(lines) else None
        at += 1
    return out if found or slipped else None


def _lines(given: str) -> list[tuple[int, int]]:
    found, start = [], 0
    for line in given.split("\n"):
        found.append((start, start + len(line)))
        start += len(line) + 1
    return found


_BULLET = re.compile(r"[ \t]*[-–*•·▪][ \t]+")


def _cells(given: str, start: int, end: int, sign: str) -> list[_Cell]:
    """The cells of a row, trimmed; by a sign, or by wide gaps where it is empty."""
    cuts = [
        (m.start(), m.end()) for m in (_GAP if not sign else re.compile(re.escape(sign))).finditer(given, start, end)
    ]
    bullet = _BULLET.match(given, start, end)
    edges = [(start, bullet.end() if bullet is not None and sign == "," else start), *cuts, (end, end)]
    found = []
    for (_, first), (last, _) in pairwise(edges):
        text = given[first:last]
        left = len(text) - len(text.lstrip())
        found.append(_Cell(text.strip(), first + left, first + left + len(text.strip())))
    if sign == "|":
        framed = given[start:end].strip()
        found = found[1:] if framed.startswith("|") else found
        found = found[:-1] if framed.endswith("|") else found
    elif not sign:
        found = [cell for cell in found if cell.text]
        for at in range(len(found) - 1, 0, -1):
            if found[at].text in ('"', "”", "„"):  # as above: it belongs to the figure before it
                before = found[at - 1]
                found[at - 1 : at + 1] = [_Cell(f"{before.text} {found[at].text}", before.start, found[at].end)]
    return found


def _are_sentences(rows: Sequence[Sequence[_Cell]]) -> bool:
    """True for "salt, 15 g" above "vinegar, 5 %, 110 g": one place holds a strength here and an amount there."""
    second = [row[1].text for row in rows if _is_amount(row[1].text)]
    return any("%" in told for told in second) and any(_unit_in(told) and "%" not in told for told in second)


def _table(given: str, lines: Sequence[tuple[int, int]], at: int) -> tuple["_Table | None", int]:
    """The table that begins at a line, and the line behind it; None where none does."""
    above = given[lines[at - 1][0] : lines[at - 1][1]] if at else ""
    first = given[slice(*lines[at])]
    for sign in ("|", "\t", ";", ",", ""):
        if sign not in first:
            continue
        rows: list[list[_Cell]] = []
        after = at
        while after < len(lines):
            start, end = lines[after]
            if _RULE.fullmatch(given, start, end) and rows and given[start:end].strip():
                after += 1
                continue
            cells = _cells(given, start, end, sign)
            if not 2 <= len(cells) <= _MOST_CELLS:
                break
            if sign == "," and not _goes_on(given, lines, after, cells, rows):
                break
            rows.append(cells)
            after += 1
        table = _Table.of(rows, above, given) if sign != "," or not _are_sentences(rows) else None
        if table is not None:
            return table, after
    return None, at


def _goes_on(
    given: str, lines: Sequence[tuple[int, int]], at: int, cells: Sequence[_Cell], rows: Sequence[Sequence[_Cell]]
) -> bool:
    """True for a row between commas: as long as those above, and not prose, where a space is behind each comma."""
    if len(cells) < 3 or (rows and len(cells) != len(rows[0])):
        return False
    if ", " not in given[slice(*lines[at])] or _figures_behind(cells):
        return True
    below = _cells(given, *lines[at + 1], ",") if not rows and at + 1 < len(lines) else []
    return len(below) == len(cells) and _figures_behind(below)  # its heading


def _figures_behind(cells: Sequence[_Cell]) -> bool:
    return all(_is_amount(cell.text) for cell in cells[1:])


def _is_amount(text: str) -> bool:
    """True for a cell that says how much, so that its row names no columns: "1 kg 200 g", "to 1 L"."""
    return _is_figure(text) or _TOPPED.fullmatch(text) is not None or _AMOUNTS.fullmatch(text) is not None


def _is_figure(text: str) -> bool:
    if _DITTO.fullmatch(text):
        return True
    found = _FIGURE.fullmatch(text)
    return found is not None and (found[2] is None or _UNIT.fullmatch(found[2].rstrip(".")) is not None)


@dataclass
class _Table:
    """The rows of a table, and which columns hold what."""

    rows: list[list[_Cell]]
    name: int
    amount: int
    unit: int | None
    head_unit: str
    comma: bool
    unit_above: str = ""
    strength: int | None = None
    size: _Cell | None = None
    head: list[_Cell] = field(default_factory=list)
    how: int | None = None

    @classmethod
    def of(cls, rows: list[list[_Cell]], above: str, given: str) -> "_Table | None":
        """The table these rows are, below a line of a text; None where their cells do not say which column is what."""
        if not rows:
            return None
        heading = _WHAT.fullmatch(rows[0][0].text) or not any(_is_amount(cell.text) for cell in rows[0])
        head = rows[0] if len(rows) > 1 and heading else None  # sizes stand in a heading too
        body = rows[1:] if head else rows
        if not body or (len(body) < 2 and not (head and len(body[0]) == len(head))):
            return None
        if head and len(body) == 1:
            return cls._lying(head, body[0])
        wide = max(len(row) for row in body)
        columns = [[row[i].text if i < len(row) else "" for row in body] for i in range(wide)]
        heads = [head[i].text if head and i < len(head) else "" for i in range(wide)]
        if head and len(head) == wide - 1:  # an empty first heading was taken for a margin
            heads = ["", *heads[:-1]]
        figures = [i for i in range(wide) if _mostly(columns[i], _is_amount)]
        units = [i for i in range(wide) if _mostly(columns[i], lambda t: bool(_UNIT.fullmatch(t)))]
        named = [i for i in range(wide) if i not in figures and i not in units]
        figures = [i for i in figures if not _counts_up(columns[i]) and not _NO_AMOUNTS.fullmatch(heads[i])]
        named = [i for i in named if not (heads[i] and _NO_AMOUNTS.fullmatch(heads[i]))] or named
        if not figures or not named:
            return None
        strengths = [i for i in range(wide) if _STRENGTHS.fullmatch(heads[i])]
        strengths = strengths or [i for i in figures if not heads[i] and _are_strengths(columns, i, figures)]
        figures = [i for i in figures if i not in strengths]
        named = [i for i in named if i not in strengths]
        if not figures or not named:
            return None
        name = max(named, key=lambda i: (*_names_something(heads[i], columns[i]), -i))
        how = next((i for i in range(wide) if _HOW.fullmatch(heads[i]) and i not in (name, *figures)), None)
        own = {i for i in figures if any(_unit_in(t) for t in columns[i])}
        amount = min(
            figures, key=lambda i: (_is_share(heads[i], columns[i]), i not in own and not _UNIT.search(heads[i]), i)
        )
        made = {re.sub(r"\s", "", one["size"]).lower() for one in _MADE.finditer(given)}
        amount = next((i for i in sorted(own) if re.sub(r"\s", "", heads[i]).lower() in made), amount)
        if not head and wide > len(("name", "share")) and all("%" in told for told in columns[amount] if told):
            return None  # "bleach, 5 %, two cups": the amounts are told in words
        unit = units[0] if units and amount not in own else None
        said = _UNIT.search(heads[amount]) or (
            _UNIT.search(above)
            if amount not in own and not re.search(r"\d ?\w", above.rsplit("(", maxsplit=1)[-1])
            else None
        )
        head_unit = said.group() if said else ""
        if not head_unit and unit is None and amount not in own:
            return None
        words = " ".join(columns[amount])
        comma = (
            re.search(r"\d,\d", words) is not None
            and not re.search(r"\d,\d{3}\.", words)
            and "." not in re.sub(r"[^\d.,]", "", words)
        )
        sized = len([i for i in own if _SIZE.fullmatch(heads[i])]) >= 2
        size = head[amount if len(head) == wide else amount - 1] if head and sized else None
        column = strengths[0] if strengths else None
        return cls(body, name, amount, unit, head_unit, comma, strength=column, size=size, head=head or [], how=how)

    @classmethod
    def _lying(cls, names: list[_Cell], amounts: list[_Cell]) -> "_Table | None":
        """A table on its side: the names in one row, the amounts in the one beneath."""
        if len(names) != len(amounts) or not all(
            _unit_in(cell.text) or _TOPPED.fullmatch(cell.text) for cell in amounts
        ):
            return None
        rows = [[name, amount] for name, amount in zip(names, amounts, strict=True)]
        return cls(rows, 0, 1, None, "", comma=False)

    def write(self, out: PlainText) -> None:
        """The rows as plain lines; of the other columns what names a danger is read, the rest kept as left out."""
        if self.size is not None and (found := _SIZE.fullmatch(self.size.text)) is not None:
            out.put(f"Makes {found[1]}\n", self.size.start, self.size.end)
        self._leave(out, self.head)
        for row in self.rows:
            written = self._write_row(out, row)
            out.put("\n")
            self._leave(out, [cell for at, cell in enumerate(row) if at not in written])

    def _leave(self, out: PlainText, cells: Sequence[_Cell]) -> None:
        """Cells that are not counted; one that names a danger is read all the same."""
        for cell in cells:
            if dangers_in(cell.text):
                self._write_as_is(out, [cell])
                out.put("\n")
            elif cell.text:
                out.left.append((cell.start, cell.end, "A column that is not counted."))

    def _write_row(self, out: PlainText, row: list[_Cell]) -> set[int]:
        """One row as a line; the columns that went into it."""
        if len(row) <= max(self.name, self.amount):
            self._write_as_is(out, row)
            return set(range(len(row)))
        name, amount = row[self.name], row[self.amount]
        with_unit = self.unit is not None and self.unit < len(row)
        unit = row[self.unit].text if self.unit is not None and with_unit else self.head_unit
        written = {self.name, self.amount} | ({self.unit} if with_unit and self.unit is not None else set())
        if not name.text or _TOTAL.fullmatch(name.text):
            own = _FIGURE.match(amount.text)
            if not name.text or not _is_figure(amount.text) or ((own and own[2]) or unit) in ("%", ""):
                return self._write_how(out, row) if not name.text and not amount.text else set()
            out.put("Total: ", name.start, name.end)
            self._write_amount(out, amount, unit)
            return written
        topped = _TOPPED.fullmatch(amount.text)
        if topped is not None:
            out.put(name.text, name.start, name.end)
            size = f"{self._plain(topped[1])} {topped[2] or unit}" if topped[1] else ""
            out.put(f" up to {size}" if size else " q.s.", amount.start, amount.end)
        elif _is_figure(amount.text):
            self._write_amount(out, amount, unit)
            out.put(" ")
            out.put(name.text, name.start, name.end)
        else:  # "1 kg 200 g" is read as it stands
            self._write_as_is(out, [name, amount])
        if self.strength is not None and any(sign.isdigit() for sign in row[self.strength].text):
            out.put(" ")
            self._write_as_is(out, [row[self.strength]])
            written.add(self.strength)
        return written | self._write_how(out, row, ", ")

    def _write_how(self, out: PlainText, row: list[_Cell], joint: str = "") -> set[int]:
        """How a thing goes in, or what is done with all of it, where a column says so."""
        if self.how is None or self.how >= len(row) or not _MANNER.search(row[self.how].text):
            return set()
        out.put(joint)
        self._write_as_is(out, [row[self.how]])
        return {self.how}

    def _write_as_is(self, out: PlainText, cells: Sequence[_Cell]) -> None:
        for cell in cells:
            out.put(cell.text, cell.start, cell.end)
            out.put(" ")

    def _write_amount(self, out: PlainText, amount: _Cell, unit: str) -> None:
        found = _FIGURE.match(amount.text)
        if found is None:
            out.put(amount.text, amount.start, amount.end)
            return
        if found[2]:
            self.unit_above = found[2]
        elif _DITTO.fullmatch(amount.text):
            unit = self.unit_above
        out.put(f"{self._plain(found[1])} {found[2] or unit}", amount.start, amount.end)

    def _plain(self, number: str) -> str:
        return number.replace(".", "").replace(",", ".") if self.comma and "," in number else number


def _names_something(heading: str, texts: Sequence[str]) -> tuple[bool, int, int]:
    """How much a column looks like that of the names: by its heading, by words of materials, by its letters."""
    known = sum(any(word in words_of_names() for word in re.findall(r"[^\W\d_]+", text.lower())) for text in texts)
    return bool(_WHAT.fullmatch(heading)), known, sum(sign.isalpha() for text in texts for sign in text)


def _mostly(texts: Sequence[str], holds: Callable[[str], object]) -> bool:
    """True where most cells of a column that say anything are so."""
    told = [text for text in texts if text]
    return len(told) >= max(1, len(texts) // 2) and sum(bool(holds(text)) for text in told) >= 0.75 * len(told)


def _counts_up(texts: Sequence[str]) -> bool:
    numbers = [int(text.rstrip(".)")) for text in texts if text.rstrip(".)").isdecimal()]
    return len(numbers) >= 2 and numbers == list(range(numbers[0], numbers[0] + len(numbers))) and numbers[0] in (0, 1)


def _unit_in(text: str) -> bool:
    found = _FIGURE.fullmatch(text)
    return found is not None and found[2] is not None and _UNIT.fullmatch(found[2].rstrip(".")) is not None


def _is_share(heading: str, texts: Sequence[str]) -> bool:
    return "%" in heading or bool(re.search(r"per ?cent", heading, re.IGNORECASE)) or all("%" in t for t in texts if t)


#: Shares of all that goes in come to a hundred, or are as the amounts are; so far off, they are strengths.
_OFF_A_HUNDRED, _OFF = 0.02, 0.15
_FEWEST_SHARES = 3


def _are_strengths(columns: Sequence[Sequence[str]], at: int, figures: Sequence[int]) -> bool:
    """True for per cents without a heading beside amounts that they are no shares of: "ethanol, 96 %, 75 ml"."""
    if not all("%" in told for told in columns[at] if told):
        return False
    per_cents = [_first_figure(told) for told in columns[at]]
    beside = [[_first_figure(told) for told in columns[i]] for i in figures if i != at]
    in_proportion = any(_alike(per_cents, amounts) for amounts in beside)
    a_hundred = len(per_cents) >= _FEWEST_SHARES and abs(sum(per_cents) / 100.0 - 1.0) <= _OFF_A_HUNDRED
    return bool(beside) and not in_proportion and not a_hundred


def _first_figure(told: str) -> float:
    found = re.search(r"\d+(?:[.,]\d+)?", told)
    return float(found.group().replace(",", ".")) if found is not None else 0.0


def _alike(per_cents: Sequence[float], amounts: Sequence[float]) -> bool:
    times = [amount / share for share, amount in zip(per_cents, amounts, strict=True) if share and amount]
    return len(times) > 1 and max(times) <= min(times) * (1.0 + _OFF)


def _one_line(out: PlainText, given: str, start: int, end: int) -> bool:
    """A line that holds a whole table: items behind slashes with one unit, or parts before their names."""
    if end - start > _LONGEST_LINE:
        return False
    found = _INLINE.fullmatch(given, start, end)
    if found is not None and " / " in found["rest"]:
        items, at = [], found.start("rest")
        for item in found["rest"].split(" / "):
            one = _ITEM.fullmatch(item.strip())
            items.append((one, item, at))
            at += len(item) + 3
        if len(items) >= 2 and all(one is not None for one, _, _ in items):
            out.put(given[start : found.end("head")], start, found.end("head"))
            for one, item, at in items:
                assert one is not None
                left = at + len(item) - len(item.lstrip())
                out.put("\n")
                out.put(f"{one['number']} {found['unit']} ", left + one.start("number"), left + one.end("number"))
                out.put(one["name"], left, left + one.end("name"))
            out.put("\n")
            return True
    if _OF_PARTS.search(given, start, end) is None:
        return False
    ratio = _RATIO.search(given, start, end) or _NAMES_FIRST.search(given, start, end)
    if ratio is None:
        return False
    counted = "equal" if ratio.groupdict().get("equal") else "parts"
    parts = [(one.group(), *one.span()) for one in re.compile(r"\d+").finditer(given, *ratio.span(counted))]
    names = [
        (one.group().strip(), one.start() + len(one.group()) - len(one.group().lstrip()), one.end())
        for one in re.compile(r"[^+,:]+").finditer(given, ratio.start("names"), ratio.end("names"))
    ]
    names = names[-len(parts) :] if ratio.start("names") < ratio.start(counted) else names
    if len(parts) != len(names) or not all(re.search(r"[^\W\d_]{2}", name) for name, _, _ in names):
        return False
    first = min(parts[0][1], names[0][1])
    out.put(given[start:first], start, first)
    for number, ((part, a, b), (name, c, d)) in enumerate(zip(parts, names, strict=True)):
        out.put(", " if number else "")
        out.put(f"{part} part{'s' if part != '1' else ''} ", a, b)
        out.put(name, c, d)
    out.put(given[ratio.end() : end], ratio.end(), end)
    out.put("\n")
    return True
