"""What a writer takes back and says anew: "20 g, no, make that 30", "the glycerin should be 15 ml, I misread it".

Where it is plain what is put right, it is put right where it stands, and the sentence that says so is read as nothing
else; of what may be a correction and may be more of it, the maker is asked.
"""

import re
from collections.abc import Iterable, Iterator
from functools import lru_cache
from itertools import pairwise

from firkin.core.catalogue import find
from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.sought import seek
from firkin.core.recipe.wordings import NUMBER, amounts, names, names_of

#: What is said of a sentence that puts something right.
CORRECTED = "A correction: this is what counts."
#: "~~20 ml~~ 14 ml", "<s>20 ml</s> 14 ml": struck out is not said.
_STRUCK = re.compile(r"~~(?=\S)[^~\n]{1,80}~~|<(?P<tag>s|del|strike)>[^<\n]{1,80}</(?P=tag)>", re.IGNORECASE)


def struck_out(text: str) -> Iterable[Edit]:
    """What is struck out is left out."""
    yield from ((one.start(), one.end(), "") for one in seek(_STRUCK, text))


#: Words people put between what was wrong and what is right; of some of them, one alone takes back.
_TAKES_BACK = (
    r"no|nope|sorry|wait|hang on|hold on|scratch that|correction|i mean|i meant|or rather|rather|make (?:that|it)|oops"
    r"|whoops|i beg (?:your )?pardon|beg (?:your )?pardon|pardon|my mistake|that(?:'s| is| was) wrong"
)
_BESIDE_IT = (
    r"oh|ah|um+|uh+|erm?|well|actually|really|only|just|is it|was it|is that right|or is it|let me (?:see|look|check)"
    r"|it(?:'s| is)|that(?:'s| is)|(?:it|that) should be|it says(?: here)?|what does it say|i (?:think|said)"
    r"|what am i saying"
)
_GAP = r"[\s,;:(…?!–—-]|\.{2,3}"
_WORDS = rf"(?:(?:{_TAKES_BACK}|{_BESIDE_IT})\b(?:(?:{_GAP}){{1,4}}|\.\s)){{1,6}}"
_BETWEEN = re.compile(rf"(?:{_GAP}){{1,4}}{_WORDS}", re.IGNORECASE)
_FROM_A_CUE = re.compile(_WORDS, re.IGNORECASE)
#: Dots, a full stop or nothing before the surest of them: "80 g salt. No, wait, 60 g".
_AFTER_A_STOP = re.compile(
    r"\.\s(?:(?:oh|ah|no|wait|sorry|actually|hang on|hold on|scratch that|correction|i mean|make that)\b"
    r"[,.!:…–—-]*\s){1,4}",
    re.IGNORECASE,
)
_CUE = re.compile(rf"(?:{_TAKES_BACK}|actually|it says)\b")  # each begins with its first letter: that is fast to find
#: A name may stand between an amount and what takes it back.
_NAME_BETWEEN = re.compile(r"(?:\s+(?:of\s+(?:the\s+)?)?[^\W\d_]+(?:\s+[^\W\d_]+){0,2})?")
_NAME_BEHIND = re.compile(r"\s+(?:of\s+)?(?:the\s+)?(?P<name>[^\W\d_]+(?:\s+[^\W\d_]+){0,3})")
#: An amount that is taken back stands so near before that, with its name or without.
_NEAR_BEFORE = 70
#: What only seems to take back, where something else follows: "wait. 100 g of soap", "no more than".
_WEAK = frozenset({"wait", "hang on", "hold on", "no", "rather", "pardon", "sorry"})


@lru_cache(maxsize=2)
def cues(text: str) -> tuple[int, ...]:
    """Where a word stands that may take back what is before it.

    >>> cues("50 g borax, no, salt. A piano, sorry to say.")
    (12, 31)
    """
    lowered = text.lower() if len(text.lower()) == len(text) else text
    found = (one.start() for one in _CUE.finditer(lowered))
    return tuple(at for at in found if not at or not text[at - 1].isalnum())


def at_once(text: str) -> Iterator[Edit]:
    """An amount taken back right behind it gives way to the one that is said instead."""
    reached = 0
    for cue in cues(text):
        found = _taken_back(text, cue) if cue >= reached else None
        if found is not None:
            reached = found[1]
            yield found


def _taken_back(text: str, cue: int) -> Edit | None:
    """The edit for what one word takes back; None where it takes nothing back."""
    words = _FROM_A_CUE.match(text, cue)
    if words is None or amounts().match(text, words.end()) is None:
        return None
    before = list(amounts().finditer(text, max(0, cue - _NEAR_BEFORE), cue))
    if not before:
        return None
    wrong = before[-1]
    between = next(
        (
            found
            for way in (_BETWEEN, _AFTER_A_STOP)
            for found in way.finditer(text, wrong.end(), min(len(text), cue + _NEAR_BEFORE))
            if found.start() <= cue < found.end() and amounts().match(text, found.end())
        ),
        None,
    )
    if between is None:
        return None
    right = amounts().match(text, between.end())
    assert right is not None
    name = text[wrong.end() : between.start()].rstrip(" ,")
    closed = right.end() + ("(" in between.group() and text[right.end() : right.end() + 1] == ")")
    if _NAME_BETWEEN.fullmatch(name) is None or not _takes_back(between.group()):
        return None
    backs = _backs(between.group())
    sure = len(backs) > 1 or not all(word in _WEAK for word in backs)
    behind = _NAME_BEHIND.match(text, right.end())
    named = names().match(text, behind.start("name")) if behind is not None else None
    if named is not None:
        same = name and find(named.group()).id == find(_bare(name)).id
        if same or not name:
            return wrong.start(), right.start(), ""
        return (wrong.start(), right.start(), "") if sure else None
    if not sure and not ends(text, right.end()):
        return None
    return wrong.start(), closed, right.group() + name


def taken_back_by(text: str, end: int, right: re.Pattern[str]) -> int | None:
    """Where what is said instead begins, of what ends at a place and is taken back right there; None where it is not.

    >>> taken_back_by("99 %, no, 91 %", 4, re.compile("[0-9]+ %"))
    10
    """
    for way in (_BETWEEN, _AFTER_A_STOP):
        between = way.match(text, end)
        if between is not None and right.match(text, between.end()) and _takes_back(between.group()):
            return between.end()
    return None


def _takes_back(between: str) -> bool:
    """True for words that take back; a "no" alone has a sign behind it, or it refuses what comes next."""
    backs = _backs(between)
    return len(backs) > 1 or (
        bool(backs) and (backs[0] != "no" or re.search(r"\bno\s*[,.!:;…–—-]", between, re.I) is not None)
    )


def _backs(between: str) -> list[str]:
    return [found.group().lower() for found in re.finditer(rf"\b(?:{_TAKES_BACK})\b", between, re.IGNORECASE)]


def _bare(name: str) -> str:
    return re.sub(r"^\s*(?:of\s+)?(?:the\s+)?", "", name)


#: Nothing more is said of it: a sign, the end, or a word that goes on with something else.
_END = re.compile(
    r"\s*(?:[.,;:!?)…\n–—-]|$)"
    r"|\s+(?:instead|now|of it|of that|please|and|then|in|into|to|at(?! a (?:time|go)\b)|by the way)\b"
)


def ends(text: str, at: int) -> bool:
    """True where a sentence, or what is said in it, ends at a place.

    >>> ends("make that 30 g. Mix", 14), ends("make that 30 g of salt", 14)
    (True, False)
    """
    return _END.match(text, at) is not None


_NAME = r"(?:(?:the|my|your|our|that|of the|of)\s+)?(?P<name>[^\W\d_][^\W_]*(?:[ -][^\W_]+){0,3}?)"
_NEW = r"(?:(?:only|just|really|about|more like)\s+)?(?P<new>AMOUNT)"
_OLD = r"(?P<old>AMOUNT)"
#: What looks like an amount; whether it is one is asked of what was found.
_AMOUNT = rf"(?:\d[\d.,/½¼¾]{{0,14}}\s?|{NUMBER}\s)(?:(?:fl\.?|level|heaped|heaping|scant|good|full|big)\s)?[^\W\d_]+"
#: What stands at the head of a sentence that puts right.
WELL = (
    r"(?:(?:oh|and|also|but|so|sorry|p\.?\s?s\.?|edit|correction|erratum|typo(?: above)?|oops|by the way|wait|no"
    r"|actually)[,:.!]*\s+){0,4}"
)
#: What was said before, and what is meant.
I_SAID = r"i (?:said|wrote|put|typed|told you)"
MEANT = r"(?:i meant|i mean|it(?:'s| is| was)|(?:it|that) should(?: be| have been)|make (?:it|that)|read)"
_IS = r"(?:is|are|was|should(?: really)? be|should(?: really)? have been|should read|ought to be|must be)"
SAID_WRONG = (
    r"(?:correction|erratum|corrected|typo(?: (?:above|there))?|my mistake|misprint|i misread(?: (?:it|that))?"
    r"|i got (?:that|it) wrong|that(?:'s| is| was) wrong|i(?: really| actually)? meant)[,:.!–—-]*\s+"
)
_FORMS = (
    # "the borax, make that 30 g", "the glycerin should be 20 ml"
    rf"{WELL}{_NAME},?\s+(?:make (?:that|it)|should(?: really)? (?:be|have been|read)|ought to (?:be|have been)"
    rf"|(?:wants|needs) to be|(?:is|was) (?:meant|supposed) to be|is (?:actually|really))\s+{_NEW}",
    # "make the borax 30 g", "change the glycerin to 20 ml", "bring the salt down to 30 g"
    rf"{WELL}(?:then )?(?:i'?d )?make\s+{_NAME}\s+{_NEW}",
    rf"{WELL}(?:then )?(?:i'?d )?(?:change|correct|cut|bring|drop|reduce|lower|raise|up)\s+{_NAME}\s+"
    rf"(?:(?:down|up|back)\s+)?to\s+{_NEW}",
    # "correction: borax 30 g", "I meant 20 ml of glycerin"
    rf"{WELL}{SAID_WRONG}(?:(?:it'?s|it is|that'?s)\s+)?{_NAME}[,:]?\s+(?:{_IS}\s+)?{_NEW}",
    rf"{WELL}{SAID_WRONG}(?:(?:it'?s|it is|that'?s|it should be)\s+)?{_NEW}\s+{_NAME}",
    # "I said 50 ml of glycerin, I meant 20 ml", "where I wrote 40 g of borax, read 30 g"
    rf"{WELL}(?:where )?{I_SAID}\s+{_OLD}\s+{_NAME}(?: above| before| earlier)?,?"
    rf"\s+(?:(?:and|but)\s+)?{MEANT}\s+{_NEW}",
    # "did I say 50 ml of glycerin? No, 20 ml"
    rf"{WELL}did i (?:say|write|put)\s+{_OLD}\s+{_NAME}\?\s+"
    rf"(?:(?:i meant|i mean|no|sorry|make (?:that|it)|it'?s|it is)[,.:]?\s+){{0,3}}{_NEW}",
    # "for the glycerin, use 20 ml instead of 50 ml", "use 20 ml of glycerin rather than 50"
    rf"{WELL}for\s+{_NAME},?\s+(?:use|take)\s+{_NEW}\s+(?:instead of|rather than|not)\s+(?:the )?(?:AMOUNT|NUMBER)",
    # "that's too much glycerin. 20 ml is plenty"
    rf"{WELL}that(?:'s| is| was)\s+(?:far |way |a bit |much )?too (?:much|little)\s+{_NAME}[.,;!:–—-]+\s+{_NEW}\s+"
    r"(?:is|will be|'s|does|will do)\s+(?:it|plenty|enough|better|right|fine)",
)
_BEHIND = (
    r"(?:,?\s+(?:not|instead of|rather than)\s+(?:the\s+)?(?:AMOUNT|NUMBER))?"
    r"(?:,\s+(?:sorry|by the way|(?:i|we)(?:'ve)? (?:misread|got|had|wrote|looked)[^.!?\n]{0,24}))?"
)
#: Any word a correction of one of these forms cannot do without.
_HINTS = (
    *("in fact", "next time", "these days", "nowadays", "make ", "should", "ought to", "to be ", "actually", "really"),
    *("change", "correct", "cut", "bring", "drop", "reduce", "lower", "raise", "up "),
    *("erratum", "typo", "mis", "wrong", "meant", "i said", "i wrote", "i put", "i typed", "told you", "did i"),
    *("instead", "rather", "not", "too much", "too little"),
)
_BEGINS = re.compile(r"[.!?;\n][ \t]{0,3}|, (?=oh\b|and\b|but\b|sorry\b)")


#: "Actually only 14 ml of the glycerin": less of it, or the part that goes in first.
_MAY_BE = (
    rf"{WELL}(?:actually|in fact|really|next time|these days|nowadays),?\s+"
    r"(?:i(?:'?d| would)? (?:use|take|put in) )?(?:only |just )?"
    rf"(?P<new>AMOUNT)\s+{_NAME}"
)


_SURE, _ASKED = (
    tuple(
        re.compile(f"{form}{_BEHIND}(?={_END.pattern})".replace("AMOUNT", _AMOUNT).replace("NUMBER", NUMBER), re.I)
        for form in forms
    )
    for forms in (_FORMS, (_MAY_BE,))
)


def said_in(
    text: str, hints: Iterable[str], forms: Iterable[re.Pattern[str]]
) -> Iterator[tuple[re.Pattern[str], re.Match[str]]]:
    """Each sentence that has one of the hints and begins in one of the forms: the form, and what it says.

    >>> forms = [re.compile("scratch (.+?)[.]", re.I)]
    >>> [said[1] for _, said in said_in("Mix. Scratch the salt. Stir.", ["scratch"], forms)]
    ['the salt']
    """
    whole = text.lower()
    there = [hint for hint in hints if hint in whole]
    for start, sentence in _sentences(text) if there else ():
        if any(hint in sentence for hint in there):
            found = ((form, form.match(text, start)) for form in forms)
            yield from ((form, said) for form, said in found if said is not None)


@lru_cache(maxsize=2)
def _sentences(text: str) -> tuple[tuple[int, str], ...]:
    """Each sentence, or what begins anew within one: where it begins, and its words in small letters."""
    starts = [0, *(one.end() for one in _BEGINS.finditer(text))]
    return tuple((start, text[start:after].lower()) for start, after in pairwise([*starts, len(text)]))


def with_its_end(text: str, end: int) -> int:
    """The end of what is said, and of the sentence where that ends with it."""
    return end + (text[end : end + 1] in (".", "!", ";"))


def further_on(text: str) -> list[Edit]:
    """An amount that a sentence further on puts right is written as it is said there, and that sentence left out.

    >>> further_on("Salt 50 g. The salt should be 40 g. No, make the salt 30 g.")
    [(5, 9, '30 g'), (11, 35, ''), (36, 59, '')]
    """
    taken: set[int] = set()
    right: dict[tuple[int, int], str] = {}
    edits: list[Edit] = []
    for form, one in said_in(text, _HINTS, (*_SURE, *_ASKED)):
        wrong = _measured_before(text, one) if one.start() not in taken else None
        if wrong is None:
            continue
        taken.add(one.start())
        if form in _SURE:
            right[wrong.span()] = one["new"]
            edits.append((one.start(), with_its_end(text, one.end()), ""))
        else:
            edits.append((one.start(), one.end(), f"{one['name']} {one['new']}"))
    return sorted([*edits, *((start, end, amount) for (start, end), amount in right.items())])


_BESIDE = re.compile(r"[ \t,:=(–—-]{0,3}")
_RIGHT_BEFORE = re.compile(r"\s*(?:of\s+)?(?:the\s+)?(?:[^\W\d_]+\s+){0,2}")


def _measured_before(text: str, said: re.Match[str]) -> re.Match[str] | None:
    """The one amount of it that stands before; None where there is none, several, or not the one said to be wrong."""
    if names().fullmatch(said["name"]) is None or amounts().fullmatch(said["new"]) is None:
        return None
    told = [one for one in _measured(text, find(said["name"]).written) if one.start() < said.start()]
    if len(told) != 1:
        return None
    amount, old = told[0].group().lower(), said.groupdict().get("old")
    return None if amount == said["new"].lower() or (old and old.lower() != amount) else told[0]


@lru_cache(maxsize=4)
def _measured(text: str, material: str) -> tuple[re.Match[str], ...]:
    """The first two amounts beside names of a material."""
    beside = (_of(text, one) for one in names_of(material).finditer(text))
    found: dict[int, re.Match[str]] = {}
    for amount in beside:
        if amount is not None:
            found[amount.start()] = amount
        if len(found) > 1:
            break
    return tuple(found.values())


def _of(text: str, name: re.Match[str]) -> re.Match[str] | None:
    """The amount beside a name: before it, or where none is, behind it in the same line."""
    for one in amounts().finditer(text, max(0, name.start() - _NEAR_BEFORE), name.start()):
        if _RIGHT_BEFORE.fullmatch(text, one.end(), name.start()):
            return one
    gap = _BESIDE.match(text, name.end())
    return amounts().match(text, gap.end()) if gap is not None else None
