"""Reading recipe text into a tree for each sentence, by the grammar in data/recipe.lark.

Text is untrusted: its length, its lines and the length of a sentence are bounded, and markup is taken out.
"""

import html
import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from importlib import resources

from lark import Lark, Token, Tree
from lark.exceptions import LarkError

from firkin.core import datafiles
from firkin.core.catalogue import names_of_materials

MOST_CHARACTERS = 20_000
MOST_SENTENCES = 300
MOST_IN_A_SENTENCE = 400
#: Tokens looked at in one text, tries counted: a piece of an ambiguous sentence costs milliseconds.
MOST_TOKENS = 1_200

_FRACTIONS = {"half": "1/2", "quarter": "1/4", "third": "1/3", "eighth": "1/8"}
_NUM = r"(?:(?:[0-9]+[ -])?[0-9]+ ?[\/⁄] ?[0-9]+|(?:[0-9]+ ?)?[¼½¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞]|[0-9]+(?:[.,][0-9]+)*|[.,][0-9]+)"
_WIDE = str.maketrans("０１２３４５６７８９％", "0123456789%")
_TAG = re.compile(r"<(/?)\s*([a-z][a-z0-9]*)\b[^<>]{0,300}>|<!--.{0,2000}?-->", re.IGNORECASE | re.DOTALL)
_HIDDEN = re.compile(r"<(script|style)\b.{0,20000}?(?:</\1\s*>|\Z)", re.IGNORECASE | re.DOTALL)
_INLINE = frozenset({"b", "i", "em", "strong", "span", "a", "u", "small", "sup", "sub", "font"})
#: A sentence ends at a line's end, or after a full stop that is not inside a number or a short form.
_STOP = re.compile(
    r"(?<![0-9]\.)(?<!\bapprox)(?<!\bq)(?<!\bq\.s)(?<!\bfl)(?<!\boz)(?<!\bvol)(?<!\.)[.!?](?=\s+[A-ZÀ-Þ0-9]|\s*$)"
)
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


def in_figures(text: str) -> str:
    """Small letters, number words as figures, plain signs.

    >>> [in_figures(t) for t in ("Three parts", "half a cup", "one and a half cups", "1 quarter cup", "a third cup")]
    ['3 parts', '1/2 cup', '1 1/2 cups', '1/4 cup', '1/3 cup']
    """
    said = (
        re.sub(r"\bTEA\b", "triethanolamine", text)
        .lower()
        .replace("’", "'")
        .replace("⁄", "/")
        .replace("×", "x")
        .replace("−", "-")
    )
    said = said.translate(_WIDE)
    said = re.sub(r"\b([0-9]) ?c\b\.?", r"\1 cup", said)
    said = re.sub(r"\bbars? of (\w+ )?soap\b", r"bar \1bar soap", said)
    said = re.sub(r"\bper ?cent\b|\bpct\b|٪|％", "%", said)
    numbers = datafiles.toml("heard.toml")["numbers"]
    tens, ones = (
        "|".join(word for word, n in numbers.items() if n in some) for some in (range(20, 100, 10), range(1, 10))
    )
    said = re.sub(rf"\b({tens})[- ]({ones})\b", lambda m: str(numbers[m[1]] + numbers[m[2]]), said)
    said = re.sub(rf"\b(?:a )?({'|'.join(numbers)})\b", lambda m: str(numbers[m[1]]), said)
    said = re.sub(r"\b([1-9]) 100\b", r"\g<1>00", said)
    fraction = r"(half|quarter|third|eighth)s?"
    said = re.sub(r"\ba couple(?: of)?\b", "2", said)
    said = re.sub(rf"\b([0-9]+)(?: and)?(?: a| an)? {fraction}(?: of)?(?: an?)?(?= (?:UNIT))".replace("UNIT", _units()),
                  lambda m: _parts_of(m[1], m[2], "and" in m[0] or " a " in m[0]), said)  # fmt: skip
    said = re.sub(rf"\b(?:an? )?{fraction}(?: of)?(?: an?)?(?=[ -](?:UNIT))".replace("UNIT", _units()),
                  lambda m: _FRACTIONS[m[1]], said)  # fmt: skip
    said = re.sub(r"\ban? (?=(?:UNIT)(?![a-z]))".replace("UNIT", _units()), "1 ", said)
    return re.sub(r"[ \u00a0\u2009\u202f]+", " ", said)


def _parts_of(count: str, fraction: str, mixed: bool) -> str:
    """ "1 and a half" is 1 1/2, "3 quarters" is 3/4, and "1 quarter" 1/4."""
    if mixed:
        return f"{count} {_FRACTIONS[fraction]}"
    return f"{count}/{_FRACTIONS[fraction].removeprefix('1/')}"


def _without_markup(text: str) -> str:
    """Text without tags; what a page would not show is taken out whole."""
    text = _HIDDEN.sub("\n", text)
    text = _TAG.sub(lambda tag: " " if (tag[2] or "").lower() in _INLINE else "\n", text)
    return html.unescape(text).replace("\r", "\n").replace("\x00", " ")


def _sentences(text: str) -> Iterator[str]:
    for line in text.split("\n"):
        bare = _BULLET.sub("", line).strip()
        for part in _STOP.split(bare):
            if part and part.strip(" .,;!?-–—*_=#|"):
                yield part.strip()


class _Effort:
    """Reads sentences, and counts the tokens it looked at: the grammar is ambiguous, and the text is anyone's."""

    def __init__(self) -> None:
        self.left = MOST_TOKENS

    def read(self, written: str) -> Sentence:
        """The trees of one sentence: whole if the grammar takes it, or else piece by piece."""
        if len(written) > MOST_IN_A_SENTENCE:
            return Sentence(written[:80] + " …", (), (written[:80] + " …",))
        said = in_figures(written)
        whole = self._parse(said)
        if whole is not None:
            return Sentence(written, whole)
        titled = re.match(r"[^:0-9%]{2,60}: +(?=\S)", said)
        below = self._parse(said[titled.end() :]) if titled else None
        if below is not None:
            return Sentence(written, below)
        trees: list[Tree] = []  # type: ignore[type-arg]
        unread: list[str] = []
        for piece in re.split(r"\s*[;,](?![0-9])\s*|\s*[(){}\[\]]+\s*|\s+(?:and then|and|then|plus)\s+", said):
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
def _units() -> str:
    """Every spelling of every unit but per cent, the longest first, as a pattern."""
    spelt = {
        name
        for key, unit in datafiles.toml("units.toml").items()
        if key != "%"
        for name in [key.lower(), *unit["names"]]
    }
    spelt |= {name + "s" for name in spelt}
    return "|".join(re.escape(name).replace(r"\ ", " ?") for name in sorted(spelt, key=lambda name: (-len(name), name)))


class _Runs:
    """Joins a run of unknown words into one token, and drops it where it touches a material's name.

    What comes before "water" may make something else of it (pond water), so only plain words are dropped there.
    An amount in brackets says an amount over again, unless it is the only one.
    """

    always_accept = ("ALSO",)

    def process(self, stream: Iterator[Token]) -> Iterator[Token]:
        joined: list[Token] = []
        for token in stream:
            last = joined[-1] if joined else None
            if token.type == "ALSO":
                if last is None or last.type != "AMOUNT":
                    amount = re.sub(r"\((?:or |about |approx\.? |= ?)?", "", token)
                    joined.append(Token("AMOUNT", amount.rstrip(")")))
            elif last is None or last.type != "WORDS":
                joined.append(token)
            elif token.type == "WORDS" or (str(token) == "water" and not set(last.split()) <= _plain_water()):
                joined[-1] = last.update(value=f"{last} {token}")
            else:
                joined.append(token)
        for i, token in enumerate(joined):
            around = joined[max(0, i - 1) : i] + joined[i + 1 : i + 2]
            if token.type != "WORDS" or all(near.type != "MATERIAL" for near in around):
                yield token


@cache
def _plain_water() -> frozenset[str]:
    return frozenset(datafiles.toml("heard.toml")["plain_water"])


@cache
def _parser() -> Lark:
    heard = datafiles.toml("heard.toml")
    known = {*names_of_materials(), *heard["spirits"], *heard["unnamed"], *heard["unfit"]} - {"tea", "teas"} | {"soap"}
    something_else = "|".join(heard["something_else"])
    names = sorted(known, key=lambda name: (-len(name), name))
    materials = "|".join(re.escape(name).replace(r"\ ", "[ -]").replace("/", r"\/") for name in names)
    grammar = resources.files("firkin.core").joinpath("data", "recipe.lark").read_text("utf-8")
    grammar = grammar.replace("UNIT", _units().replace("/", r"\/")).replace("NUM", _NUM)
    grammar += f"\nMATERIAL.9: /(?<![a-z])(?:{materials})(?![a-z])(?! (?:{something_else})\\b)/\n"
    return Lark(
        grammar, parser="earley", lexer="basic", postlex=_Runs(), maybe_placeholders=False, propagate_positions=True
    )
