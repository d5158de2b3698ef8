"""What a mail or an editor did to a text on its way: quoted lines, broken lines, an empty line behind each.

All of it is put right sign for sign, so that places stay what they were: a sign that says nothing becomes NOTHING.
"""

import re
from collections.abc import Iterable
from itertools import pairwise

from firkin.core.recipe.captions import ENDS_MEASURED, NOTHING, as_spoken
from firkin.core.recipe.neighbours import Edit

_BLANK = " \t" + NOTHING
#: "> " before a line, as a mail quotes; more than one of a quoted quotation.
_QUOTED = re.compile(r"(?m)^[ \t]*(?:[>|][ \t]?)+(?=\S|$)|^[ \t]*>+(?=\S)")
#: Of so large a part of the lines, before it is a mail and not a drawn table or a "more than".
_MOSTLY = 0.6
#: So many letters, and so large a part of them in capitals.
_FEWEST_LETTERS, _SHOUTED = 40, 0.85
#: What begins a line of its own: a bullet, a number with its stop, a name before its colon.
_BEGINS_ANEW = re.compile(
    r"\s*(?:[-–—•·▪*+#\[]|(?:\d{1,2}[.)]|[a-k]\))(?=\s)|step\b|[^\W_]+(?:[ -][^\W_]+){0,2}:(?=\s))", re.IGNORECASE
)
_BEGINS_AN_ITEM = re.compile(r"\s*(?:[\d½¼¾][\d.,/½¼¾ ]*\s?|an? |half an? )[^\W\d_]+ (?:of )?[^\W\d_]{3}")
_ENDS_IN_PER_CENT = re.compile(r"\d\s?%\)?$")
_BEGINS_WITH_A_FIGURE = re.compile(r"\s*(?:[-–—•·▪*+][ \t]*)?[\d½¼¾⅓⅔]")
#: "..., 1" before "part", "... 10" before "ml": the figure belongs to what comes.
_ENDS_IN_A_FIGURE = re.compile(r"(?P<behind>[,;:]|\S) (?:\d[\d.,]*|[½¼¾⅓⅔])$")
#: "0.25 L aloe gel, 10 ml": its name is to come.
_NAME_TO_COME = re.compile(r"[\d½¼¾⅓⅔]\s?[^\W\d_]{1,12}\.? (?:of )?[^\W\d_][^,;]*[,;] [\d.,½¼¾⅓⅔]+\s?[^\W\d_]{1,12}$")
_BEGINS_WITH_A_UNIT = re.compile(
    r"\s*(?:[mcd]?l|k?g|mg|grams?|oz|ounces?|lbs?|pounds?|[a-z]*spoons?|t[bs]+p|cups?|parts?|drops?|pints?|quarts?"
    r"|gal(?:lon)?s?|lit(?:re|er)s?)\b",
    re.IGNORECASE,
)
#: Columns: signs between cells, leaders, or space that a sentence would not have.
_COLUMNS = re.compile(r"[|\t]|\.{3,}|\S {3,}\S|[^\s,]+,[^\s,]+,")
_ENDS = ".!?:;"
#: Words that no line of a list ends in.
_GOES_ON = re.compile(
    r"(?:[ \t](?:and|of|or|plus|the|an?|in|into|to|with|then|for|add|until|till|from|on|is|it's)|,|[ \t][/+&–—])$",
    re.IGNORECASE,
)
#: "Leave it until the peroxide is in": a sentence may end so.
_IS_IN = re.compile(
    r"\b(?:is|are|goes?|gone|went|comes?|stirred|poured|mixed|put|it|that|them|all)[ \t](?:in|on)$", re.IGNORECASE
)
_PARTED = re.compile(r"[^\W\d_]-$")
#: So long is a line that an editor broke; so many of them show how wide the page was, and so near its edge they end.
_LONG, _RUNNING, _SHORTEST_THAT_GOES_ON, _NARROWEST, _WIDEST = 55, 45, 40, 34, 100
_BREAKS = 2
#: So many commas are in a line that tells more than one thing.
_OF_A_SENTENCE = 2
#: A list with an empty line behind each line has so many lines, and they are so short.
_FEWEST, _OF_A_LIST = 4, 60


def as_written(text: str) -> str:
    """A pasted text as it was written, as long as before.

    Args:
        text: any text, as it was pasted.

    >>> as_written("> Stir 4 g of carbomer into the\\n> water. Wait.").replace(NOTHING, "")
    'Stir 4 g of carbomer into the\\nwater. Wait.'
    """
    text = text.replace(NOTHING, " ").replace("\r\n", NOTHING + "\n").replace("\r", "\n")
    text = _not_shouted(as_spoken(_unquoted(text)))
    text = _close_together(text)
    return _unbroken(text)


def nothings(text: str) -> Iterable[Edit]:
    """Signs that say nothing are taken out."""
    yield from ((one.start(), one.end(), "") for one in re.finditer(f"{NOTHING}+", text))


def _unquoted(text: str) -> str:
    """Without the signs before each line that a mail puts there."""
    lines = [line for line in text.split("\n") if line.strip()]
    if sum(line.lstrip().startswith(">") for line in lines) < _MOSTLY * len(lines) or len(lines) < 2:
        return text
    return _QUOTED.sub(lambda found: NOTHING * len(found.group()), text)


def _not_shouted(text: str) -> str:
    """In small letters where nearly all is in capitals, as on a printed sheet: where a sentence begins is not seen."""
    letters = [sign for sign in text if sign.isalpha()]
    capitals = sum(sign.isupper() for sign in letters)
    if len(letters) < _FEWEST_LETTERS or capitals < _SHOUTED * len(letters):
        return text
    return "".join(sign.lower() if len(sign.lower()) == 1 else sign for sign in text)


def _close_together(text: str) -> str:
    """A list without the empty line that stands behind each of its lines."""
    lines = text.split("\n")
    full = [at for at, line in enumerate(lines) if line.strip(_BLANK)]
    if len(full) < _FEWEST or any(after - before != 2 for before, after in pairwise(full)):
        return text
    short = sum(len(lines[at]) <= _OF_A_LIST for at in full)
    if short < _MOSTLY * len(full):
        return text
    inside = range(full[0], full[-1])
    return "".join(
        NOTHING * (len(line) + 1) if at in inside and at not in full else line + "\n" for at, line in enumerate(lines)
    )[:-1]


def _unbroken(text: str) -> str:
    """With lines joined that were broken in the middle of a sentence.

    An editor breaks a line where its next word would not have had room: where lines do that again and again, that is
    how wide the page was, and each such break is one. A single long line goes on where the next begins small.
    """
    lines = [line.replace(NOTHING, "") for line in text.split("\n")]
    width = max(map(len, lines), default=0)
    filled = [_filled(line, other, width) for line, other in pairwise(lines)]
    open_ended = [line for line, other in pairwise(lines) if other.strip() and line.rstrip()[-1:] not in _ENDS]
    page = width <= _WIDEST and sum(filled) >= max(_BREAKS, _MOSTLY * len(open_ended))
    signs = list(text)
    for number, end in enumerate(found.start() for found in re.finditer("\n", text)):
        line, other = lines[number], lines[number + 1]
        if _goes_on(line, other, page and filled[number]):
            signs[end] = NOTHING if _PARTED.search(line) else " "  # "forty-" and "two" are one word
            for at in range(end + 1, len(signs)):
                if signs[at] not in _BLANK:
                    break
                signs[at] = NOTHING
    return "".join(signs)


def _filled(line: str, other: str, width: int) -> bool:
    """True where the next line's first word would not have had room on this one, and no sentence ends here."""
    first = other.split()[:1]
    if not first or width < _NARROWEST or line.rstrip()[-1:] in _ENDS or _COLUMNS.search(line.strip()):
        return False
    return len(line) + 1 + len(first[0]) > width


def runs_on(line: str, other: str) -> bool:
    """True where a paragraph of speech, longer than any page is wide, ends without a stop and the next goes on.

    Args:
        line: the paragraph.
        other: the line below it.

    >>> runs_on("and so on " * 12, "and then"), runs_on("and so on " * 12, "- 5 g salt"), runs_on("and so on", "then")
    (True, False, False)
    """
    last, text = line.rstrip(), other.strip()
    item = text[:1].isupper() and any(sign.isdigit() for sign in text)
    anew = _BEGINS_ANEW.match(other) or _BEGINS_WITH_A_FIGURE.match(other) or text[:1] == "("
    return len(last) > _WIDEST and last[-1] not in _ENDS and not (item or anew)


def _goes_on(line: str, other: str, at_the_edge: bool) -> bool:
    """True where a line is the rest of the one before."""
    last, text = line.rstrip(), other.strip()
    if not last or not text or last[-1] in _ENDS or len(last) > _WIDEST or _BEGINS_ANEW.match(other):
        return False
    if _COLUMNS.search(last.strip()) or _COLUMNS.search(text):
        return False
    if _ENDS_IN_PER_CENT.search(last) and _BEGINS_AN_ITEM.match(other):
        return False  # "... isopropyl alcohol, 91 %" above "3 ml of xanthan gum": a strength of what stands before it
    figure = _ENDS_IN_A_FIGURE.search(last)
    if (figure is not None and _BEGINS_WITH_A_UNIT.match(other)) or (
        _NAME_TO_COME.search(last) and not _BEGINS_WITH_A_FIGURE.match(other)
    ):
        return True
    if text[0].isupper() and _IS_IN.search(last) and not at_the_edge:
        return False
    running = len(last) >= _RUNNING and ", " in last
    if len(last) >= _SHORTEST_THAT_GOES_ON and (_GOES_ON.search(last) or (figure and figure["behind"] in ",;:")):
        return True
    if text[0] == "(" and not (at_the_edge or running):
        return False
    if text[0].isupper() and any(sign.isdigit() for sign in text):
        return False  # "Glycerol 15 mL": an item
    if text[0].isupper() and not at_the_edge:
        return False  # "..., ethanol 620 g" above "In a small cup"
    again = _BEGINS_WITH_A_FIGURE.match(other) or ENDS_MEASURED.search(text)
    if again and ENDS_MEASURED.search(last):
        return False  # "Ethanol, 833 mL" above "15 mL glycerol"
    if _BEGINS_WITH_A_FIGURE.match(other) and _BEGINS_WITH_A_FIGURE.match(line) and last.count(", ") < _OF_A_SENTENCE:
        return False  # "4 g carbomer, sifted" above "10 g neutraliser"
    return at_the_edge or running or len(last) >= _LONG
