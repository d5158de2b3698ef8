"""Where each line of a recipe goes in: of all the places that name it, the one where it is poured, and their order."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

from firkin.core.plan.clauses import Clause, conditions_of, told_of
from firkin.core.plan.doing import Told, done_at
from firkin.core.plan.manners import portions_in
from firkin.core.plan.mentions import Ingredient, Mention
from firkin.core.plan.words import words

#: A verb before "in" that belongs to it: "stir in the flakes" names what goes in, and not where.
_MEASURED = (
    r"(?:(?:\d[\d.,/]*|[½¼¾]|an?|half|one|two|three|four|five|six|eight|ten|twelve|twenty|fifty|hundred|and|of|the|another"
    r"|cups?|ounces?|oz|g|grams?|ml|tablespoons?|teaspoons?|tbsp|tsp|pints?|spoons?|handfuls?|drops?|l|lit(?:re|er)s?)\s+){0,6}"
)
_PHRASAL = re.compile(
    r"\b(?:stir|whisk|mix|put|pour|poor|add|fold|blend|throw|tip|drip|beat|work|rub|go|goes|come|comes|drop|dust|grate|shave"
    rf"|sprinkle|crumble)s? in\s+{_MEASURED}\W*$"
)
#: "The gum into the glycerine": what follows is a place, with no "and" between but in a number.
_INTO = re.compile(
    r"\b(?:into|in|over|on|onto|inside|unto)\s+"
    r"(?!(?:it|them|which|(?:that|this) (?:\d|an?|half|one|two|three|[a-z]+ty|[a-z]+teen))\b)"
    r"(?:(?:\d+[.,]\d+|(?<=hundred )and|(?<=thousand )and|(?!(?:and|with|then|dissolve|mix|stir|put|pour|add|melt|whisk"
    r"|place|measure|weigh|goes|go)\b)[\w½¼¾⅓⅔/%°-]+\.?)\s+){0,6}\(?$"
)
#: "Now the alcohol to the aloe", "the lye goes to the water": between two names.
_TO_THE = re.compile(r"\s*(?:goes |go |is added |gets added )?(?:slowly |gently )?to (?:the|your|my|this) ")
#: "Measure 300 ml of water into the big bowl": it is in then.
_INTO_A_VESSEL = re.compile(
    r"\s*,?\s*(?:in|into) (?:an?|the|your|my) (?!measuring )(?:[^\W\d_]+ ){0,2}"
    r"(?:bucket|bowl|pot|tub|jug|jar|bottle|drum|pail|pan|flask|cylinder|barrel|beaker|basin|can|canister)\b"
)
#: Between two things that go in together.
_AND = re.compile(r"\s*(?:,|,? and)\s+(?:[\w½¼¾⅓⅔/.,%°-]+\s+){0,5}")
#: "The melted soap", "the swollen carbomer": what was made of it before goes in, and no more of it.
_MADE_BEFORE = re.compile(
    r"\b(?:the|that|this|your|my) (?:melted|dissolved|swollen|hydrated|softened|slaked|soaked|swelled)\s+$"
)
#: "Soda when the soap has gone.": it goes in then.
_WHEN = re.compile(r"\W*(?:the |and )?[^\W\d_]+(?: [^\W\d_]+)? (?:when|once|as soon as|only when)\b")
_WHEN_BEHIND = 14
#: "Take 1 kg of the acid slowly into 5 kg of water".
_INTO_SOME = re.compile(
    r"\s*,?\s*(?:(?:slowly|gently|carefully)\s+)?into\s+(?:\d|half |one |two |three |four |five |six )"
)
_ADD_TO = re.compile(r"\b(?:add|stir|pour|mix|tip)\w*\b.*\bto\s+(?:the\s+|your\s+|this\s+)?(?:\w+\s+)?$")
#: Within so many characters before a name it is told what goes into it.
_HOW_FAR = 200
#: What is told with no word of doing looks at most so much like a pour.
LISTED = 1.0
#: A text longer than this, in characters, is told at length.
LONG = 1_500
_FIRST = re.compile(
    r"\bfirst\b(?! (?:time|week|month|days?|ever|one|cup|half|lot|portion|part|bit|go|spoon|glass|jug|handful|third)\b)"
    r"|\bstart with\b|\bbegin with\b|\bzuerst\b"
)
#: What smells of it.
SCENTS = frozenset({"fragrance", "essential-oil"})
_THAT_ORDER = re.compile(r"\bin (?:that|this|just that|exactly that) order\b")
_FEWEST_IN_ORDER, _FEWEST_ALONE = 2, 3
_BETWEEN_NAMES = re.compile(r"(?:[\s,;.:>→–-]|\b(?:and|then|first|last|the|order)\b)*")
#: "Weigh it last": getting ready, and no pour.
_READY_FIRST = re.compile(r"\b(?:weigh|measure|buy|wash|clean|read|use|check|test)\w*(?: \w+){0,2} $")
#: "The other half of the glycerine to finish": the first half went in before.
_A_PART = re.compile(
    r"\b(?:other half|rest|remaining|remainder|second half|last (?:half|third|bit)) of (?:the|your|my) $"
)
#: "You tip the water in first": before all the others, wherever it is told.
_GOES_FIRST = re.compile(r"\b(?:you|always|must|goes)\b[^,;]*\b(?:in|goes) first$")
_LAST = re.compile(
    r"\b(?<!at )last\b(?! (?:time|lot|night|batch|week|month|year))"
    r"(?! (?:half|third|quarter|bit|drops?|litre|liter|cup|pint|few|part|\d))"
    r"|\bat the (?:very )?end\b|\bto finish\b|\bfinally\b"
    r"|\bvery end\b"
)
#: "Before the water though": what is named in the sentence behind it goes in first.
_BEFORE = re.compile(r"\bbefore (?:(?:adding|pouring(?: in)?|you (?:add|pour|put in)) )?(?:the|your|any) $")
#: "Pour the lye into the oils": not into its water.
_INTO_ELSE = re.compile(r"\W*(?:\w+ ){0,2}(?:in)?to (?:the |your |my )?(?!(?:cold |cool |iced? |the )*water)\w")
#: What is in the vessel already, told by a pronoun.
_IN_IT = re.compile(r"\b(?:in|into|to|with) (?:it|that|this|them)\b")
#: What may stand between two things that are told together: "the borax, soda and salt".
_TOGETHER = re.compile(
    r"(?:[\s,&+()/-]|\b(?:and|the|plus|with|of|then)\b|\d|\b(?:ml|l|g|kg|oz|cups?|tsp|tbsp|drops?|parts?)\b)*"
)


@dataclass(frozen=True, slots=True)
class Placed:
    """A line where it is poured: its mention, the clause of that, how sure the place is, and its place in the order.

    ``into`` where it is named as what something else goes into.
    """

    line: int
    mention: Mention
    clause: Clause
    score: float
    order: float
    into: bool = False


@dataclass(frozen=True, slots=True)
class _Seen:
    """A mention with its clause and how much it looks like a pour."""

    mention: Mention
    clause: Clause
    score: float
    target: bool


def placed(
    plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention], clauses: Sequence[Clause]
) -> list[Placed]:
    """Each line at the place where it goes in, in the order they go in."""
    seen = _seen(plain, lines, mentions, clauses)
    done = _done(plain, seen) if len(plain) > LONG else {}
    found: dict[int, Placed] = {}
    for line in range(len(lines)):
        mine = [one for one in seen if one.mention.line == line]
        if line in done:
            mine = [one for one in mine if one.mention.start == done[line].start]
        mine = _told_late(mine)
        best = max((one.score for one in mine), default=0.0)
        one = next((one for one in mine if one.score == best and one.mention.own), None)
        one = one or next((one for one in mine if one.score == best), None)
        if one is not None:
            found[line] = Placed(line, one.mention, one.clause, one.score, float(one.mention.start))
    if done:  # what is said elsewhere to come first or last is said of another batch
        seen = [one for one in seen if found[one.mention.line].mention == one.mention]
    _targets_first(plain, found, seen)
    _first_and_last(plain, lines, found, seen)
    _water_first(plain, lines, found, seen)
    _in_that_order(plain, found, seen)
    _before_another(plain, found, seen)
    _scent_behind(lines, found)
    return sorted(found.values(), key=lambda one: (one.order, one.mention.start))


def _told_late(mine: list[_Seen]) -> list[_Seen]:
    """The mentions of a line; what is said of it before its amount is told looks less like a pour than it reads."""
    own = min((one.mention.start for one in mine if one.mention.own), default=0)
    return [replace(one, score=one.score - 1.0) if one.mention.start < own else one for one in mine]


def _done(plain: str, seen: Sequence[_Seen]) -> dict[int, Told]:
    """Of a long account, where each line is done: list, trial, talk and recap lie elsewhere."""
    told = [Told(one.mention.line, one.mention.start, one.score, one.target) for one in seen]
    return done_at(plain, told)


def _seen(
    plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention], clauses: Sequence[Clause]
) -> list[_Seen]:
    found: list[_Seen] = []
    at = 0
    contexts: dict[Clause, _Context] = {}
    for mention in mentions:
        while at + 1 < len(clauses) and clauses[at + 1].start <= mention.start:
            at += 1
        clause = clauses[at]
        if clause not in contexts:
            contexts[clause] = _Context.of(plain, clause)
        behind = found[-1].mention.end if found else 0
        target = _is_target(plain, clause, mention, behind)
        found.append(
            _Seen(mention, clause, _score(plain, lines[mention.line], mention, clause, contexts[clause]), target)
        )
    there: set[int] = set()
    for at, one in enumerate(found):
        if not one.mention.own and one.mention.line in there and _made_before(plain, one):
            found[at] = replace(one, score=-1.0)
        there |= {one.mention.line} if one.score > 0.0 else set()
    # the "water" of a top-up is not that of another line of water
    topped = {(one.clause, lines[one.mention.line].material.id) for one in found if lines[one.mention.line].topped}
    return [
        replace(one, score=-1.0)
        if not (one.mention.own or lines[one.mention.line].topped)
        and (one.clause, lines[one.mention.line].material.id) in topped
        else one
        for one in found
    ]


def _made_before(plain: str, one: _Seen) -> bool:
    return (
        _MADE_BEFORE.search(plain, max(one.clause.start, one.mention.start - _HOW_FAR), one.mention.start) is not None
    )


def _is_target(plain: str, clause: Clause, mention: Mention, behind: int) -> bool:
    """True for what something else goes into: "the gum into the glycerine".

    In "on the water I let fall the gum" only the water is; ``behind`` is where the name before ends.
    """
    start = max(clause.start, mention.start - _HOW_FAR)
    before = plain[start : mention.start]
    if _PHRASAL.search(before):
        return False
    if _TO_THE.fullmatch(plain, max(behind, start), mention.start):
        return True
    into = _INTO.search(before)
    return (into is not None and start + into.start() >= behind) or _ADD_TO.search(before) is not None


#: "Powder in the drum: 2 kg of soda, 1 kg of acid": what stands before the colon heads a list, and pours nothing.
_HEADED = re.compile(
    r"[^.:;,\d]{3,60}\b(?:in|into|for) (?:the |a |my |our |your |one )?\w+:"
    r"(?=\s*(?:\d|an? |one |two |three |half |half an? ))"
)


@lru_cache(maxsize=512)
def _listing(sentence: str) -> int | None:
    """How far into a sentence a list begins; every clause of it asks."""
    found = words("listing").search(sentence)
    return None if found is None else found.end()


@dataclass(frozen=True, slots=True)
class _Context:
    """What a clause says by itself, whatever it names."""

    told: bool
    conditions: list[tuple[int, int]]
    doing: bool
    topping: bool
    listed_from: int | None
    taken_back_at: int

    @classmethod
    def of(cls, plain: str, clause: Clause) -> "_Context":
        listing = _listing(plain[clause.first : clause.last])
        headed = _HEADED.match(plain, clause.start, clause.end)
        corrections = [one.start() for one in words("correction").finditer(plain, clause.start, clause.last)]
        here = plain[headed.end() if headed else clause.start : clause.end]
        return cls(
            told_of(plain, clause),
            conditions_of(plain, clause),
            words("doing").search(here) is not None,
            words("top").search(here) is not None,
            None if listing is None else clause.first + listing,
            max(corrections, default=-1),
        )


def _score(plain: str, line: Ingredient, mention: Mention, clause: Clause, context: _Context) -> float:
    """How much a mention looks like the place where its line goes in: below 0 not at all, 0 listed, 2 poured."""
    before = plain[clause.start : mention.start]
    if context.told or any(a <= mention.start < b for a, b in context.conditions):
        return -1.0
    if context.taken_back_at >= mention.end or words("refused").search(before):
        return -0.5 if mention.own else -1.0
    score = 2.0 if context.doing or _WHEN.match(plain, clause.start, mention.end + _WHEN_BEHIND) else 1.0
    if not mention.own and before.rfind("(") > before.rfind(")"):
        return 0.75  # said besides: "(dissolve it in the vinegar first)"
    listed = context.listed_from
    if listed is not None and listed <= mention.start and not words("doing").search(plain, listed, mention.start):
        score = 0.0
    elif (
        _only_readied(before)
        and not _INTO_A_VESSEL.match(plain, mention.end, clause.end)
        and not _INTO_SOME.match(plain, mention.end, clause.end)
        and portions_in(plain, mention.end, clause.end) == 1  # "take the soap a handful at a time"
    ):
        score = 0.5
    if line.topped:
        return score + 2.0 if context.topping else score - 0.5
    return score - 0.75 if context.topping and not mention.own else score


def _only_readied(before: str) -> bool:
    """True where the last thing done before a mention gets it ready, and pours nothing: "grate the bar"."""
    readied = list(words("readying").finditer(before))
    return bool(readied) and not words("doing").search(before, readied[-1].start())


def _together(plain: str, before: Sequence[_Seen]) -> list[_Seen]:
    """What is told in one breath, the last of it last: "a cup of borax and a cup of soda"."""
    chain = list(before[-1:])
    for one in reversed(before[:-1]):
        if (
            one.clause != chain[0].clause
            or one.target
            or not _AND.fullmatch(plain, one.mention.end, max(one.mention.end, chain[0].mention.start))
        ):
            break
        chain.insert(0, one)
    return chain


def _targets_first(plain: str, found: dict[int, Placed], seen: Sequence[_Seen]) -> None:
    """What something goes into is there before it, where it goes in nowhere else before."""
    for at, one in enumerate(seen):
        if not one.target:
            continue
        line = found.get(one.mention.line)
        source = next((other for other in reversed(seen[:at]) if other.mention.line != one.mention.line), None)
        topped_already = line is not None and line.score > 2.0
        if line is None or topped_already or source is None or source.clause != one.clause or source.target:
            continue
        poured = found.get(source.mention.line)
        for other in _together(plain, seen[:at]):  # "the borax and the soda in a gallon of water"
            one_of = found.get(other.mention.line)
            if one_of is not None and one_of.mention == other.mention and poured is not None:
                poured, source = min((poured, source), (one_of, other), key=lambda both: both[0].order)
        if poured is not None and poured.mention == source.mention and line.order > poured.order:
            found[line.line] = replace(line, order=poured.order - 0.5, score=max(line.score, poured.score), into=True)


def _first_and_last(plain: str, lines: Sequence[Ingredient], found: dict[int, Placed], seen: Sequence[_Seen]) -> None:
    """ "The salt last of all", "water goes first": said anywhere, it holds."""
    by_clause: dict[Clause, list[_Seen]] = {}
    for one in seen:
        by_clause.setdefault(one.clause, []).append(one)
    for clause, told in by_clause.items():
        if told_of(plain, clause):
            continue
        for word in _FIRST.finditer(plain, clause.start, clause.end):
            if _READY_FIRST.search(plain, clause.start, word.start()):
                continue
            if any(one.target for one in told) or _IN_IT.search(plain, clause.start, word.start()):
                continue  # "dissolved in it first": before the next, and not before all
            says_all = _GOES_FIRST.search(plain, clause.start, word.end()) is not None
            for line in _meant(plain, told, word):
                _move(lines, found, line, first=True, of_all=says_all)
        whole = [one for one in told if not _A_PART.search(plain, clause.start, one.mention.start)]
        for word in _LAST.finditer(plain, clause.start, clause.end) if whole else ():
            for line in (
                _meant(plain, whole, word) if not _READY_FIRST.search(plain, clause.start, word.start()) else ()
            ):
                _move(lines, found, line, first=False)


def _water_first(plain: str, lines: Sequence[Ingredient], found: dict[int, Placed], seen: Sequence[_Seen]) -> None:
    """Caustic goes into water: where that is said anywhere, or where it is only listed and nothing else is said."""
    water = [line for line in found if lines[line].material.id == "water" and not lines[line].topped]
    for line in list(found):
        if lines[line].material.id != "caustic-soda" or not water:
            continue
        here = found[line]
        alone = _dissolved(plain, here, water, seen)
        if alone is not None and alone.mention.start < here.order:
            here = found[line] = replace(here, order=float(alone.mention.start), into=True)
        first = min(water, key=lambda one: found[one].order)
        said = alone is not None or any(
            one.target and other.mention.line == line and other.clause == one.clause and not other.target
            for other, one in pairwise(seen)
            if one.mention.line in water
        )
        if found[first].order > here.order and (said or max(here.score, found[first].score) <= LISTED):
            found[first] = replace(found[first], order=here.order - 0.5, into=True)


def _dissolved(plain: str, caustic: Placed, water: Sequence[int], seen: Sequence[_Seen]) -> _Seen | None:
    """Where caustic and its water are told in a sentence of their own: poured into something else later is that lye."""
    own = [one for one in seen if one.mention.own]
    line = caustic.line
    here = next((one for one in own if one.mention.line == line), None)
    if here is None or not _INTO_ELSE.match(plain, caustic.mention.end, caustic.clause.end):
        return None
    there = {one.mention.line for one in own if one.clause.sentence == here.clause.sentence} - {line}
    return here if len(there) == 1 and there <= set(water) else None


def _in_that_order(plain: str, found: dict[int, Placed], seen: Sequence[_Seen]) -> None:
    """ "Water, glycerin, soap, in that order", or a sentence of such names alone: as they are told there."""
    again = [one for one in seen if not one.mention.own]
    runs = [
        [one for one in again if one.clause.first <= one.mention.start < said.start() <= one.clause.last]
        for said in _THAT_ORDER.finditer(plain)
    ]
    runs = [told for told in runs if len(told) >= _FEWEST_IN_ORDER]
    for first in sorted({one.clause.first for one in again}):
        told = [one for one in again if one.clause.first == first]
        if len(told) >= _FEWEST_ALONE and _names_alone(plain, told):
            runs.append(told)
    for one in (one for told in runs for one in told):
        here = found[one.mention.line]
        found[one.mention.line] = replace(here, order=float(one.mention.start), score=max(here.score, LISTED))


def _names_alone(plain: str, told: Sequence[_Seen]) -> bool:
    """True for a sentence that says names and nothing else."""
    sentence, at, rest = told[0].clause, told[0].clause.first, []
    for one in told:
        rest.append(plain[at : one.mention.start])
        at = one.mention.end
    return _BETWEEN_NAMES.fullmatch("".join([*rest, plain[at : sentence.last]])) is not None


def _before_another(plain: str, found: dict[int, Placed], seen: Sequence[_Seen]) -> None:
    """ "Before the water: two ml of scent": what is first told there goes in before that."""
    for one in seen:
        if one.mention.own or not _BEFORE.search(plain, one.clause.start, one.mention.start):
            continue
        there = found[one.mention.line]
        late = [
            other.mention.line
            for other in seen
            if other.clause.sentence == one.clause.sentence
            and (other.mention.start > one.mention.end or other.clause == one.clause)
            and found[other.mention.line].mention == other.mention
            and found[other.mention.line].order > there.order
        ]
        for place, line in enumerate(late):
            found[line] = replace(
                found[line], order=there.order - 0.5 + 0.01 * place, score=max(found[line].score, LISTED)
            )


def _scent_behind(lines: Sequence[Ingredient], found: dict[int, Placed]) -> None:
    """A scent of which only the list tells goes in behind what the doing tells of: warmth and air take it."""
    done = max((one.order for line, one in found.items() if one.score > LISTED and not lines[line].topped), default=0.0)
    for line, one in list(found.items()):
        if one.score <= LISTED and one.order < done and SCENTS & lines[line].material.roles:
            found[line] = replace(one, order=done + 0.25)


def _meant(plain: str, told: Sequence[_Seen], word: re.Match[str]) -> list[int]:
    """What "first" or "last" is said of: what stands before it in its clause, with what is told together with that."""
    before = [one for one in told if one.mention.end <= word.start() and not one.target]
    behind = [one for one in told if one.mention.start >= word.end() and not one.target]
    starts = not plain[told[0].clause.start : word.start()].strip(" ,:.*-") or word.group() in (
        "finally",
        "start with",
        "begin with",
    )
    if starts and behind:
        return [behind[0].mention.line]
    if not before:
        return [behind[0].mention.line] if behind else []
    meant = [before[-1]]
    for one in reversed(before[:-1]):
        if _TOGETHER.fullmatch(plain[one.mention.end : meant[-1].mention.start]) is None:
            break
        meant.append(one)
    return [one.mention.line for one in reversed(meant)]


def _move(
    lines: Sequence[Ingredient], found: dict[int, Placed], line: int, *, first: bool, of_all: bool = False
) -> None:
    """A line to the front of what is only listed, or of all; or behind all that is measured."""
    if line not in found or lines[line].topped:
        return
    others = [one for one in found.values() if one.line != line and not lines[one.line].topped]
    here = found[line]
    if first:
        listed = [one.order for one in others if of_all or one.score < max(here.score, 2.0)]
        if listed and min(listed) < here.order:
            found[line] = replace(here, order=min(listed) - 1.0, score=max(here.score, 2.0))
    elif others and (last := max(one.order for one in others)) > here.order:
        found[line] = replace(here, order=last + 0.25)
