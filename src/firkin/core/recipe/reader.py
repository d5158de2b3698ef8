"""Reading a recipe: its layout, then each sentence, then what only the whole of it can decide."""

import re
from collections.abc import Iterable
from dataclasses import replace

from firkin.core.catalogue import Material
from firkin.core.plan import Ingredient, read_acts
from firkin.core.recipe.again import once_each
from firkin.core.recipe.captions import NOTHING
from firkin.core.recipe.clause import Clause
from firkin.core.recipe.corrections import CORRECTED
from firkin.core.recipe.dangers import weighed
from firkin.core.recipe.doubts import doubted, in_two_strengths
from firkin.core.recipe.heard import Heard
from firkin.core.recipe.layout import layout
from firkin.core.recipe.outcomes import with_outcome
from firkin.core.recipe.pasted import as_written
from firkin.core.recipe.pieces import Pieces
from firkin.core.recipe.plaintext import PlainText
from firkin.core.recipe.recipe import Aside, HeardLine, Mark, MarkKind, Recipe
from firkin.core.recipe.settling import settled
from firkin.core.recipe.several import Block, blocks_of, without
from firkin.core.recipe.spans import own_phrases
from firkin.core.recipe.spoken import as_meant
from firkin.core.recipe.tables import in_plain_lines
from firkin.core.recipe.whole import decided
from firkin.core.recipe.withdrawn import withdrawn

_SECTION = re.compile(
    r"(?:you(?:'ll| will)? need|ingredients?|materials?|directions?|instructions?|method|steps?|procedure|preparation|"
    r"how to make it|recipe|equipment|notes?|tips?|supplies|what you need|rezept|zutaten|zubereitung|recette|"
    r"ingrédients|préparation|receta|ingredientes|preparación|recept|ingrediënten|bereiding|ricetta|ingredienti|"
    r"preparazione)\s*:?"
)
_DIRECTIONS = re.compile(
    r"directions?|instructions?|method|steps?|procedure|preparation|how|zubereitung|préparation|preparación|bereiding|"
    r"preparazione"
)


#: Before the title may stand a greeting, a date, the number of a page: no name and no measured figure.
_SAYS_WHAT, _GREETINGS = re.compile("[MQPASFL]"), 4

#: So many lines and pieces of a text are read; a word that says nothing counts for a quarter.
MOST_LINES = 80
MOST_PIECES = 3000


def read_recipe(text: str, whose: str = "us", own: Iterable[Material] = (), *, apart: bool = True) -> Recipe:
    """Read a recipe out of any text; ``whose`` cups and gallons they are, one of measures().

    Of several recipes or sizes in one text the first is read, and the others are set aside in ``others``. With
    ``apart`` False everything is taken for one.

    Never raises for a text: what cannot be read stands in ``unread``.

    Args:
        text: any text.
        whose: whose cups, ounces and gallons they are: one of household.measures().
        own: materials of the workshop; they are looked at before the catalogue's.
        apart: True to set a second recipe or size aside.

    >>> recipe = read_recipe("Three parts 70% rubbing alcohol to one part aloe vera gel, makes 70%")
    >>> [line.words() for line in recipe.lines], str(recipe.claim.strength)
    ([('isopropanol', '70 % v/v', '3 part'), ('aloe-gel', '', '1 part')], '70 % v/v')
    """
    recipe = _read_all(as_written(text), whose, tuple(own), apart)
    return replace(recipe, text=text)


def _read_all(text: str, whose: str, materials: tuple[Material, ...], apart: bool) -> Recipe:
    """The first recipe of a text, with the others set aside."""
    whole = _read_one(text, whose, materials)
    blocks = blocks_of(text.replace(NOTHING, " "), whole.lines) if apart else ()
    if not blocks:
        return doubted(whole)
    first, others = blocks[0], blocks[1:]
    main = _read_one(without(text, others), whose, materials)
    aside = tuple(
        Aside(one.heading, (one.start, one.end), doubted(_read_one(_alone(text, one), whose, materials)))
        for one in others
    )
    marks = [mark for mark in main.marks if not any(one.start <= mark.start < one.end for one in others)]
    marks += [Mark(one.start, one.end, MarkKind.ADVICE, "Another recipe, set aside.") for one in others]
    marks = sorted(marks, key=lambda mark: mark.start)
    return doubted(replace(main, marks=_apart(marks), text=text, first=first.heading, others=aside))


def _alone(text: str, block: Block) -> str:
    """The text with everything but one recipe blanked out."""
    around = (Block("", 0, block.start), Block("", block.end, len(text)))
    return without(text, around)


def _read_one(text: str, whose: str, materials: tuple[Material, ...]) -> Recipe:
    """Read a text as one recipe."""
    meant = as_meant(text)
    plain = in_plain_lines(meant.text if meant else text)
    if plain is None and meant is None:
        return _read(text, whose, materials)
    if plain is None or meant is None:
        plain = plain or meant
        assert plain is not None
    else:
        plain = plain.of(meant)
    return _in_its_places(_read(plain.text, whose, materials), plain, text)


def _in_its_places(recipe: Recipe, plain: PlainText, text: str) -> Recipe:
    """What was read of a table’s plain lines, with its places in the text as it was given."""
    lines = tuple(replace(line, at=_with_its_name(plain.span(*line.at), line.said, text)) for line in recipe.lines)
    lines = tuple(_slipped(line, plain, text) for line in lines)
    lines = tuple(_without_unit(line, plain, lines) for line in lines)
    moved = [(plain.span(mark.start, mark.end), mark) for mark in recipe.marks]
    marks = [replace(mark, start=start, end=end) for (start, end), mark in moved if start < end]
    marks += [
        Mark(start, end, MarkKind.LINE if why == CORRECTED else MarkKind.ADVICE, why) for start, end, why in plain.left
    ]
    marks = sorted(marks, key=lambda mark: mark.start)
    dangers = tuple(replace(one, at=plain.span(*one.at)) for one in recipe.dangers)
    plan = tuple(replace(act, at=plain.span(*act.at)) for act in recipe.plan)
    return replace(recipe, lines=lines, marks=_apart(marks), dangers=dangers, plan=plan, text=text)


def _slipped(line: HeardLine, plain: PlainText, text: str) -> HeardLine:
    """A line with a slip of copying in it is guessed, and says so: a wrong figure can hurt."""
    if not plain.slips.intersection(range(*line.at)):
        return line
    return replace(line, claims=replace(line.claims, guessed=" ".join(text[slice(*line.at)].split())[:60]))


def _without_unit(line: HeardLine, plain: PlainText, lines: tuple[HeardLine, ...]) -> HeardLine:
    """A line whose figure was told without a unit says so, and one topped up to a mark of which no line is."""
    tops = line.amount is not None and line.amount.kind == "qs"
    mark = plain.unitless.difference(*(range(*one.at) for one in lines)) if tops else frozenset()
    if line.amount is None or not (mark or plain.unitless.intersection(range(*line.at))):
        return line
    return replace(line, claims=replace(line.claims, unitless=True))


def _with_its_name(at: tuple[int, int], said: str, text: str) -> tuple[int, int]:
    """The place of a line, out to its name where "of that" was said for it."""
    lower = text.lower()
    if said.lower() in lower[at[0] : at[1]]:
        return at
    named = lower.rfind(said.lower(), 0, at[0])
    return (named, at[1]) if named >= 0 else at


def _apart(marks: list[Mark]) -> tuple[Mark, ...]:
    """Marks in order, none over another."""
    found: list[Mark] = []
    for mark in marks:
        start = max(mark.start, found[-1].end if found else 0)
        if start < mark.end:
            found.append(replace(mark, start=start))
    return tuple(found)


def _read(text: str, whose: str, materials: tuple[Material, ...]) -> Recipe:
    """Read a text of plain lines and sentences."""
    page = layout(text)
    heard = Heard(text, whose, materials)
    names = own_phrases(materials)
    read: list[Pieces] = []
    number = -1
    effort = MOST_PIECES
    for found in page.sentences:
        sentence = found
        heading = _SECTION.match(page.plain, sentence.start, sentence.end)
        if heading is not None and (heading.end() == sentence.end or heading.group().endswith(":")):
            heard.directing = _DIRECTIONS.match(heading.group()) is not None
            listed = sentence.listed or not heard.directing
            sentence = replace(sentence, start=heading.end(), listed=listed)
        if sentence.header or not page.plain[sentence.start : sentence.end].strip():
            continue
        number += 1
        if effort <= 0 or len(heard.lines) >= MOST_LINES:
            heard.left_out = f"Only the first {round(sentence.start, -2)} characters or so are read."
            heard.mark(sentence.start, len(page.plain), MarkKind.UNREAD, "Too long to be read.")
            break
        if sentence.number is not None:
            heard.mark(*sentence.number, MarkKind.STEP, "Its number.")
        pieces = Pieces(sentence, page.plain, text, whose, materials, names)
        read.append(pieces)
        effort -= len(pieces.said) + len(pieces.everything) // 4
        marked = len(heard.marks), len(heard.mentions)
        titled = not heard.lines and number <= _GREETINGS and not any(_SAYS_WHAT.search(one.said) for one in read[:-1])
        Clause(pieces, heard, title=titled, follows=sentence.end < page.sentences[-1].start).read()
        if marked == (len(heard.marks), len(heard.mentions)):
            heard.remarks.append(text[sentence.start : sentence.end].strip())
    recipe = settled(once_each(decided(heard, page, read), page.plain), page.plain)
    recipe = withdrawn(in_two_strengths(weighed(with_outcome(recipe, page.plain, read))), page.plain)
    return _planned(recipe, page.plain, text)


#: "... eucalyptus oil 50 ml. Shake it": a unit cut short, and the end of a sentence.
_UNIT_ENDS = re.compile(r"(?<=\d)\s?(?:m[lL]|[lL]|k?g|oz|lbs?|tsp|tbsp)\.(?=\s+[A-Z])")


def _planned(recipe: Recipe, plain: str, text: str) -> Recipe:
    """The recipe with its way of being made, as far as the text tells it."""
    named = [Ingredient(line.material, line.said, line.at, line.amount) for line in recipe.lines]
    signs = list(plain)
    for one in _UNIT_ENDS.finditer(text):  # in small letters nobody sees that a sentence ends there
        signs[one.end() - 1] = ";"
    return _with_its_parts(replace(recipe, plan=read_acts("".join(signs), named, text)))


def _with_its_parts(recipe: Recipe) -> Recipe:
    """The recipe where "half of the" and "the rest of the" are understood, as they are parts of a line in its plan."""
    parts = {act.at: act.lines[0] for act in recipe.plan if act.shares}
    if not parts:
        return recipe
    marks = tuple(
        replace(mark, kind=MarkKind.LINE, what="A part of it.", line=line)
        if mark.kind is MarkKind.UNREAD
        and (line := next((line for at, line in parts.items() if at[0] <= mark.start < at[1]), None)) is not None
        else mark
        for mark in recipe.marks
    )
    left = {recipe.text[mark.start : mark.end].strip() for mark in marks if mark.kind is MarkKind.UNREAD}
    unread = tuple(words for words in recipe.unread if any(one.startswith(words) for one in left))
    return replace(recipe, marks=marks, unread=unread)
