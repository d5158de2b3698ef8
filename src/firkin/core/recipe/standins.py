"""What is named by its use or its shape, written by its name: "the preservative", "two bars, that's 200 grams"."""

import re
from collections.abc import Iterable
from functools import cache

from firkin.core.catalogue import find, names_of_materials
from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.sought import seek
from firkin.core.recipe.wordings import names

#: What a thing is for, and the role of its material.
_USES = {
    "preservative": "preservative",
    "preserver": "preservative",
    "gelling agent": "thickener",
    "thickener": "thickener",
    "gelling powder": "thickener",
    "neutraliser": "neutraliser",
    "neutralizer": "neutraliser",
}
_USE = "|".join(_USES)
_NUMBER = (
    r"(?:\d[\d.,/½¼¾]*|(?:an?|one|two|three|four|five|six|seven|eight|nine|ten|twelve|fifteen|twenty|thirty|forty|fifty"
    r"|sixty|eighty|hundred|half)(?:[ -](?:and|an?|half|one|two|three|four|five|six|seven|eight|nine|ten|hundred))*)"
)
_UNIT = (
    r"(?:g|grams?|ml|mls|mil|mils|millilit(?:re|er)s?|oz|ounces?|tsp|teaspoons?|tbsp|tablespoons?|cups?|kg|kilos?)\b"
)
#: "One teaspoon of the preservative", "the gelling agent, that is five grams".
_MEASURED_USE = re.compile(
    rf"(?<=\bof )the (?P<behind>{_USE})\b"
    rf"|\bthe (?P<before>{_USE})(?=,? (?:that'?s |that is |it'?s |about )?{_NUMBER} ?{_UNIT})",
    re.IGNORECASE,
)
_AN_AMOUNT_OF = re.compile(rf"{_NUMBER} ?{_UNIT} of $", re.IGNORECASE)
_HOW_FAR = 40
#: "Two bars, that's two hundred grams", "one bar of laundry soap, the old kind, it's five and a half ounces".
_BARS = re.compile(
    rf"\b{_NUMBER} bars?(?: of (?:[^\W\d_]+ ){{0,2}}soap)?(?:, [^,.;\d]{{1,30}})?,? "
    rf"(?:that'?s|that is|which is|it'?s|so) (?P<amount>{_NUMBER} ?(?:g|grams?|oz|ounces?))\b",
    re.IGNORECASE,
)

#: "A bar of laundry soap" is a bar of soap; laundry soap by itself is what is made.
_BAR_OF = re.compile(
    r"\b(?P<bar>bars?) (?:of )?(?:laundry|household|kitchen|yellow|white|plain|hand|washing) soap\b", re.IGNORECASE
)


#: "There's the paste, it's called SLES": from then on the paste is that.
_NOUN = "paste|powder|liquid|acid|crystals|flakes|granules|syrup|concentrate|pellets|beads"
_CALLED = re.compile(
    rf"\b(?P<noun>{_NOUN})[,:]? "
    r"(?:(?:it|that|this|which)(?:'s| is)(?: called)?|they call it|called|they mean|i mean|that means|means)"
    r" (?:the |a |an )?(?=(?P<name>[^\W\d_]))",
    re.IGNORECASE,
)
#: "8 drops of orange".
_DROPS_OF = re.compile(r"\bdrops? of (?P<plant>[^\W\d_]+(?: [^\W\d_]+)?)(?! (?:oil|peel)\b)\b", re.IGNORECASE)
_PLACED = re.compile(r" (?:and|or|to|in|into|if|for|then|at|on|with|per|each|last|first)$", re.IGNORECASE)


@cache
def _with_role(role: str) -> re.Pattern[str]:
    """Every name of the materials that have a role, the longest first; without those that only say the role."""
    names = [name for name in names_of_materials() if role in find(name).roles and name.lower() not in _USES]
    listed = "|".join(re.escape(name) for name in sorted(names, key=len, reverse=True))
    return re.compile(rf"\b(?:{listed})\b", re.IGNORECASE)


def by_use(text: str) -> Iterable[Edit]:
    """A use that is measured means the material of that use, where the text names one and no other.

    "A polyacrylate gelling agent" is the gelling agent, whatever other thickeners are talked of.
    """
    named: dict[str, dict[str, str]] = {}
    for one in seek(_MEASURED_USE, text):
        if one["behind"] and not _AN_AMOUNT_OF.search(text, max(0, one.start() - _HOW_FAR), one.start()):
            continue  # "one percent of the preservative" measures nothing yet
        use = (one["behind"] or one["before"]).lower()
        if use not in named:
            found = list(_with_role(_USES[use]).finditer(text))
            called = [name for name in found if use in text[name.start() : name.end() + len(use) + 1].lower()]
            named[use] = {find(name.group()).id: name.group() for name in called or found}
        if len(named[use]) == 1:
            start, end = one.span("behind" if one["behind"] else "before")
            (name,) = named[use].values()
            yield start, end, name  # its article stays, and with it where a sentence begins


def bars(text: str) -> Iterable[Edit]:
    """Bars whose weight is told are that weight of bar soap, in a text that speaks of soap; others are bars of soap."""
    if "bar" not in text.lower() or "soap" not in text.lower():
        return
    edits = [(one.start(), one.end(), f"{one['amount']} of bar soap") for one in seek(_BARS, text)]
    taken = [(start, end) for start, end, _ in edits]
    plain = (one for one in seek(_BAR_OF, text) if not any(a <= one.start() < b for a, b in taken))
    yield from sorted([*edits, *((one.start(), one.end(), f"{one['bar']} of soap") for one in plain)])


def called(text: str) -> Iterable[Edit]:
    """What a thing is called once, it is from then on: "two hundred grams of the paste", "now the paste"."""
    meant: dict[str, set[str]] = {}
    for one in seek(_CALLED, text):
        name = names().match(text, one.start("name"))
        if name is not None:
            meant.setdefault(one["noun"].lower(), set()).add(name.group())
    edits: list[Edit] = []
    for noun, found in meant.items():
        if len({find(name).id for name in found}) == 1:
            first = min(one.end() for one in seek(_CALLED, text) if one["noun"].lower() == noun)
            again = re.compile(rf"\b(?:the|that|this|my) (?P<noun>{noun})\b", re.IGNORECASE)
            edits += [(*one.span("noun"), min(found)) for one in again.finditer(text, first)]
    yield from sorted(edits)


def drops(text: str) -> Iterable[Edit]:
    """Drops of a plant are drops of its oil."""
    for one in seek(_DROPS_OF, text):
        plants = [one["plant"]] if _PLACED.search(one["plant"]) is None else [_PLACED.split(one["plant"])[0]]
        for plant in plants:
            if names().fullmatch(f"{plant} oil") and not names().fullmatch(plant):
                end = one.start("plant") + len(plant)
                yield end, end, " oil"
                break
