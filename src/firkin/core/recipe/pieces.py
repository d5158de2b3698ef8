"""Pieces: the spans of a sentence with what each does there, as letters that patterns are matched against."""

import re
from dataclasses import replace

from firkin.core.catalogue import Material
from firkin.core.measures import Quantity
from firkin.core.recipe.figures import compose
from firkin.core.recipe.household import in_household
from firkin.core.recipe.layout import Sentence
from firkin.core.recipe.names import named
from firkin.core.recipe.said import Amount, Percent
from firkin.core.recipe.spans import Phrases, Span, spans_of

#: The letter of each kind; kinds that are not here say nothing.
LETTERS = {
    "amount": "A", "strength": "S", "bare": "N", "share": "F", "ratio": "R", "time": "T", "heat_at": "H", "ph": "H",
    "money": "$", "loads": "L", "portions": "T", "each_load": "l", "dose": "D", "container": "K", "containers": "J",
    "holds": "O", "unknown": "W", "product": "P", "makes": "g", "batch": "B", "is": "b", "recap": "y", "have": "h",
    "instead": "j", "kills": "k", "not": "x", "but": "!", "top_up": "u", "rest": "r", "qs": "q", "mark": "m",
    "equal": "e", "each_of": "E", "add": "d", "heat": "X", "wait": "Z", "cut": "C", "trial": "Y", "who": "G",
    "comma": ",", "colon": ":", "cell": "|", "open": "(", "close": ")", "plus": "+", "and": "&", "of": "o",
    "to": "t", "with": "w", "in": "i", "at": "@", "for": "f", "per": "p", "slash": "/", "unit": "U", "unclear": "v",
    "if": "c",
}  # fmt: skip
TAKEN = "_"
MOST_PARTS = 20.0
#: "Formula (%): ...", "in grams: ...": what the bare numbers behind it are counted in.
_COUNTED_IN = re.compile(
    r"[^:\d]*?(%|\bpercent\b|\bgrams?\b|\bg\b|\bml\b)[^:\d\w]*(?:by weight|by volume|w/w|v/v)?[)\s]*:",
    re.IGNORECASE,
)
_OF_IT = re.compile(
    r"\s+(?:of|from) (?:(?:it|them)\b|(?:that|this|those|these)"
    r"(?=\s*(?:[,.;:)]|$|(?:and|then|in|into|to|with|per|for)\b)))",
    re.IGNORECASE,
)


#: Three names or more with a bare number each; and such a list of which the last has a unit or a per cent.
_IN_PARTS = re.compile(r"[^MQ]*(?:[MQ][:b=]?N[,&+|]*){3,}")
_UNIT_AT_THE_LAST = re.compile(r"[WP:]*((?:[MQ][:b]?N[,&]*)+)[MQ][:b]?([SA])")


class Pieces:
    """The pieces of one sentence; a piece that was given its meaning is taken."""

    def __init__(
        self, sentence: Sentence, plain: str, written: str, whose: str, own: tuple[Material, ...], names: Phrases
    ) -> None:
        self.sentence, self.written = sentence, written
        spans = spans_of(plain, written, sentence.start, sentence.end, names)
        spans = _with_cells(spans, sentence)
        spans = named(compose(_with_whats(spans), written, whose), written, own)
        self._plausible: tuple[str, frozenset[int]] | None = None
        self.everything = _with_containers(spans)
        coded = [(span, letter) for span in self.everything if (letter := _letter(span, sentence))]
        self.spans = [span for span, _ in coded]
        self.letters = "".join(letter for _, letter in coded)
        self._pronouns()
        self._roles()
        self._joint_context()
        self._give_units(whose)
        self.said = self.letters  # as it was before anything was taken

    def _pronouns(self) -> None:
        """ "200 g of it": an amount of what was named before."""
        for at, span in enumerate(self.spans):
            if self.letters[at] == "A" and _OF_IT.match(self.written, span.end):
                self._replace(at, "I")

    def _roles(self) -> None:
        """ "The preservative, phenoxyethanol" is one: a word for what a thing does, beside the thing."""
        roles = {role for span in self.spans if span.kind == "named" for role in span.value.material.roles}
        for at, span in enumerate(self.spans):
            if self.letters[at] == "Q" and span.value.words.rstrip("s") in roles:
                self._replace(at, TAKEN)
        for found in re.finditer(
            r"(?<![AS])M(?=[:,(]A?o?(?P<other>M))", self.letters
        ):  # "the scent: 10 ml of lavender oil"
            other = self.spans[found.start("other")].value.material
            if self.spans[found.start()].value.material.id == "fragrance" and "essential-oil" in other.roles:
                self._replace(found.start(), TAKEN)

    def _joint_context(self) -> None:
        """What a word does beside its neighbours: "each" behind an amount is of a load, "rest" may be a wait."""
        letters = list(self.letters)
        for at, span in enumerate(self.spans):
            before = letters[at - 1] if at else ""
            after = letters[at + 1] if at + 1 < len(letters) else ""
            if span.may_be("each_load") and letters[at] in "pl":
                if before in "A$LMQP" and (letters[at] == "l" or after in ("", ",", ")", ".", "&")):
                    letters[at] = "l"
                elif span.kind == "per" or span.text == "each":
                    letters[at] = "p"
            elif (
                letters[at] == "r"
                and span.text in ("rest", "remaining", "balance", "remainder")
                and before not in "&,+w:|(ugd"
                and before
            ):
                letters[at] = "Z" if after not in "wobMQ" or not after else "r"
        self.letters = "".join(letters)

    def _give_units(self, whose: str) -> None:
        """Bare numbers that a column, a neighbouring cell or the end of a list says the unit of."""
        for found in re.finditer(r"N\|U", self.letters):
            at = found.start()
            unit, many = self.spans[at + 2].as_("unit")
            self._measure(at, unit, many, whose)
            self._replace(at + 2, TAKEN)
        if self.sentence.unit and not self.sentence.header:
            last = self.letters.rfind("N")
            if last >= 0 and "A" not in self.letters:
                self._measure_in(last, self.sentence.unit, whose)
        said = self.written[self.sentence.start : self.sentence.end]
        ahead = _COUNTED_IN.match(said) if ":" in said else None
        if ahead is not None:
            for at in self._bare():
                if self.letters[at + 1 : at + 2] not in ("N", "S"):
                    self._measure_in(at, ahead[1].lower(), whose)
        heading = re.match(r"[^MQ]*?U[^MQAN]*:", self.letters) if ":" in self.letters else None
        parts = _IN_PARTS.fullmatch(self.letters) if "N" in self.letters else None
        if heading or parts:
            unit, many = self.spans[self.letters.index("U")].as_("unit") if heading else ("part", 1.0)
            for at in self._bare():
                if heading or self.spans[at].value <= MOST_PARTS:
                    self._measure(at, unit, many, whose)
        self._units_of_the_last(whose)

    def _units_of_the_last(self, whose: str) -> None:
        """ "Water 700, vinegar 200 and castile 100 mL": what the last of a list is measured in holds for all."""
        listed = _UNIT_AT_THE_LAST.fullmatch(self.letters) if "N" in self.letters else None
        if not listed:
            return
        last = listed.start(2)
        for at in range(listed.start(1), listed.end(1)):
            if listed.string[at] != "N":
                continue
            if listed[2] == "S":
                number = self.spans[at].value
                self._put(at, "S", replace(self.spans[at], kind="strength", value=Percent(number, number)))
            elif self.spans[last].value.quantity is not None:
                self._measure(at, self.spans[last].value.quantity.unit, 1.0, whose)

    def _bare(self) -> list[int]:
        """The places of bare numbers, as they are now."""
        return [at for at, letter in enumerate(self.letters) if letter == "N"]

    def _measure_in(self, at: int, unit: str, whose: str) -> None:
        number = self.spans[at].value
        if "%" in unit:
            self._put(at, "S", replace(self.spans[at], kind="strength", value=Percent(number, number)))
            return
        from firkin.core.measures import read_unit

        key, many = read_unit(unit)
        self._measure(at, key, many, whose)

    def _measure(self, at: int, unit: str, many: float, whose: str) -> None:
        number = self.spans[at].value
        quantity = in_household(Quantity(number * many, unit), whose) if number > 0 else None
        self._put(at, "A", replace(self.spans[at], kind="amount", value=Amount(quantity, self.spans[at].text)))

    def _put(self, at: int, letter: str, span: Span) -> None:
        self.spans[at] = span
        self._replace(at, letter)

    def _replace(self, at: int, letter: str) -> None:
        self.letters = self.letters[:at] + letter + self.letters[at + 1 :]

    def take(self, *places: int) -> None:
        """Take pieces: they have their meaning, and no pattern meets them again."""
        for at in places:
            self._replace(at, TAKEN)

    def put(self, at: int, letter: str, value: object) -> None:
        """Give a piece another letter and value."""
        self._put(at, letter, replace(self.spans[at], value=value))

    def plausible(self) -> frozenset[int]:
        """Places of bare numbers that can be the strength of the name they follow, as 70 in "SLES 70"."""
        if self._plausible is not None and self._plausible[0] == self.letters:
            return self._plausible[1]
        found = set()
        for at, letter in enumerate(self.letters):
            if letter != "N":
                continue
            beside = [
                place for place in (at - 1, at + 1) if 0 <= place < len(self.letters) and self.letters[place] == "M"
            ]
            if any(is_grade(self.spans[place].value.material, self.spans[at].value) for place in beside):
                found.add(at)
        self._plausible = (self.letters, frozenset(found))
        return self._plausible[1]


#: Up to here, in %, peroxide is sold in any strength.
_WEAK = 13.0


def is_grade(material: Material, number: float) -> bool:
    """True where a bare number can be the strength it is sold in; a fatty acid or glycerol is not written as that.

    "Peroxide 42" is more likely 42 mL of it: strong peroxide comes as 30, 35 and 50 %.

    >>> from firkin.core.catalogue import find
    >>> is_grade(find("hydrogen-peroxide"), 35.0), is_grade(find("hydrogen-peroxide"), 42.0)
    (True, False)
    """
    odd = "oxidiser" in material.roles and number > _WEAK and number % 5 != 0
    return material.sold_as(number) and not odd


def _with_cells(spans: list[Span], sentence: Sentence) -> list[Span]:
    """The spans with the ends of columns between them."""
    if not sentence.cells:
        return spans
    ends = frozenset(sentence.cells)
    kept = [span for span in spans if not (span.start in ends and span.text in (",", "|"))]
    kept += [Span(at, at + 1, "cell", "|") for at in sentence.cells if sentence.start < at < sentence.end]
    return sorted(kept, key=lambda span: span.start)


def _with_whats(spans: list[Span]) -> list[Span]:
    """Leaders are colons: "ethanol ..... 833 mL"."""
    out = []
    for at, span in enumerate(spans):
        leader = span.kind == "sign" and (span.text == "…" or (len(span.text) > 1 and span.text[0] in ".-"))
        between = 0 < at < len(spans) - 1 and spans[at - 1].kind == spans[at + 1].kind == "figure"
        lone = (
            span.text == "-"
            and not between
            and at
            and spans[at - 1].end < span.start
            and (at + 1 == len(spans) or spans[at + 1].start > span.end)
        )
        out.append(replace(span, kind="colon", text=":") if leader or lone else span)
    return out


def _with_containers(spans: list[Span]) -> list[Span]:
    """Containers with what they are made of: their value says whether that is glass."""
    out: list[Span] = []
    for span in spans:
        if span.kind in ("container", "containers"):
            glass = False
            start = span.start
            while out and (
                out[-1].may_be("made_of") or (out[-1].kind == "plain" and out[-1].text in ("screw-top", "clear"))
            ):
                glass = glass or out[-1].text == "glass"
                start = out[-1].start
                out.pop()
            out.append(replace(span, start=start, value=glass))
            continue
        out.append(span)
    return out


def _letter(span: Span, sentence: Sentence) -> str:
    if span.kind in ("loads", "time", "portions", "degree") and isinstance(span.value, str):
        return ""  # the word alone
    if span.kind == "word" or ("'" in span.text and span.kind == "unknown"):
        return ""
    if span.kind == "named":
        return "Q" if span.value.ware else "M"
    if span.text == "/":
        return "/"
    if span.kind == "colon":
        return {"=": "=", "|": "|", "@": "@", "~": ""}.get(span.text, ":")
    return LETTERS.get(span.kind, "")
