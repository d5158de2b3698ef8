"""Where each line of a recipe goes in: of all the places that name it, the one where it is poured, and their order."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from firkin.core.plan.clauses import Clause, told_of
from firkin.core.plan.doing import Told, done_at
from firkin.core.plan.mentions import Ingredient, Mention
from firkin.core.plan.scoring import Seen, seen_of

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
    r"\b(?<!at )last\b(?! of (?:it|them|that|this)\b)(?! (?:time|lot|night|batch|week|month|year))"
    r"(?! (?:half|third|quarter|bit|drops?|litre|liter|cup|pint|few|part|\d))"
    r"|\bat the (?:very )?end\b|\bto finish\b|\bfinally\b|\blastly\b|\bfor (?:the (?:very )?end|last)\b"
    r"|\bvery end\b"
)
#: "Once the soda is in, add the borax", "the borax after the soda": what is named here is in by then.
_BY_THEN = re.compile(
    r"\b(?:after|once|when|until|till|'til|as soon as|only after) "
    r"(?:all )?(?:(?:of )?(?:the|your|my|that|this) )?(?:\w+ )?$"
)
#: "The soda goes in before the borax": what is named here is not in yet, and what is told beside it goes in first.
_NOT_YET = re.compile(
    r"\bbefore (?:(?:adding|pouring(?: in)?|putting(?: in)?|you (?:add|pour|put)(?: in)?) )?"
    r"(?:(?:the|your|my|any) )?(?:\w+ )?$"
)
#: "Never add the caustic before the water": the other way round.
_DENIED = re.compile(r"\b(?:never|not|mustn.t|don.t|doesn.t|can.t|cannot|shouldn.t|won.t)\b(?! forget)")
#: Behind a name: it is in then; or something else comes of it, and "when the water steams" pours no water.
_IS_IN = re.compile(
    r"\s+(?:is|are|was|has gone|have gone|goes|go|went) (?:all )?(?:stirred |poured |mixed )?in\b(?! (?:the|your|a)\b)"
)
_BECOMES = re.compile(
    r"\s+(?:is|are|was|has|have|boils?|cools?|clears?|dissolves?|melts?|gets?|turns?|starts?|thickens?|steams?|stops?)\b"
)
#: "Pour the lye into the oils": not into its water.
_INTO_ELSE = re.compile(r"\W*(?:\w+ ){0,2}(?:in)?to (?:the |your |my )?(?!(?:cold |cool |iced? |the )*water)\w")
#: What is in the vessel already, told by a pronoun.
_IN_IT = re.compile(r"\b(?:in|into|to|with) (?:it|that|this|them)\b")
#: What may stand between two things that are told together: "the borax, soda and salt".
_TOGETHER = re.compile(
    r"(?:[\s,&+()/-]|\b(?:and|the|plus|with|of|then|an?|half|one|two|three|four|five|six)\b|\d|\b(?:ml|l|g|kg|oz|cups?|tsp|tbsp|drops?|parts?)\b)*"
)


#: "Add the borax, and last of all the glycerine": said of what comes.
_AND_THEN = re.compile(r"\b(?:and|then)(?: then)?,? (?:the )?$")
#: "First the glycerin and after that the oil".
_AND_THEN_MORE = re.compile(r"\b(?:then|after that|after which|next|second)\b")
#: "..., the last thing in is the oil": within so many signs, with no comma between, said of what comes as well.
_COMES_NEXT = 32


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


def placed(
    plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention], clauses: Sequence[Clause]
) -> list[Placed]:
    """Each line at the place where it goes in, in the order they go in."""
    seen = seen_of(plain, lines, mentions, clauses)
    done = _done(plain, seen) if len(plain) > LONG else {}
    found: dict[int, Placed] = {}
    for line in range(len(lines)):
        mine = [one for one in seen if one.mention.line == line]
        if line in done:
            mine = [one for one in mine if one.mention.start == done[line].start]
        mine = _told_late(mine)
        best = max((one.score for one in mine), default=0.0)
        one = next((one for one in mine if one.score == best and one.mention.own), None)
        if one is not None and best == LISTED and len(plain) <= LONG:
            one = _named_in_the_doing(one, mine, seen)
        one = one or next((one for one in mine if one.score == best), None)
        if one is not None:
            found[line] = Placed(line, one.mention, one.clause, one.score, float(one.mention.start))
    if done:  # what is said elsewhere to come first or last is said of another batch
        seen = [one for one in seen if found[one.mention.line].mention == one.mention]
    _targets_first(plain, found, seen)
    _first_and_last(plain, lines, found, seen)
    _water_first(plain, lines, found, seen)
    _in_that_order(plain, found, seen)
    _told_beside_another(plain, found, seen)
    _before_another(plain, found, seen)
    _scent_behind(lines, found)
    _top_up_behind(lines, found, seen)
    return sorted(found.values(), key=lambda one: (one.order, one.mention.start))


def _named_in_the_doing(listed: Seen, mine: Sequence[Seen], seen: Sequence[Seen]) -> Seen:
    """ "Glucoside, betaine.", told among the doing of a recipe whose list stands before it: they go in there."""
    begun = min((one.clause.first for one in seen if one.score > LISTED and not one.mention.own), default=None)
    if begun is None or listed.mention.start > begun:
        return listed
    return next((one for one in mine if one.score == LISTED and one.mention.start > begun), listed)


def _told_late(mine: list[Seen]) -> list[Seen]:
    """The mentions of a line; what is said of it before its amount is told looks less like a pour than it reads."""
    own = min((one.mention.start for one in mine if one.mention.own), default=0)
    return [replace(one, score=one.score - 1.0) if one.mention.start < own else one for one in mine]


def _done(plain: str, seen: Sequence[Seen]) -> dict[int, Told]:
    """Of a long account, where each line is done: list, trial, talk and recap lie elsewhere."""
    told = [Told(one.mention.line, one.mention.start, one.score, one.target) for one in seen]
    return done_at(plain, told)


def _together(plain: str, before: Sequence[Seen]) -> list[Seen]:
    """What is told in one breath, the last of it last: "a cup of borax and a cup of soda"."""
    chain = list(before[-1:])
    for one in reversed(before[:-1]):
        if (
            one.clause != chain[0].clause
            or one.target
            or not _TOGETHER.fullmatch(plain, one.mention.end, max(one.mention.end, chain[0].mention.start))
        ):
            break
        chain.insert(0, one)
    return chain


def _targets_first(plain: str, found: dict[int, Placed], seen: Sequence[Seen]) -> None:
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


def _first_and_last(plain: str, lines: Sequence[Ingredient], found: dict[int, Placed], seen: Sequence[Seen]) -> None:
    """ "The salt last of all", "water goes first": said anywhere, it holds."""
    by_clause: dict[Clause, list[Seen]] = {}
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
            begins = not plain[clause.first : word.start()].strip(" ,.:*-")
            if begins and _AND_THEN_MORE.search(plain, word.end(), clause.last) and _begun(seen, clause.first):
                continue  # "..., first the glycerin and after that the oil": of these two
            says_all = _GOES_FIRST.search(plain, clause.start, word.end()) is not None
            for line in _meant(plain, told, word):
                _named_there(found, told, line)
                _move(lines, found, line, first=True, of_all=says_all)
        whole = [one for one in told if not _A_PART.search(plain, clause.start, one.mention.start)]
        for word in _LAST.finditer(plain, clause.start, clause.end) if whole else ():
            for line in (
                _meant(plain, whole, word) if not _READY_FIRST.search(plain, clause.start, word.start()) else ()
            ):
                _named_there(found, told, line)
                _move(lines, found, line, first=False)


def _named_there(found: dict[int, Placed], told: Sequence[Seen], line: int) -> None:
    """A line that is only listed elsewhere goes in as it is said where it is said to be first or last."""
    here = found.get(line)
    there = next((one for one in told if one.mention.line == line and not one.mention.own), None)
    if here is not None and there is not None and here.mention.own and here.score <= LISTED:
        found[line] = replace(here, mention=there.mention, clause=there.clause)


def _begun(seen: Sequence[Seen], at: int) -> bool:
    """True where something was poured before a place of the text, and not only listed."""
    return any(one.score > LISTED and not one.mention.own and one.mention.start < at for one in seen)


def _water_first(plain: str, lines: Sequence[Ingredient], found: dict[int, Placed], seen: Sequence[Seen]) -> None:
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


def _dissolved(plain: str, caustic: Placed, water: Sequence[int], seen: Sequence[Seen]) -> Seen | None:
    """Where caustic and its water are told in a sentence of their own: poured into something else later is that lye."""
    own = [one for one in seen if one.mention.own]
    line = caustic.line
    here = next((one for one in own if one.mention.line == line), None)
    if here is None or not _INTO_ELSE.match(plain, caustic.mention.end, caustic.clause.end):
        return None
    there = {one.mention.line for one in own if one.clause.sentence == here.clause.sentence} - {line}
    return here if len(there) == 1 and there <= set(water) else None


def _in_that_order(plain: str, found: dict[int, Placed], seen: Sequence[Seen]) -> None:
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


def _names_alone(plain: str, told: Sequence[Seen]) -> bool:
    """True for a sentence that says names and nothing else."""
    sentence, at, rest = told[0].clause, told[0].clause.first, []
    for one in told:
        rest.append(plain[at : one.mention.start])
        at = one.mention.end
    return _BETWEEN_NAMES.fullmatch("".join([*rest, plain[at : sentence.last]])) is not None


def _told_beside_another(plain: str, found: dict[int, Placed], seen: Sequence[Seen]) -> None:
    """ "Once the soda is in, add the borax": where the doing tells of the soda nowhere else, it goes in right before.

    And of "the soda goes in before the borax" the borax goes in right behind.
    """
    for one in seen:
        here = found.get(one.mention.line)
        if here is None or one.mention.own or not here.mention.own or here.score > LISTED or told_of(plain, one.clause):
            continue
        by_then = _BY_THEN.search(plain, one.clause.first, one.mention.start)
        is_in = _IS_IN.match(plain, one.mention.end) is not None
        if by_then is None and not _NOT_YET.search(plain, one.clause.first, one.mention.start):
            continue
        if not is_in and (_BECOMES.match(plain, one.mention.end) or (by_then and "after" not in by_then.group())):
            continue
        beside = [
            other
            for other in seen
            if other.clause.sentence == one.clause.sentence
            and other.mention.line != one.mention.line
            and not other.mention.own
            and other.score > 0.0
        ]
        other = min(beside, key=lambda two: abs(two.mention.start - one.mention.start), default=None)
        partner = None if other is None else found.get(other.mention.line)
        if other is None or partner is None:
            if by_then and is_in:  # "once the soap is in, stir"
                found[here.line] = replace(
                    here, mention=one.mention, clause=one.clause, order=float(one.mention.start), score=2.0
                )
            continue
        if partner.mention.own and partner.score <= LISTED:
            partner = replace(partner, mention=other.mention, clause=other.clause, order=float(other.mention.start))
        elif partner.mention != other.mention:
            continue
        found[partner.line] = replace(partner, score=max(partner.score, 2.0))
        first = by_then or _DENIED.search(plain, one.clause.first, one.mention.start)
        order = partner.order + (-0.5 if first else 0.5)
        found[here.line] = replace(here, mention=one.mention, clause=one.clause, order=order, score=2.0)


def _before_another(plain: str, found: dict[int, Placed], seen: Sequence[Seen]) -> None:
    """ "Before the water: two ml of scent": what is first told there goes in before that."""
    for one in seen:
        if one.mention.own or not _NOT_YET.search(plain, one.clause.start, one.mention.start):
            continue
        if _DENIED.search(plain, one.clause.first, one.mention.start):
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
    doing = [one for line, one in found.items() if one.score > LISTED and not lines[line].topped]
    done = max((one.order for one in doing), default=0.0)
    begun = min((one.mention.start for one in doing), default=0)
    for line, one in list(found.items()):
        listed = one.mention.own and one.score <= LISTED and one.mention.start < begun
        if listed and one.order < done and SCENTS & lines[line].material.roles:
            found[line] = replace(one, order=done + 0.25)


def _top_up_behind(lines: Sequence[Ingredient], found: dict[int, Placed], seen: Sequence[Seen]) -> None:
    """A top-up of which only the list tells goes in behind what stands before it there, wherever that is poured."""
    listed = {one.mention.line: one.mention.start for one in seen if one.mention.own}
    for line, one in list(found.items()):
        if not lines[line].topped or not one.mention.own:
            continue
        before = [
            other.order for other in found.values() if listed.get(other.line, one.mention.start) < one.mention.start
        ]
        if before and max(before) > one.order:
            found[line] = replace(one, order=max(before) + 0.4)


def _meant(plain: str, told: Sequence[Seen], word: re.Match[str]) -> list[int]:
    """What "first" or "last" is said of: what stands before it in its clause, with what is told together with that."""
    before = [one for one in told if one.mention.end <= word.start() and not one.target]
    behind = [one for one in told if one.mention.start >= word.end() and not one.target]
    starts = not plain[told[0].clause.start : word.start()].strip(" ,:.*-") or word.group() in (
        "finally",
        "start with",
        "begin with",
    )
    after_and = _AND_THEN.search(plain, told[0].clause.start, word.start()) is not None
    comma = re.search(r"[,–—-] ?(?:the )?$", plain[told[0].clause.start : word.start()]) is not None
    near = behind[0].mention.start - word.end() <= _COMES_NEXT if behind else False
    comes = comma and near and not re.search(r"[,;–—]", plain[word.end() + 1 : behind[0].mention.start])
    if (starts or after_and or comes) and behind:
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
    elif others:
        last = max(one.order for one in others)
        order = last + 0.25 if last > here.order else here.order
        found[line] = replace(here, order=order, score=max(here.score, LISTED + 0.5))
