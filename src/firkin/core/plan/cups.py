"""What is made ready in a cup of its own, and where that cup joins the rest."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from firkin.core.plan.clauses import Clause, told_of
from firkin.core.plan.mentions import Mention
from firkin.core.plan.placing import LISTED, Placed
from firkin.core.plan.words import CUPS, any_form

_ITS_OWN = r"small|little|separate|second|other|another|different|tiny|wee|spare|side|smaller"
_MADE_OF = r"(?:(?:glass|metal|plastic|steel|paper) )?"
#: A cup beside the one it is made in: "in a small cup", "in another bucket", "in a jug of its own".
_CUP = re.compile(
    rf"\b(?:in|into|using) (?:(?:(?:an?|the|your|my|one) )?(?:clean |dry )?(?:(?:{_ITS_OWN})[ ,]+)+(?:clean |dry )?"
    rf"{_MADE_OF}"
    r"|another (?:small |clean |dry )?)"
    rf"(?P<own>{CUPS})\b"
    rf"|\b(?:in|into) (?:an?|its own) (?P<alone>{CUPS}) (?:of its own|by itself|on its own|apart|aside)\b"
    rf"|\bin its own (?P<its>{CUPS})\b|\b(?P<apart>separately|on the side|to one side|apart from this|elsewhere)\b"
    rf"|\b(?<!the )(?<!a )(?<!second )(?P<head>{CUPS}): "
    r"|\b(?:slurry|premix|pre-mix)(?: up)? (?P<slurry>the|your|some)\b"
    rf"|\bin (?:(?:{_ITS_OWN}|sep) )?(?P<bare>cup|bowl|mug)\b(?! of)"
    r"|\b(?:make|prepare|form|mix up) (?:an?|your) (?:smooth |thick |thin |little )?(?P<paste>slurry|paste|premix)\b"
)
_CALLED = (
    r"slurry|dispersion|suspension|paste|premix|mixture|mix|solution|syrup|brine|lye|contents|blend|cream|lot|stuff"
)
_THAT_CUP = rf"(?:the|your|this|that|both) (?:\w+ )?(?:{CUPS}|{_CALLED}|two)"
_NOT_INTO = r"(?<!to )(?<!into )(?<!in )(?<!on )(?<!onto )(?<!with )(?<!over )(?<!upon )"
_BRINGS = (
    "pour", "add", "tip", "whisk", "beat", "stir", "fold", "drip", "drizzle", "put", "combine", "bring", "funnel",
    "empty", "scrape", "charge", "introduce", "incorporate", "blend", "trickle", "mix", "work", "transfer", "swirl",
    "let", "dump", "chuck", "throw", "lob",
)  # fmt: skip
#: What brings a cup to the rest: "pour it in", "whisk the cup into the jug", "add the slurry".
_JOINS = re.compile(
    rf"\b(?:{any_form(*_BRINGS)})\b(?:[^.;!?]{{0,40}}?\b){_NOT_INTO}"
    rf"(?:it|that|(?:this|that) one|this|them|(?P<cup>{_THAT_CUP}))\b"
    r"|\bin (?:it|that|this|they) goes?\b"
    rf"|\b(?:it(?: all)?|all of it|the lot|(?:this|that) one|that|this|they|them|(?P<cup2>{_THAT_CUP}))"
    r" (?:goes?|(?:you|we|i) (?:put|pour|add|mix|stir)"
    r"|is (?:then |now |all )?(?:poured|added|stirred|whisked|tipped|mixed))"
    r" (?:in|into|inside|to|with)\b"
    r"|\bthen (?:poured|added|stirred|whisked|tipped|mixed) (?:in|into|to|with)\b"
    r"|\b(?:whisk|stir|pour|tip|blend|mix) the (?:two|lot) together\b"
    rf"|\bpour (?:the )?(?:{CUPS}) (?:two|2|b)\b"
    rf"|\b(?:the )?(?P<cup3>{CUPS}) (?:(?:in)?to|->|→) (?:the )?\w"
)
#: "Whisk that into the water": what was made before goes into something else, before its name.
_THAT_INTO = re.compile(
    rf"\b(?:{any_form(*_BRINGS)})\s+(?:all (?:of )?)?"
    rf"(?:it|that|this|(?:(?:the|your|this|that) (?:\w+ )?)?(?:{_CALLED}|{CUPS}))\s+"
    r"(?:(?:all|slowly|gently|carefully|then|back)\s+)*"
    r"(?:(?:in)?to|with|->|→)\s+(?:(?:the|your|my|a)\s+)?(?:\d[\d.,/½¼¾]*\s?(?:m?l|k?g|oz|cups?|pints?|lit(?:re|er)s?)\s+(?:of\s+)?)?"
    r"(?:(?:the|hot|cold|warm|cool|cooled|melted|boiled|rest of the)\s+)*$"
)
#: "Stirred together in a jar", where the jar is taken again later.
_IN_A = re.compile(rf"\bin an? ({CUPS})\b")
_TAKES_IT = any_form("whisk", "beat", "work", "stir", "pour", "tip", "add", "empty", "scrape", "blend")
_ADDS = re.compile(r"\b(?:add|pour(?: it)? in|tip in|stir in|in it goes|in with it)\b\W*$")
_POURS = re.compile(rf"\b(?:{any_form('pour', 'add', 'tip', 'stir', 'whisk', 'put')}|goes?|into|in)\b")
_INTO_THE = re.compile(rf"\b(?:goes?|{any_form('pour', 'add', 'tip')}) [^.;]{{0,40}}?(?:in)?to the (?P<cup>{CUPS})\b")
#: Of all that is done with a cup, what stays within it.
_MOVES = re.compile(
    rf"\b(?:{any_form('pour', 'add', 'tip', 'combine', 'fold', 'funnel', 'drip', 'drizzle')}"
    r"|into|inside|in|to the|goes?|together)\b|->|→"
)
_WITHIN = re.compile(r"\b(?:let|leave|cool|warm|heat|stand|sit|rest|until|till)\b")
_AT_THE_END = re.compile(r"\b(?:at the (?:very )?end|last(?: of all)?|to finish|finally)\b")
_MOST_WORDS = 14
#: So many cups of one kind are told apart; a kitchen has no more.
_MOST_ALIKE = 4


@dataclass(frozen=True, slots=True)
class Cup:
    """A cup with the pours that go into it, and where it is poured out: its place in the order, and its words.

    ``onto`` is the line that it is poured onto, where that one goes in at the same words.
    """

    name: str
    pours: tuple[Placed, ...]
    order: float
    at: tuple[int, int]
    said: str
    onto: int | None = None


def cups_of(
    plain: str, pours: Sequence[Placed], again: Sequence[Mention], clauses: Sequence[Clause], parts: frozenset[int]
) -> list[Cup]:
    """The cups of a text that join the rest, in their order; what joins nothing is where all of it is made.

    Args:
        plain: the text in small letters.
        pours: every line where it goes in, in order.
        again: every other place where a line is named.
        clauses: the clauses of the text.
        parts: the lines of ``pours`` that are a later part of another line.
    """
    found: list[Cup] = []
    for called, mine, with_it in _filled(plain, pours, clauses, parts):
        others = [one for one in pours if one not in mine]
        taken = {id(one) for cup in found for one in cup.pours}
        if not mine or not others or any(id(one) in taken for one in mine):
            continue
        many = sum(cup.name.endswith(called) for cup in found)
        name = f"{('second', 'third', 'fourth')[many - 1]} {called}" if 0 < many < _MOST_ALIKE else called
        cup = _joined(plain, name, mine, others, again, clauses, with_it=with_it)
        if cup is not None:
            found.append(cup)
    left = [one for one in pours if all(one not in cup.pours for cup in found)]
    return sorted(found, key=lambda cup: cup.order) if left else []


def _filled(
    plain: str, pours: Sequence[Placed], clauses: Sequence[Clause], parts: frozenset[int]
) -> Iterator[tuple[str, list[Placed], bool]]:
    """What may go into a cup of its own: told to, poured into something else later, or stirred into a part of what is
    there already; True beside the last, which goes in with that part where nothing else is told."""
    for clause in clauses:
        here = [one for one in pours if one.clause == clause]
        target = next((one for one in here if _THAT_INTO.search(plain, clause.start, one.mention.start)), None)
        if target is not None and len(here) > 1:  # "rub the gum into the glycerine, whisk that into the water"
            here = [one for one in here if one.mention.end <= target.mention.start]
        told = None if told_of(plain, clause) else _CUP.search(plain, clause.start, clause.end)
        if told is not None:
            behind = [one for one in here if one.mention.start > told.start()]
            heads = plain[clause.start : told.start()].strip(" ,.:*-()0123456789") == ""
            mine = behind if heads and behind else here
            name = next((told[one] for one in ("own", "alone", "its", "head", "bare") if told[one]), "")
            yield name or "cup", mine, False
            continue
        jar = _IN_A.search(plain, clause.start, clause.end)
        if (
            jar is not None
            and here
            and re.search(rf"\b(?:{_TAKES_IT}) the {jar[1]} |\bthe {jar[1]} (?:goes )?into ", plain[clause.end :])
        ):
            yield jar[1], here, False
            continue
        if target is not None and not told_of(plain, clause):
            if target not in here:
                yield "cup", here, False
                continue
            before = [one for one in pours if one.order < target.order and one.mention.end <= clause.start]
            yield "cup", [one for one in before if one.score > LISTED], False
            continue
        into = next((one for one in here if one.line in parts and one.into), None)
        if into is not None and len(here) > 1:
            begun = [one for one in pours if one.order < min(other.order for other in here)]
            if begun:
                yield "cup", here, True


def _joined(
    plain: str,
    name: str,
    mine: Sequence[Placed],
    others: Sequence[Placed],
    again: Sequence[Mention],
    clauses: Sequence[Clause],
    *,
    with_it: bool,
) -> Cup | None:
    """The cup with the place where it joins the rest; None where no such place is told."""
    clause, last = mine[0].clause, max(one.mention.end for one in mine)
    end = max(one.order for one in mine)
    for at in (one for one in clauses if one.end > last):
        start = max(at.start, last)
        if told_of(plain, at):
            continue
        here = [one for one in others if one.clause == at]
        if at == clause:
            there = _adds_at_once(plain, start, at.end, name)
        else:
            lines = {one.line for one in mine}
            named = any(one.line in lines and start <= one.start < at.end for one in again)
            there = _told_to_join(plain, start, at.end, name, named=named, alone=not here)
        if there is not None:
            onto = next((one for one in here if _THAT_INTO.search(plain, at.start, one.mention.start)), None)
            into = [one.order for one in here if one.into or one is onto or one.mention.end <= there]
            order = max([end, *into, *([] if at == clause else [float(there)])]) + 0.2
            if _AT_THE_END.search(plain, start, at.end):
                order = max([order, *(one.order + 0.3 for one in others)])
            said = _said(plain, start, at.end, name, whole=at != clause)
            return Cup(name, tuple(mine), order, (start, at.end), said, None if onto is None else onto.line)
        if with_it and at != clause:
            break
    if with_it:  # what is stirred into the rest of the water goes in with it
        return Cup(name, tuple(mine), end + 0.2, (clause.start, clause.end), pours_out(name))
    return None


def _adds_at_once(plain: str, start: int, end: int, name: str) -> int | None:
    """Where the clause that fills a cup pours it out as well: "stir it into the rest of the water and add"."""
    bare = _ADDS.search(plain, start, end)
    return bare.start() if bare is not None else _told_to_join(plain, start, end, name, named=False, alone=False)


def _told_to_join(plain: str, start: int, end: int, name: str, *, named: bool, alone: bool) -> int | None:
    """Where a cup is told to be poured out: by its name or none, by what is in it, or as what something goes into.

    ``named`` where what is in it is named there again, ``alone`` where nothing goes in there for the first time.
    """
    if _stays(plain, start, end):
        return None
    joins = next((one for one in _JOINS.finditer(plain, start, end) if _is_of(one, name)), None)
    if joins is None and named:
        joins = _POURS.search(plain, start, end)
    if joins is None and alone:
        noun = name.rpartition(" ")[2]
        joins = next((one for one in _INTO_THE.finditer(plain, start, end) if one["cup"] == noun), None)
    return None if joins is None else joins.start()


def _is_of(joins: re.Match[str], name: str) -> bool:
    """True where the words mean this cup: by its own name, or by none."""
    named = next((joins[one] for one in ("cup", "cup2", "cup3") if joins[one]), "")
    noun = named.rpartition(" ")[2]
    if not re.fullmatch(CUPS, noun) or noun == name.rpartition(" ")[2]:
        return True
    return name == "cup" and noun not in ("pot", "bucket")


def _stays(plain: str, start: int, end: int) -> bool:
    """True for "let it cool", "stir it until smooth": nothing is poured by it."""
    if _WITHIN.match(plain[start:end].strip(" ,.")) is not None and "into" not in plain[start:end]:
        return True
    return _MOVES.search(plain, start, end) is None


def _said(plain: str, start: int, end: int, name: str, *, whole: bool) -> str:
    """The words of the text for it, where they name a vessel or what is in it and are not too many."""
    words = re.sub(r"\s+", " ", plain[start:end]).strip(" ,.;:!-–—")
    if whole and 2 < len(words.split()) <= _MOST_WORDS and re.search(rf"\b(?:{CUPS}|{_CALLED})\b", words):
        return words[:1].upper() + words[1:] + "."
    return pours_out(name)


def pours_out(name: str) -> str:
    """What is done with a cup, where the text has no words of its own for it."""
    return f"Pour the {name} into the rest."
