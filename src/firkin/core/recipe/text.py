"""Reading recipe text into a tree for each sentence, by the grammar in recipe.lark.

Text is untrusted: its length, its lines and the length of a sentence are bounded, and markup is taken out.
"""

import html
import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

from lark import Lark, Tree
from lark.exceptions import LarkError

from firkin.core import datafiles
from firkin.core.catalogue import alcohol_names, names_of_materials
from firkin.core.recipe.tokens import Runs
from firkin.core.recipe.wording import NUM, in_figures, units_pattern

MOST_CHARACTERS = 20_000
MOST_SENTENCES = 300
MOST_IN_A_SENTENCE = 400
#: Tokens looked at in one text, tries counted: a piece of an ambiguous sentence costs milliseconds.
MOST_TOKENS = 1_200

_TAG = re.compile(r"<(/?)\s*([a-z][a-z0-9]*)\b[^<>]{0,300}>|<!--.{0,2000}?-->", re.IGNORECASE | re.DOTALL)
_HIDDEN = re.compile(r"<(script|style)\b.{0,20000}?(?:</\1\s*>|\Z)", re.IGNORECASE | re.DOTALL)
_INLINE = frozenset({"b", "i", "em", "strong", "span", "a", "u", "small", "sup", "sub", "font"})
_SHORT = (
    "approx",
    "q",
    "q.s",
    "fl",
    "oz",
    "vol",
    "tsp",
    "tbsp",
    "tbs",
    "c",
    "pt",
    "qt",
    "gal",
    "lb",
    "lbs",
    "ca",
    "e.g",
)
_SHORT_UNITS = ("g", "kg", "ml", "mL", "l", "L", "cl", "dl")
#: A sentence ends at a line's end, or after a full stop that is not inside a number or a short form.
_NOT_SHORT = "".join(rf"(?<!\b{re.escape(word)})" for short in _SHORT for word in {short, short.capitalize()})
_NOT_UNIT = "".join(rf"(?<!\b{unit})" for unit in _SHORT_UNITS)
_STOP = re.compile(
    rf"(?<![0-9]\.){_NOT_SHORT}(?<!\.)(?:[.!?](?=\s+[A-ZÀ-Þ0-9]|\s*$)|{_NOT_UNIT}[.!?](?=\s+[^\W_]))"
    r"|[.](?=\s+(?i:this|it|then|mix|stir|add|shake|pour|put|makes?|yields?|costs?)\b)"
)
#: What not to do is no line of a recipe: "do not add more than 1 cup of water".
_NOT = r"\b(?:do not|don't|never|avoid)\b"
_AGAINST = re.compile(
    rf"^(?:please |but |and |so |also )*(?:{_NOT}|(?:if|when|unless) [^,]*, (?:then |please )?{_NOT})"
)
_NUMBERED = re.compile(r"\s*\(?1[.)]\s.*\s\(?2[.)]\s+[A-Za-z]")
_NUMBER = re.compile(r"(?:^|(?<=\s))\(?[0-9]{1,2}[.)]\s+(?=[A-Za-z])")
_BULLET = re.compile(r"^\s*(?:[-–—*•·▪◦‣>]+\s+|\(?[0-9]{1,2}[.)]\s+(?=\D|[0-9]))")


@dataclass(frozen=True, slots=True)
class Sentence:
    """One sentence as written, and the trees of what was read of it; ``unread`` is what was not."""

    text: str
    trees: tuple[Tree, ...]  # type: ignore[type-arg]
    unread: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Reading:
    """All sentences, and what was left out unseen because the text was too long."""

    sentences: tuple[Sentence, ...]
    left_out: str = ""


def read_sentences(text: str) -> Reading:
    """Read a pasted text sentence by sentence, as far as the bounds allow.

    >>> reading = read_sentences("3 parts 70% rubbing alcohol to 1 part aloe vera gel, makes 70%")
    >>> [str(tree.data) for tree in reading.sentences[0].trees]
    ['proportion', 'makes']
    """
    left_out = ""
    if len(text) > MOST_CHARACTERS:
        left_out = f"Only the first {MOST_CHARACTERS} characters are read; the text has {len(text)}."
        text = text[:MOST_CHARACTERS]
    sentences: list[Sentence] = []
    effort = _Effort()
    for written in _sentences(_without_markup(text)):
        if len(sentences) == MOST_SENTENCES:
            left_out = f"Only the first {MOST_SENTENCES} sentences are read."
            break
        sentences.append(effort.read(written))
        if effort.left < 0:
            left_out = f"Only the first {len(sentences)} sentences are read: they are long ones."
            break
    return Reading(tuple(sentences), left_out)


def _without_markup(text: str) -> str:
    """Text without tags; what a page would not show is taken out whole."""
    text = _HIDDEN.sub("\n", text)
    text = _TAG.sub(lambda tag: " " if (tag[2] or "").lower() in _INLINE else "\n", text)
    return html.unescape(text).replace("\r", "\n").replace("\x00", " ")


def _sentences(text: str) -> Iterator[str]:
    for line in text.split("\n"):
        if _NUMBERED.match(line):  # "1. Pour it in 2. Stir"
            yield from _sentences(_NUMBER.sub("\n", line))
            continue
        bare = _BULLET.sub("", line).strip()
        for part in _STOP.split(bare):
            if part and part.strip(" .,;!?-–—*_=#|"):
                yield part.strip()


_PIECES = re.compile(r"\s*[;,](?![0-9])\s*|\s*[(){}\[\]]+\s*|\s+(?:and then|and|then|plus|but|so|because)\s+")


class _Effort:
    """Reads sentences, and counts the tokens it looked at: the grammar is ambiguous, and the text is anyone's."""

    def __init__(self) -> None:
        self.left = MOST_TOKENS

    def read(self, written: str) -> Sentence:
        """The trees of one sentence: whole if the grammar takes it, or else piece by piece."""
        if len(written) > MOST_IN_A_SENTENCE:
            return Sentence(written[:80] + " …", (), (written[:80] + " …",))
        said = in_figures(written)
        if _AGAINST.search(said):
            return Sentence(written, (Tree("remark", []),))
        whole = self._parse(said)
        if whole is not None:
            return Sentence(written, whole)
        titled = re.match(r"[^:]{2,60}: +(?=\S)", said)
        below = self._parse(said[titled.end() :]) if titled else None
        if titled and below is not None:
            return Sentence(written, below, (titled[0].strip(" :"),) if re.search("[0-9]", titled[0]) else ())
        trees: list[Tree] = []  # type: ignore[type-arg]
        unread: list[str] = []
        for piece in _PIECES.split(said):
            read = self._parse(piece) if piece.strip() else ()
            if read is None:
                unread.append(piece.strip())
            else:
                trees += read
        return Sentence(written, tuple(trees), tuple(unread))

    def _parse(self, said: str) -> tuple[Tree, ...] | None:  # type: ignore[type-arg]
        try:
            tokens = sum(1 for _ in _parser().lex(said))
            self.left -= tokens
            if not tokens:
                return (Tree("remark", []),)
            return tuple(_parser().parse(said).children)  # type: ignore[arg-type]
        except LarkError:
            return None


@cache
def _parser() -> Lark:
    heard = datafiles.toml("recipe/heard.toml")
    names = alcohol_names()
    known = {*names_of_materials(), *names.spirits, *names.unnamed, *names.unfit} - {"tea", "teas"} | {"soap"}
    something_else = "|".join(heard["something_else"])
    longest_first = sorted(known, key=lambda name: (-len(name), name))
    materials = "|".join(re.escape(name).replace(r"\ ", "[ -]").replace("/", r"\/") for name in longest_first)
    grammar = datafiles.text("recipe/recipe.lark")
    grammar = grammar.replace("UNIT", units_pattern().replace("/", r"\/")).replace("NUM", NUM)
    grammar += f"\nMATERIAL.9: /(?<![a-z])(?:{materials})(?![a-z])(?! (?:{something_else})\\b)/\n"
    return Lark(
        grammar, parser="earley", lexer="basic", postlex=Runs(), maybe_placeholders=False, propagate_positions=True
    )
