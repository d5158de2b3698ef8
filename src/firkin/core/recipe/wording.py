"""Recipe text put into plain figures and signs, before the grammar reads it."""

import re
from collections.abc import Callable
from functools import cache

from firkin.core import datafiles
from firkin.core.measures import names_of_units

#: A number as recipes write it, as a pattern.
NUM = r"(?:(?:[0-9]+[ -])?[0-9]+ ?[\/⁄] ?[0-9]+|(?:[0-9]+ ?)?[¼½¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞]|[0-9]+(?:[.,][0-9]+)*|[.,][0-9]+)"
_WIDE = str.maketrans("０１２３４５６７８９％", "0123456789%")
_FRACTIONS = {"half": "1/2", "quarter": "1/4", "third": "1/3", "eighth": "1/8"}
_HAVING = r"(?:i|we) (?:only |just )?(?:have|got)(?: only| just)?|i'?ve (?:only |just )?got"


_FRACTION = r"(half|quarter|third|eighth)s?"
_SIGNS = str.maketrans({"’": "'", "⁄": "/", "×": "x", "−": "-", "％": "%", "٪": "%"})


def in_figures(text: str) -> str:
    """Small letters, number words as figures, plain signs.

    >>> [in_figures(t) for t in ("Three parts", "half a cup", "one and a half cups", "1 quarter cup", "a third cup")]
    ['3 parts', '1/2 cup', '1 1/2 cups', '1/4 cup', '1/3 cup']
    """
    said = re.sub(r"\bTEA\b", "triethanolamine", text).lower().translate(_WIDE).translate(_SIGNS)
    for pattern, plain in _changes():
        said = pattern.sub(plain, said)
    return re.sub(r"[ \u00a0\u2009\u202f]+", " ", said).strip(" |")


@cache
def _changes() -> tuple[tuple[re.Pattern[str], str | Callable[[re.Match[str]], str]], ...]:
    """What is put otherwise, in order. In the patterns NUM is a number and UNIT the name of a unit."""
    numbers = datafiles.toml("recipe/heard.toml")["numbers"]
    tens, ones = (
        "|".join(word for word, n in numbers.items() if n in some) for some in (range(20, 100, 10), range(1, 10))
    )
    table: list[tuple[str, str | Callable[[re.Match[str]], str]]] = [
        # signs and turns of phrase
        (r"\s[*•·]\s", ", "),
        (r"\*", " "),
        (r"\b(dish(?:washing)?|washing[- ]up) soap\b", r"\1-soap"),  # no castile soap
        (r"^for (?:the|your|this|my|a) [a-z ]{3,25}?,? (?=(?:mix|use|take|combine|add|blend|you)\b)", ""),
        (r"\b([0-9]{2}) ?°(?! ?[cf])", r"\1 %"),
        (r"(?<=[a-z%)]) / (?=[a-z0-9])", ", "),
        (r"^if (?:you|i|we) (?:don't|do not) have [^,]{2,40}, ", ""),
        (r"^dilute (?=[0-9]+ ?:)", ""),
        (r"^half (?!and half)([a-z ]+?),?(?: and)? half ([a-z ]+)$", r"1 part \1, 1 part \2"),
        (r" so (?=(?:take|use|add|mix|i|we|you)\b)", "; "),
        (r"\buntil (?:you have|it (?:is|makes|reaches)|there (?:is|are)) (?:about )?(?=[0-9])", "to "),
        (r"\b([0-9]) ?c\b\.?", r"\1 cup"),
        (r"\bbars? of (\w+ )?soap\b", r"bar \1bar soap"),
        (r"\bper ?cent\b|\bpct\b", "%"),
        # numbers in words
        (rf"\b({tens})[- ]({ones})\b", lambda m: str(numbers[m[1]] + numbers[m[2]])),
        (rf"\b(?:a )?({'|'.join(numbers)})\b", lambda m: str(numbers[m[1]])),
        (r"\b([0-9]+) \(\1\)", r"\1"),  # "two (2) cups"
        (r"(?<=[a-z] )([0-9]+(?:\.[0-9]+)?)(?=, .*%$)", r"\1 %"),  # "water 80, salt 2, perfume 0.5 %"
        (r"\b([1-9]) 100\b", r"\g<1>00"),
        (r"\ba couple(?: of)?\b", "2"),
        # fractions in words
        (
            rf"\b([0-9]+)(?: and)?(?: a| an)? {_FRACTION}(?: of)?(?: an?)?(?= (?:UNIT))",
            lambda m: _parts_of(m[1], m[2], "and" in m[0] or " a " in m[0]),
        ),
        (
            rf"\b([0-9]) {_FRACTION} (?:of )?(?=[a-z])(?!(?:UNIT)(?![a-z]))",
            lambda m: f"{_parts_of(m[1], m[2], mixed=False)} part ",
        ),
        (rf"\b(?:an? )?{_FRACTION}(?: of)?(?: an?)?(?=[ -](?:UNIT))", lambda m: _FRACTIONS[m[1]]),
        (r"\ban? (?=(?:UNIT)(?![a-z]))", "1 "),
        # amounts said twice, dashes before amounts
        (r"(?<!of )(?<!of a )\b((?:NUM) ?(?:UNIT)) ?= ?(?:NUM) ?(?:UNIT)(?= of\b| [a-z])", r"\1"),
        (r"% ?[–—-] ?(?=(?:NUM) ?(?:UNIT)(?![a-z]))", "% : "),
        (r"(?<=[:–—-] )up to (?=(?:NUM) ?(?:UNIT)(?![a-z]))", "to "),
        # so much to so much
        (r"\b(?:per|(?:for|to) (?:every|each)) (?=(?:UNIT)(?![a-z])(?: of)? [a-z])", "to 1 "),
        (r"\b(?:for|to) (?:every|each) (?=[0-9])", "to "),
        (r"^to (?=[0-9])", ""),
        # what is at hand, what it is made up to, what comes of it
        (rf"\b({_HAVING}) ([4-9][0-9])(?![0-9.,]|[ -]?(?:UNIT|%|proof))", r"\1 \2 %"),
        (r"(?:\bq\.? ?s\.? )?(?:\bup )?\bto 100 ?%(?! ?\w)", "rest"),
        (r"^((?:NUM) ?(?:UNIT)) ?:(?!\d)", r"makes \1:"),
        (r"^(.*(?:[+&]|\band\b).*[a-z]) ?= ?(?=[0-9.,]+ ?%[^%]*$)", r"\1, makes "),
    ]
    return tuple(
        (re.compile(pattern.replace("NUM", NUM).replace("UNIT", units_pattern())), plain) for pattern, plain in table
    )


def _parts_of(count: str, fraction: str, mixed: bool) -> str:
    """ "1 and a half" is 1 1/2, "3 quarters" is 3/4, and "1 quarter" 1/4."""
    if mixed:
        return f"{count} {_FRACTIONS[fraction]}"
    return f"{count}/{_FRACTIONS[fraction].removeprefix('1/')}"


@cache
def units_pattern() -> str:
    """Every spelling of every unit but per cent, the longest first, as a pattern."""
    spelt = {name for key, names in names_of_units().items() if key != "%" for name in names}
    spelt |= {name + "s" for name in spelt}
    return "|".join(re.escape(name).replace(r"\ ", " ?") for name in sorted(spelt, key=lambda name: (-len(name), name)))
