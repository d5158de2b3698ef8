"""Names in a recipe's text: runs of words that stand for one material each, with what qualifies it."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from firkin.core.catalogue import Material, alcohol_names, find, is_unfit
from firkin.core.measures import Strength
from firkin.core.recipe.spans import Span, words_of

#: Two names side by side are one thing where the first only says of what the second is made.
_SCENTS = ("essential-oil", "peel", "fragrance")
_IN_A_NAME = frozenset({"material", "word", "qualifier", "ware"})
#: Said of nothing but water: "top up with distilled".
_OF_WATER = frozenset({"distilled", "deionised", "deionized", "demineralised", "demineralized"})
_WITH = re.compile(r"\b(?:with|of|the|some)\s+$", re.IGNORECASE)
_MARKS_OFF = frozenset({"crystals", "powder", "powdered", "flakes", "solution", "liquid"})


@dataclass(frozen=True, slots=True)
class Named:
    """What a run of words names: the material, the strength its name implies, and what was said of it besides.

    ``words`` is what it was called; ``ware`` says that it is a thing out of a shop that the catalogue does not know;
    ``loose`` are words beside it that nothing is known of.
    """

    material: Material
    words: str
    strength: Strength | None = None
    qualifiers: tuple[str, ...] = ()
    ware: bool = False
    loose: tuple[Span, ...] = ()
    guessed: bool = False


def named(spans: Sequence[Span], written: str, own: tuple[Material, ...]) -> list[Span]:
    """The spans of a sentence with its names put together: "good aloe vera gel" is one.

    >>> from firkin.core.recipe.spans import spans_of
    >>> said = "of lavender hydrosol"
    >>> [span.value.material.id for span in named(spans_of(said, said, 0, 20), said, ()) if span.kind == "named"]
    ['hydrosol']
    """
    out: list[Span] = []
    run: list[Span] = []
    for at, found in enumerate(spans):
        span, ahead = found, spans[at + 1].kind if at + 1 < len(spans) else ""
        if span.kind in ("wait", "made_of", "filled", "add") and span.may_be("qualifier") and ahead in _IN_A_NAME:
            span = replace(span, kind="qualifier")  # "cool water"
        choice = span.text in ("or", "and") and ahead == "qualifier"
        if choice and run and all(one.kind == "qualifier" for one in run):
            continue  # "distilled or boiled water"
        if span.kind in _IN_A_NAME or (run and span.text == "-" and span.start == run[-1].end):
            run.append(span)
            continue
        if run:
            out += _settled(run, written, own)
            run = []
        out.append(span)
    return out + _settled(run, written, own)


def _settled(run: list[Span], written: str, own: tuple[Material, ...]) -> list[Span]:
    run = [span for span in run if span.text != "-"]
    if not run:
        return []
    return list(_names(run, written, own))


def _names(run: list[Span], written: str, own: tuple[Material, ...]) -> Iterator[Span]:
    """Every name in a run of words."""
    heads = [i for i, span in enumerate(run) if span.kind in ("material", "ware")]
    if not heads:
        alone = all(span.kind == "qualifier" for span in run)
        if alone and run[-1].text in _OF_WATER and _WITH.search(written, max(0, run[0].start - 12), run[0].start):
            yield _span(run, written, Named(find("water"), "water", qualifiers=_texts(run)))
            return
        yield from _unknown(run, written)
        return
    groups: list[list[int]] = []
    for head in heads:
        if groups and groups[-1][-1] == head - 1 and _only_scents(run[groups[-1][-1]], run[head], own):
            groups[-1].append(head)
        else:
            groups.append([head])
    start = 0
    for number, group in enumerate(groups):
        last = number == len(groups) - 1
        end = len(run) if last else _boundary(run, group[-1] + 1, groups[number + 1][0])
        yield from _one(run[start:end], group[-1] - start, written, own)
        start = end


def _only_scents(first: Span, second: Span, own: tuple[Material, ...]) -> bool:
    """True for "lavender hydrosol", "lemon vinegar": the first only says what the second smells of."""
    if first.kind != "material" or "oil" in first.text.split():
        return False
    material = find(str(first.value), own)
    other = find(str(second.value), own)
    return any(role in material.roles for role in _SCENTS) and "essential-oil" not in other.roles


def _boundary(run: list[Span], first: int, head: int) -> int:
    """Where the words between two names part: what qualifies the second goes with it."""
    other = set(words_of("something_else"))
    while first < head and (run[first].text in other or run[first].text in _MARKS_OFF):
        first += 1
    return first


def _one(run: list[Span], head: int, written: str, own: tuple[Material, ...]) -> Iterator[Span]:
    """One name with the words around it."""
    before, name, after = run[:head], run[head], run[head + 1 :]
    other = set(words_of("something_else"))
    start, end = run[0].start, run[-1].end
    text = written[start:end].lower()
    if is_unfit(text):
        first = next((i for i, span in enumerate(run) if span.kind == "word" or is_unfit(written[span.start : end])), 0)
        words = _plain(written[run[first].start : end])
        yield _span(run, written, Named(find(words), words, qualifiers=_texts(run[:first])))
        return
    unknown_before = [span for span in before if span.kind == "word"]
    turns = [span for span in after if span.text in other]
    if turns or name.kind == "ware" or (unknown_before and _vague(name, own)):
        lead = unknown_before[0] if unknown_before else name
        upto = turns[-1] if turns else name
        words = _plain(written[lead.start : upto.end])
        kept = tuple(span for span in after if span.start >= upto.end)
        value = Named(
            _unknown_thing(words, own),
            words,
            qualifiers=_texts([span for span in before if span.start < lead.start]),
            ware=(name.kind == "ware" or str(name.value).rstrip("s") == "soap") and not turns,
            loose=_loose(kept),
        )
        yield Span(lead.start, upto.end, "named", written[lead.start : upto.end], value)
        yield from kept
        return
    trailing = [span for span in after if span.kind == "word"]
    material, strength, words = _material(name, own)
    qualifiers = (*_texts(before), *_texts([span for span in after if span.kind != "word"]))
    stop = max([name.end, *(span.end for span in after if span.kind != "word")])
    guessed = name.guessed
    value = Named(material, words, strength, qualifiers, guessed=guessed)
    yield Span(start, stop, "named", written[start:stop], value, guessed=guessed)
    yield from trailing


def _vague(name: Span, own: tuple[Material, ...]) -> bool:
    """True for water and soap, which an unknown word before them makes another thing: rose water, deck soap."""
    return name.kind == "material" and (
        str(name.value).rstrip("s") == "soap" or find(str(name.value), own).id == "water"
    )


def _material(name: Span, own: tuple[Material, ...]) -> tuple[Material, Strength | None, str]:
    """The material a name stands for, the strength it implies, and the name where that matters."""
    words = str(name.value)
    names = alcohol_names()
    if words.rstrip("s") == "soap":
        return find("castile-soap"), None, "soap"
    if words in names.spirits:
        return find("ethanol"), Strength.of(names.spirit_pct, "v/v"), words
    if words in names.unnamed:
        return find("isopropanol"), None, words
    return find(words, own), None, words


def _unknown(run: list[Span], written: str) -> Iterator[Span]:
    """Words that name nothing the catalogue knows, without what only says how it is."""
    words = [i for i, span in enumerate(run) if span.kind == "word"]
    if not words:
        yield from run
        return
    first, last = words[0], len(run) - 1
    text = written[run[first].start : run[last].end]
    plain = _plain(text)
    yield Span(
        run[first].start, run[last].end, "named" if is_unfit(text) else "unknown", text, Named(find(plain), plain)
    )


def _unknown_thing(words: str, own: tuple[Material, ...]) -> Material:
    """One of the workshop's own, or a thing the catalogue does not know, whatever its words resemble."""
    return next((one for one in own if one.name.lower() == words), Material(id=words, name=words, known=False))


def _plain(text: str) -> str:
    return re.sub(r"\s+", " ", text.strip().lower())[:80].strip()


def _texts(spans: Sequence[Span]) -> tuple[str, ...]:
    return tuple(span.text for span in spans)


def _loose(spans: Sequence[Span]) -> tuple[Span, ...]:
    return tuple(span for span in spans if span.kind == "word")


def _span(run: list[Span], written: str, value: Named) -> Span:
    start, end = run[0].start, run[-1].end
    return Span(start, end, "named", written[start:end], value)
