"""A recipe's prose read into acts: what goes in when and how, the waits, and what is done with all of it."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from firkin.core.measures import hours_words
from firkin.core.plan.acts import Act
from firkin.core.plan.clauses import Clause, clauses_of, conditions_of, told_of
from firkin.core.plan.cups import Cup, cups_of, pours_out
from firkin.core.plan.manners import Manner, counted_off, manner_of
from firkin.core.plan.mentions import Ingredient, Mention, mentions_of
from firkin.core.plan.parting import with_part
from firkin.core.plan.parts import parts_of
from firkin.core.plan.placing import LISTED, LONG, Placed, placed
from firkin.core.plan.resting import Pause, pauses_of
from firkin.core.plan.words import kinds, phrases
from firkin.core.texts import within

_HEAT = re.compile(r"\b(?:below|under|to|at|about|above)\s+(\d{2,3})\s*(?:°|degrees?|deg)\s*(?:c\b|celsius)?")
_WORDS_OF_AN_ACT = 12
#: What stands before "bottle" where it is done, and no thing.
_BOTTLES_IT = re.compile(r"(?:^|[,;:.()-]|\b(?:and|then|now|to|you|i|we|before|just|finally|can|must|or))\s*$")
_HABIT = re.compile(
    r"\b(?:every|each) (?:second |other |single )?(?:\w+day|week|month|year|spring|summer|autumn|winter)\b"
)
#: Within so many characters behind the last pour of a long account it is told how the batch rests and is filled.
_A_WHILE = 1500
#: So many characters behind a pour of a long account its manner may be told.
_HOW_FAR = 400


def read_acts(plain: str, lines: Sequence[Ingredient], written: str = "") -> tuple[Act, ...]:
    """The procedure a text tells for its lines; ``plain`` is ``written`` in small letters, place for place.

    Each line goes in once. What is only talked about is no act. A text that only lists its lines tells no procedure.

    Args:
        plain: the text in small letters, sign for sign as long as what was written.
        lines: what was read as lines, each with its place in the text.
        written: the text as it was written, for its words; ``plain`` where it is empty.

    >>> from firkin.core.catalogue import find
    >>> text = "one cup gel, two cups alcohol. stir the alcohol slowly into the gel. leave it overnight."
    >>> lines = [Ingredient(find("aloe gel"), "gel", (0, 11)), Ingredient(find("ethanol"), "alcohol", (13, 29))]
    >>> [(act.do, act.lines, act.wait_h) for act in read_acts(text, lines)]
    [('pour', (0,), None), ('pour', (1,), None), ('rest', (), 12.0)]
    """
    clauses: Sequence[Clause] = clauses_of(plain)
    if not lines or not clauses:
        return ()
    told = _Told.of_text(plain, lines, mentions_of(plain, lines, written or plain))
    pours = placed(plain, told.lines, told.mentions, clauses)
    manners = _manners(plain, pours, clauses)
    cups = [] if len(plain) > LONG else _cups(plain, pours, told, clauses)
    onto = {cup.onto for cup in cups}  # what is said there of how is said of the cup
    acts = [(one.order, _pour(told, one, manners.get(one.line, Manner()), cups, onto)) for one in pours]
    acts += [(cup.order, _poured_out(cup, [manners.get(line, Manner()) for line in _lines_of(cup)])) for cup in cups]
    clauses = _beside(clauses, pours) if len(plain) > LONG else clauses
    pauses = list(pauses_of(plain, clauses))
    acts += [(float(pause.start), _paused(plain, pause)) for pause in pauses]
    busy = {clause for one in pours for clause in clauses if clause == one.clause}
    busy |= {clause for cup in cups for clause in clauses if clause.start <= cup.at[0] < clause.end}
    busy |= {clause for pause in pauses for clause in clauses if clause.start <= pause.start < clause.end}
    for clause in clauses:
        act = _done(plain, clause)
        if act is not None and (clause not in busy or act.do == "heat"):
            acts.append((_after_its_pours(pours, clause), act))
    said_how = any(one.portions != 1 for one in manners.values()) and plain.count("\n") < len(pours)
    listed = all(one.score <= LISTED for one in pours) and len(acts) == len(pours) and not told.shares
    if listed and not said_how and not _in_another_order(pours, told):
        return ()
    return tuple(_settled([act for _, act in sorted(acts, key=lambda one: one[0])]))


def _in_another_order(pours: Sequence[Placed], told: "_Told") -> bool:
    """True where lines go in by the place of another mention: "water, glycerin, soap, in that order"."""
    starts = {float(mention.start) for mention in told.mentions}
    return any(one.order != one.mention.start and one.order in starts for one in pours)


@dataclass(frozen=True, slots=True)
class _Told:
    """The lines as they go in: a later part of a line is a line of its own here, with the place that names it.

    ``shares`` are the parts by line, ``begins`` where their words begin, ``of`` the line of the recipe of a later part.
    """

    lines: tuple[Ingredient, ...]
    mentions: tuple[Mention, ...]
    shares: dict[int, float]
    begins: dict[int, int]
    of: dict[int, int]

    @classmethod
    def of_text(cls, plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention]) -> "_Told":
        """The lines of a text and the places that name them, where parts of them are told apart."""
        parts = {} if len(plain) > LONG else parts_of(plain, lines, mentions)
        there, kept = list(lines), [one for one in mentions if one.line not in parts]
        shares: dict[int, float] = {}
        begins: dict[int, int] = {}
        of: dict[int, int] = {}
        for line, told in parts.items():
            for number, part in enumerate(told):
                at = line
                if number:
                    at = len(there)
                    there.append(replace(lines[line], at=(part.mention.start, part.mention.end)))
                    of[at] = line
                shares[at], begins[at] = part.share, part.start
                kept.append(replace(part.mention, line=at, own=False))
        return cls(tuple(there), tuple(sorted(kept, key=lambda one: (one.start, one.end))), shares, begins, of)

    def of_recipe(self, line: int) -> int:
        """The line of the recipe."""
        return self.of.get(line, line)


def _cups(plain: str, pours: Sequence[Placed], told: _Told, clauses: Sequence[Clause]) -> list[Cup]:
    chosen = {one.mention for one in pours}
    again = [one for one in told.mentions if one not in chosen]
    return cups_of(plain, pours, again, clauses, frozenset(told.of))


def _beside(clauses: Sequence[Clause], pours: Sequence[Placed]) -> list[Clause]:
    """The clauses of a long account in which it is made: from the first pour, if all are sure, to a while after."""
    starts = [one.mention.start for one in pours if one.score >= LISTED]
    if not starts:
        return list(clauses)
    if all(one.score > LISTED for one in pours):
        clauses = [one for one in clauses if one.end > min(starts)]
    return [one for one in clauses if one.start < max(starts) + _A_WHILE]


def _after_its_pours(pours: Sequence[Placed], clause: Clause) -> float:
    """The place of an act in the order: where it is told, behind what the same words pour."""
    return max((one.order + 0.1 for one in pours if one.clause == clause), default=float(clause.start))


def _manners(plain: str, pours: Sequence[Placed], clauses: Sequence[Clause]) -> dict[int, Manner]:
    """How each line goes in: by the words of its sentence that stand nearest behind it, up to the next line named."""
    starts = sorted(one.mention.start for one in pours if not one.into)
    found: dict[int, Manner] = {}
    for one in pours:
        if one.into:
            continue  # how something goes into it is no way it goes in itself
        after = next((start for start in starts if start > one.mention.start), len(plain))
        end = min(one.clause.last, max(after, one.mention.end)) if after < one.clause.last else one.clause.last
        first_here = not any(one.clause.first <= start < one.mention.start for start in starts)
        start = one.clause.first if first_here else max(one.clause.start, _behind(starts, one.mention.start))
        manner = manner_of(plain, one.clause, min(start, one.mention.start), end)
        if len(plain) > LONG and manner.portions == 1:
            manner = _told_at_length(plain, one, clauses, after, manner)
        elif after >= one.clause.last and manner.portions == 1:
            manner = _told_behind(plain, one, clauses, starts, manner)
        found[one.line] = manner
    return found


def _behind(starts: Sequence[int], here: int) -> int:
    return max((start for start in starts if start < here), default=0)


def _told_behind(plain: str, one: Placed, clauses: Sequence[Clause], starts: Sequence[int], manner: Manner) -> Manner:
    """The sentence behind a pour may still say how, where it names nothing: "Add salt. A pinch at a time." """
    behind = next((clause for clause in clauses if clause.sentence == one.clause.sentence + 1), None)
    if behind is None or any(behind.first <= start < behind.last for start in starts) or told_of(plain, behind):
        return manner
    more = manner_of(plain, behind, behind.first, behind.last)
    return more if more.portions != 1 else manner


def _told_at_length(plain: str, one: Placed, clauses: Sequence[Clause], after: int, manner: Manner) -> Manner:
    """Who talks at length says how a thing goes in some sentences on, before the next thing is named."""
    end = min(after, one.mention.end + _HOW_FAR)
    behind = [
        manner_of(plain, clause, max(clause.start, one.mention.end), min(clause.end, end))
        for clause in clauses
        if clause.end > one.mention.end and clause.start < end and not told_of(plain, clause)
    ]
    many = next((more.portions for more in behind if more.portions > 1), counted_off(plain, one.mention.end, end))
    if many == 1 and any(more.portions == 0 for more in behind):
        many = 0
    how = next((more.how for more in behind if more.how), "")
    return replace(manner, portions=many, how=manner.how or how)


def _lines_of(cup: Cup) -> list[int]:
    """The lines by which it is told how a cup goes in: what is in it, and what it is poured onto."""
    return [*(one.line for one in cup.pours), *([] if cup.onto is None else [cup.onto])]


def _pour(told: _Told, one: Placed, manner: Manner, cups: Sequence[Cup], onto: set[int | None]) -> Act:
    line = told.lines[one.line]
    manner = Manner() if one.line in onto else manner
    name = within(line.said or line.material.name, line.material.name)
    do = "top" if line.topped else "pour"
    portions = 1 if do == "top" else manner.portions
    if manner.how == "dropwise" and portions == 1:
        portions = 0  # drops are many additions
    share = told.shares.get(one.line)
    cup = next((cup for cup in cups if one in cup.pours), None)
    begins = cup is not None and one == min(cup.pours, key=lambda other: (other.order, other.mention.start))
    act = Act(
        do,
        f"Top up with {name}" if line.topped else f"{'Put' if begins else 'Add'} the {name}",
        (told.of_recipe(one.line),),
        () if share is None else (share,),
        portions=portions,
        how="" if cup is not None else manner.how,
        until=manner.until,
        vessel=cup.name if cup is not None else "",
        at=(told.begins.get(one.line, one.mention.start), one.mention.end),
    )
    last = share is not None and one.line == max(at for at in told.shares if told.of_recipe(at) == act.lines[0])
    words = with_part(act, name, last=last).removesuffix(".") if share is not None or act.vessel else act.text
    return replace(act, text=words + _manner_words(act, manner) + ".")


def _poured_out(cup: Cup, manners: Sequence[Manner]) -> Act:
    """A cup goes in as what is in it was told to."""
    many = max((manner.portions for manner in manners), default=1)
    many = 0 if many == 1 and any(manner.portions == 0 for manner in manners) else many
    how = next((manner.how for manner in manners if manner.how), "")
    act = Act("pour", cup.said, portions=many, how=how, source=cup.name, at=cup.at)
    if cup.said != pours_out(cup.name):
        return act  # its own words say how
    return replace(act, text=cup.said.removesuffix(".") + _manner_words(act, Manner(many, how)) + ".")


def _manner_words(act: Act, manner: Manner) -> str:
    text = ""
    if not act.vessel:  # what is in a cup goes in like that when the cup does
        if manner.how == "dropwise":
            text += ", drop by drop"
        elif manner.how:
            text += f", {manner.how}"
        if manner.portions > 1:
            text += f", in {manner.portions} additions"
        elif manner.portions == 0:
            text += ", a little at a time"
    return text + (f", until {manner.until}" if manner.until else "")


def _paused(plain: str, pause: Pause) -> Act:
    words = hours_words(pause.hours) if pause.hours else ""
    at = (pause.start, pause.end)
    if pause.kind == "again":
        said = re.sub(r"\s+", " ", plain[pause.start : pause.end]).strip(" ,.;")
        return Act("repeat", said[:1].upper() + said[1:] + ".", every_h=pause.every_h, for_h=pause.hours or None, at=at)
    if pause.kind == "work":
        return Act("mix", f"Mix it for {words}.", timer_h=pause.hours, at=at)
    return Act("rest", f"Leave it for {words}.", wait_h=pause.hours, at=at)


def _done(plain: str, clause: Clause) -> Act | None:
    """What a clause that names no line and no time does with all of it; None for talk."""
    if told_of(plain, clause):
        return None
    here = plain[clause.start : clause.end]
    said = re.sub(r"\s+", " ", here).strip(" ,.;:!-–—")
    for do in kinds("act"):
        found = phrases("act", do).search(here)
        if found is None or any(a <= clause.start + found.start() < b for a, b in conditions_of(plain, clause)):
            continue
        if found.group().startswith("bottle") and _HABIT.search(here):
            return None  # "we bottle it every second Friday"
        if found.group() == "bottle" and not _BOTTLES_IT.search(here[: found.start()]):
            continue  # "this little bottle is the preservative"
        if re.search(r"\b(?:don.?t|do not|never|not|no|without)\b(?: \w+){0,2} ?$", here[: found.start()]):
            continue
        told = re.sub(r"\s+", " ", here[found.start() :]).strip(" ,.;:!-–—")
        if (len(said.split()) > _WORDS_OF_AN_ACT and do != "heat") or not told:
            return None
        heat = _HEAT.search(here) if do in ("heat", "cool") else None
        return Act(
            do,
            told[:1].upper() + told[1:] + ".",
            temperature=float(heat[1]) if heat else None,
            at=(clause.start, clause.end),
        )
    return None


def _settled(acts: list[Act]) -> list[Act]:
    """Without the same rest told twice in a row."""
    kept: list[Act] = []
    for act in acts:
        if kept and act.do == "rest" and kept[-1].do == "rest" and act.wait_h == kept[-1].wait_h:
            continue
        kept.append(act)
    return kept
