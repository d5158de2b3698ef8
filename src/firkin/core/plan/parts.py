"""A line that goes in by parts: half now and half later, some of it kept back, the rest of it at the end."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from firkin.core.errors import CannotRead
from firkin.core.measures import Quantity, read_quantity
from firkin.core.plan.mentions import Ingredient, Mention
from firkin.core.plan.numbers import number_of

#: What the parts of a line may miss of the whole where each was told for itself: "60 g, and the other 40".
_NEAR = 0.015
_SHARES = {
    "half": 1 / 2, "a half": 1 / 2, "one half": 1 / 2, "the first half": 1 / 2, "a third": 1 / 3, "one third": 1 / 3,
    "two thirds": 2 / 3, "a quarter": 1 / 4, "one quarter": 1 / 4, "three quarters": 3 / 4, "a fifth": 1 / 5,
    "a tenth": 1 / 10, "nine tenths": 9 / 10, "four fifths": 4 / 5, "the first third": 1 / 3, "¾": 3 / 4, "½": 1 / 2,
    "⅓": 1 / 3, "⅔": 2 / 3, "¼": 1 / 4, "1/2": 1 / 2, "1/3": 1 / 3, "2/3": 2 / 3, "1/4": 1 / 4, "3/4": 3 / 4,
}  # fmt: skip
_SHARE = "|".join(sorted((re.escape(word) for word in _SHARES), key=len, reverse=True))
_UNIT = (
    r"(?:ml|cl|l|lit(?:re|er)s?|g|grams?|kg|oz|ounces?|cup(?:ful)?s?|pints?|quarts?|gallons?|gal|tbsp|tsp"
    r"|spoon(?:ful)?s?)"
)
_ONES = "one|two|three|four|five|six|eight|ten"
_COUNT = rf"(?:\d+(?:[.,]\d+)?|½|¼|¾|half an?|an?|{_ONES}|twenty|fifty|(?:(?:a|{_ONES}) )?hundred)"
_AMOUNT = rf"(?P<count>{_COUNT})\s*(?P<unit>{_UNIT})\b"
_THE = r"(?:the|your|my|its|that|this|their)"
_HOW_IT_IS = r"(?:hot|cold|warm|cool|boiled|boiling|cooled|distilled|clean|fresh)"
_SOME_OF = r"half|third|quarter|two thirds"
_REST = (
    rf"(?:all )?(?:(?:{_THE} )?(?:rest|remainder|balance|remaining(?: (?:{_SOME_OF}|{_COUNT}\s*{_UNIT}))?"
    rf"|(?:other|second|last) (?:{_SOME_OF}|(?:{_COUNT}\s*)?{_UNIT}|(?:\w+ )?hundred)"
    rf"|(?:the|that) (?:half |{_COUNT} ?)?{_UNIT} that(?:.s| is) left)|what(?:.s| is) left)"
)
_KEPT = rf"(?:{_THE} )?(?:kept[- ]back|held[- ]back|reserved|saved|set[- ]aside|put[- ]by)"
#: A part before the name of what it is of: "half the", "300 g of your hot", "the remaining".
_BEFORE = re.compile(
    rf"(?<![\w/.,-])(?:(?P<kept>{_KEPT})|(?P<rest>{_REST})"
    rf"|(?:about |roughly |some |only )?(?:(?P<share>{_SHARE})(?! an? )|{_AMOUNT}))"
    rf"(?:\s+of)?(?:\s+{_THE})?(?:\s+{_HOW_IT_IS}){{0,2}}\s+$"
)
_LONGEST = 60
#: A part before the amount of the whole: "half of 4 L water goes in the pot".
_OF_THE_WHOLE = re.compile(rf"(?<![\w/.,-])(?P<share>{_SHARE}) of (?:the |your |my )?$")
#: "The water you kept", behind a name.
_YOU_KEPT = (
    r"\s+(?:that |which )?(?:you|i|we)(?:.ve| have|.d)? "
    r"(?:kept|held|saved|left|reserved|(?:put|set) (?:by|aside|back|away|to one side))\b"
)
_BEHIND = re.compile(rf"{_YOU_KEPT}|\s+(?:kept|held|put|set) (?:back|by|aside)\b")
#: "The water that remains".
_REMAINS = re.compile(r"\s+(?:(?:that|which) (?:remains|is left|.s left)|left(?: over)?\b|remaining)\b")
#: A part that names nothing: "the other half", "the hundred I kept", "what is left".
_ALONE = re.compile(
    rf"(?<![\w-])(?:(?P<kept>(?:{_THE} )?(?:{_COUNT}\s*)?(?:{_UNIT}|half pint|part|bit)?{_YOU_KEPT}|what{_YOU_KEPT})"
    rf"|(?P<rest>(?!rest|remain){_REST}))(?![\w-])"  # "rest o/n" is a wait
)
#: "The half pint", "that 100 g": so much as was kept back.
_THAT_MUCH = re.compile(rf"\b(?:the|that|your|this) (?P<count>half|{_COUNT})\s*(?P<unit>{_UNIT})\b(?! of)")
#: A part of what was named just before: "half of it", "I keep a cupful back, say a hundred grams".
_OF_IT = re.compile(
    rf"(?<![\w/.,-])(?P<hold>(?:hold|keep|save|set|put)s? )?(?:about )?"
    rf"(?:(?P<share>{_SHARE})|(?P<whole>a|one|two|three) (?P<unit3>{_UNIT}) and a half|{_AMOUNT})"
    r"(?:(?P<of> of it)|(?P<back> (?:back|by|aside)\b)"
    rf"(?:,? (?:say|about|that.s) (?P<count2>{_COUNT}) ?(?P<unit2>{_UNIT}))?)"
)
#: What is kept back, before a part: "hold back", "keep ... by".
_HOLD = re.compile(
    r"\b(?:hold(?:ing)?|keep(?:ing)?|leave|put|set|save|reserve)(?: (?P<away>back|by|aside|out|over))?(?: for later)?:?"
    r"\s+(?:about )?$"
)
_AWAY = re.compile(r"[^.;,]{0,30}?\b(?:back|by|aside|for later|for the end|over)\b")
#: "Some of the remaining ethanol" is no part that can be told.
_SOME = re.compile(r"\b(?:some|a little|a splash|a bit|a drop|part|a dash) (?:of )?$")
_OF_SOMETHING = re.compile(r"\s+of\s+(?:the |your |my )?(?:\w+ ){0,2}$|\s+(?:\w+ )?$")
_HOW_NEAR, _BEFORE_NAME = 500, 30


@dataclass(frozen=True, slots=True)
class Part:
    """A part of a line where it goes in, as a share of the whole; ``start`` is where its words begin."""

    mention: Mention
    share: float
    start: int = 0


@dataclass(frozen=True, slots=True)
class _Told:
    """A part as told: "share" of a size, "rest", "kept" where it goes in, "hold" where it is kept back."""

    kind: str
    mention: Mention
    share: float = 0.0
    start: int = 0

    def part(self, share: float) -> Part:
        """It with a share."""
        return Part(self.mention, share, self.start or self.mention.start)


def parts_of(plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention]) -> dict[int, list[Part]]:
    """The lines that go in by parts, each with its parts in the order of the text; their shares come to 1.

    A part of which the text does not say how much it is, or what becomes of the rest, makes no parts.

    Args:
        plain: the text in small letters.
        lines: what was read as lines.
        mentions: every place where a line is named.

    >>> from firkin.core.catalogue import find
    >>> text = "water 300 g. half the water first, and the rest of the water last."
    >>> lines = [Ingredient(find("water"), "water", (0, 11), Quantity(300.0, "g"))]
    >>> named = [Mention(0, 5, 0, True), Mention(22, 27, 0, False), Mention(55, 60, 0, False)]
    >>> [(part.mention.start, part.share) for part in parts_of(text, lines, named)[0]]
    [(22, 0.5), (55, 0.5)]
    """
    told: dict[int, list[_Told]] = {}
    for part in (*_named_ones(plain, lines, mentions), *_of_it(plain, lines, mentions)):
        told.setdefault(part.mention.line, []).append(part)
    if not told:
        return {}
    for part in list(_nameless(plain, [line.amount for line in lines], mentions, told)):
        told[part.mention.line].append(part)
    found = {}
    for line, parts in told.items():
        own = [one for one in mentions if one.line == line]
        settled = _settled(sorted(parts, key=lambda part: part.mention.start), own)
        if len(settled) > 1 and not _poured_between(settled, own):
            found[line] = settled
    return found


def _named_ones(plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention]) -> Iterator[_Told]:
    for one in mentions:
        if one.own and (part := _of_the_whole(plain, one, lines[one.line])) is not None:
            yield part
            continue
        part = None if lines[one.line].topped else _named(plain, one, lines[one.line].amount)
        if part is not None and (not one.own or part.kind == "hold"):
            yield part


def _of_the_whole(plain: str, mention: Mention, line: Ingredient) -> _Told | None:
    """The part told before the amount of the whole: "half of 4 L water"."""
    start = min(line.at[0], mention.start)
    one = _OF_THE_WHOLE.search(plain, max(0, start - _LONGEST), start)
    return None if one is None else _Told("share", mention, _SHARES[one["share"]], one.start())


def _of_it(plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention]) -> Iterator[_Told]:
    """The parts of what was named last, or last of all that can be measured so."""
    for one in _OF_IT.finditer(plain):
        if one["back"] and not one["hold"]:
            continue
        before = [m.line for m in reversed(mentions) if m.end <= one.start() and not lines[m.line].topped]
        for line in list(dict.fromkeys(before))[:1] if one["share"] else dict.fromkeys(before):
            share = _SHARES[one["share"]] if one["share"] else _told_share(one, lines[line].amount)
            if share is not None:
                mention = Mention(one.start(), one.end(), line, own=False)
                yield _Told("hold" if one["back"] else "share", mention, share)
                break


def _told_share(one: re.Match[str], whole: Quantity | None) -> float | None:
    """The amount that words of a part tell, as a share of a line."""
    if one["unit3"]:
        return _share_of(str(number_of(one["whole"]) + 0.5), one["unit3"], whole)
    if one["count2"]:
        return _share_of(one["count2"], one["unit2"], whole)
    return _share_of(one["count"], one["unit"], whole)


def _named(plain: str, mention: Mention, whole: Quantity | None) -> _Told | None:
    """The part told beside a name."""
    start = max(0, mention.start - _LONGEST)
    one = _BEFORE.search(plain, start, mention.start)
    if _BEHIND.match(plain, mention.end):
        return _Told("kept", mention)
    if _REMAINS.match(plain, mention.end):
        return _Told("rest", mention)
    if one is None or _SOME.search(plain, max(0, one.start() - _LONGEST), one.start()):
        return None
    if one["kept"] or one["rest"]:
        return _Told("kept" if one["kept"] else "rest", mention, start=one.start())
    share = _SHARES[one["share"]] if one["share"] else _share_of(one["count"], one["unit"], whole)
    if share is None:
        return None
    return _Told("hold" if _held(plain, one.start(), mention.end) else "share", mention, share, one.start())


def _held(plain: str, start: int, end: int) -> bool:
    """True for what is kept back: "hold back 100 g of the water", "keep half of the water by"."""
    hold = _HOLD.search(plain, max(0, start - _LONGEST), start)
    if hold is None:
        return False
    return (
        hold["away"] is not None
        or hold.group().split()[0] in ("reserve", "save")
        or _AWAY.match(plain, end) is not None
    )


def _share_of(count: str, unit: str, whole: Quantity | None) -> float | None:
    """An amount as a share of its line; None where it is none, or all of it."""
    if whole is None or whole.kind not in ("volume", "mass"):
        return None
    hundreds = re.fullmatch(r"(?:(\w+) )?hundred", count)
    value = (
        100.0 * number_of(hundreds[1] or "a")
        if hundreds
        else number_of(count.replace("¼", "quarter").replace("¾", "0.75"))
    )
    unit = re.sub(r"^(cup|spoon)fuls?$", r"\1", unit)
    try:
        part = read_quantity(f"{value:g} {unit}")
    except CannotRead:
        return None
    if part.kind != whole.kind:
        return None
    same_word = whole.unit.removeprefix("imp_").split("_")[0] == part.unit
    size = part.value / whole.value if same_word else part.mL / whole.mL if part.kind == "volume" else part.g / whole.g
    return size if 0.0 < size < 1.0 - _NEAR else None


def _nameless(
    plain: str, wholes: Sequence[Quantity | None], mentions: Sequence[Mention], told: dict[int, list[_Told]]
) -> Iterator[_Told]:
    """The parts that name nothing: they mean the line of which a part was told last."""
    every = [part for parts in told.values() for part in parts]
    begin = min(part.mention.start for part in every)
    for part in every:  # "keep half a pint of it by ... goes into the half pint"
        for one in _THAT_MUCH.finditer(plain, part.mention.end) if part.kind == "hold" else ():
            size = _share_of(one["count"].removesuffix(" a"), one["unit"], wholes[part.mention.line])
            if size is not None and abs(size - part.share) < _NEAR:
                yield _Told("kept", Mention(one.start(), one.end(), part.mention.line, own=False))
                break
    for one in _ALONE.finditer(plain, begin):
        after = next((m.start for m in mentions if m.start >= one.end()), len(plain) + _LONGEST)
        if after - one.end() < _BEFORE_NAME and _OF_SOMETHING.fullmatch(plain, one.end(), after):
            continue  # a name follows
        if _SOME.search(plain, max(0, one.start() - _LONGEST), one.start()):
            continue
        before = [part.mention for part in every if part.mention.end <= one.start()]
        last = max(before, key=lambda mention: mention.start, default=None)
        if last is not None and one.start() - last.end <= _HOW_NEAR:
            yield _Told("kept" if one["kept"] else "rest", Mention(one.start(), one.end(), last.line, own=False))


def _settled(told: Sequence[_Told], own: Sequence[Mention]) -> list[Part]:
    """The parts of a line with their shares; fewer than two where it is not known what becomes of all of it."""
    held = sum(part.share for part in told if part.kind == "hold")
    shares = [part.part(part.share) for part in told if part.kind == "share"]
    rest = [part for part in told if part.kind == "rest"]
    kept = [part for part in told if part.kind == "kept"]
    known = sum(part.share for part in shares)
    if held:
        kept = kept or rest[1:2]
        first = rest[:1] or _whole_before(told, own, kept)
        if shares or not kept or not first or held >= 1.0:
            return []
        return _in_order([first[0].part(1.0 - held), kept[0].part(held)])
    rest = rest or kept
    if not shares:
        return []
    if rest and known < 1.0 - _NEAR and rest[-1].mention.start > shares[0].mention.start:
        return _in_order([*shares, rest[-1].part(1.0 - known)])
    if abs(known - 1.0) <= _NEAR and not rest:
        return [replace(part, share=part.share / known) for part in shares]
    return []


def _whole_before(told: Sequence[_Told], own: Sequence[Mention], kept: Sequence[_Told]) -> list[_Told]:
    """Where a line of which some is kept back is named without more: there goes what is not kept back."""
    end = kept[0].mention.start if kept else 0
    plain = [one for one in own if one.start < end and all(part.mention != one for part in told)]
    return [_Told("rest", one) for one in plain[-1:]]


def _poured_between(parts: Sequence[Part], own: Sequence[Mention]) -> bool:
    """True where the whole of it is named between two parts that name nothing: then "it" was something else."""
    named = {part.mention for part in parts} & set(own)
    first, last = parts[0].mention.end, parts[-1].mention.start
    return not named and any(first <= one.start < last for one in own)


def _in_order(parts: Sequence[Part]) -> list[Part]:
    return sorted(parts, key=lambda part: part.mention.start)
