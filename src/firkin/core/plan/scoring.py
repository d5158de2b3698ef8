"""How much each place that names a line looks like the one where it is poured."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from firkin.core.plan.clauses import Clause, conditions_of, told_of
from firkin.core.plan.manners import portions_in
from firkin.core.plan.mentions import Ingredient, Mention
from firkin.core.plan.words import VESSELS, any_form, words

#: A verb before "in" that belongs to it: "stir in the flakes" names what goes in, and not where.
_MEASURED = (
    r"(?:(?:\d[\d.,/]*%?|[½¼¾%]|an?|half|one|two|three|four|five|six|eight|ten|twelve|twenty|fifty|hundred|and|of|the|another"
    r"|other|rest|remaining|second|last|all"
    r"|cups?|ounces?|oz|g|grams?|ml|tablespoons?|teaspoons?|tbsp|tsp|pints?|spoons?|handfuls?|drops?|l|lit(?:re|er)s?)\s+){0,6}"
)
_PUTS_IN = any_form(
    "stir", "whisk", "mix", "put", "pour", "poor", "add", "fold", "blend", "throw", "tip", "drip", "beat", "work",
    "rub",
    "come", "drop", "dust", "grate", "shave", "sprinkle", "crumble", "feed", "chuck", "trickle", "drizzle", "dribble",
    "ladle", "spoon", "scatter", "shake", "pop", "toss", "sling", "lob", "bung", "plonk", "plop", "squirt", "squeeze",
    "dump", "slosh", "swirl", "slip", "ease", "bring", "get", "take", "carry", "splash", "glug", "sift", "sieve",
    "tumble", "shove", "measure", "stream", "run", "let", "slide", "weigh",
)  # fmt: skip
_PHRASAL = re.compile(
    rf"\b(?:{_PUTS_IN}|go(?:es|ing)?|coming|(?:stir|whisk|mix|pour|add|fold|blend|tip|drip|feed|trickle|drizzle)\w*ing)"
    rf" in\s+{_MEASURED}\W*$"
)
#: "The gum into the glycerine": what follows is a place, with no "and" between but in a number.
_INTO = re.compile(
    r"\b(?:into|(?<!goes )(?<!go )(?<!comes )in|over|on|onto|inside|unto|im|ins|dans|en|nell?[oa]?)\s+"
    r"(?!(?:it|them|which|(?:that|this) (?:\d|an?|half|one|two|three|[a-z]+ty|[a-z]+teen))\b)"
    r"(?:(?:\d+[.,]\d+|(?<=hundred )and|(?<=thousand )and|(?!(?:and|with|then|dissolve|mix|stir|put|pour|add|melt|whisk"
    r"|place|measure|weigh|goes|go|is|are|comes|come|gets)\b"
    rf"|(?:{VESSELS})\b(?! of\b))[\w½¼¾⅓⅔/%°-]+\.?)\s+){{0,6}}"
    r"\(?(?:l'|d')?$"
)
#: "Now the alcohol to the aloe", "the lye goes to the water": between two names.
_TO_THE = re.compile(r"\s*(?:goes |go |is added |gets added )?(?:slowly |gently )?to (?:the|your|my|this) ")
#: "Measure 300 ml of water into the big bowl": it is in then.
_INTO_A_VESSEL = re.compile(
    r"(?:\s*(?:,|\band|\bwith|&|\+) (?:the |your |some )?(?:[^\W\d_]+ ){1,2}?){0,2}"
    r"\s*,?\s*(?:in|into) (?:an?|the|your|my) (?!measuring )(?:[^\W\d_]+ ){0,2}"
    rf"(?:{VESSELS})\b(?! of (?!its|their|your))"
)
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
_ADD_TO = re.compile(
    r"\b(?:add|stir|pour|mix|tip)\w*\b.*\bto\s+(?!(?:this|that|it|them) )(?:the\s+|your\s+)?(?:\w+\s+)?$"
)
#: "The alcohol, very slowly.": it goes in so.
_SLOWLY = re.compile(
    r",? \(?(?:very |really |real |ever so |nice and )?"
    r"(?:slowly|slow|gradually|dropwise|drop by drop|in a (?:very )?thin stream)\b"
)
#: "Don't add the borax until the soda is in": it goes in then.
_ONLY_THEN = re.compile(r"[^,.;]{0,30}?\b(?:until|till|'til|before)\b")
#: "Take half of the water and make it hot": so much of it is used there.
_A_PART_OF = re.compile(r"\b(?:half|third|quarter|part|rest|some) (?:of )?(?:the |your |my )?(?:\w+ )?$")
#: "The soap then, and a stir".
_THEN_BEHIND = re.compile(r",? then(?=\s*(?:[,.;!\n]|$))")
#: "You want the borax in next".
_IN_NEXT = re.compile(r"(?: in (?:next|now|first|last|then|there|after|before)|,? (?:and )?in (?:it|they) goe?s?)\b")
#: "The grated soap" is how it is, and no more grating.
_AS_IT_IS = re.compile(r"(?:\b(?:the|your|my|this|that|of|some|all)|\d ?\w{0,2}|\b(?:cups?|ounces?|grams?|bars?)) $")
#: Within so many characters before a name it is told what goes into it.
_HOW_FAR = 200


@dataclass(frozen=True, slots=True)
class Seen:
    """A mention with its clause and how much it looks like a pour."""

    mention: Mention
    clause: Clause
    score: float
    target: bool


def seen_of(
    plain: str, lines: Sequence[Ingredient], mentions: Sequence[Mention], clauses: Sequence[Clause]
) -> list[Seen]:
    """Every mention of a line with its clause, how much it looks like a pour, and whether something goes into it."""
    found: list[Seen] = []
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
            Seen(mention, clause, _score(plain, lines[mention.line], mention, clause, contexts[clause]), target)
        )
    poured: set[int] = set()
    for place, one in enumerate(found):
        if not one.mention.own and one.mention.line in poured and _made_before(plain, one):
            found[place] = replace(one, score=-1.0)
        elif one.score > 0.0:
            poured.add(one.mention.line)
    # the "water" of a top-up is not that of another line of water
    topped = {(one.clause, lines[one.mention.line].material.id) for one in found if lines[one.mention.line].topped}
    return [
        replace(one, score=-1.0)
        if not (one.mention.own or lines[one.mention.line].topped)
        and (one.clause, lines[one.mention.line].material.id) in topped
        else one
        for one in found
    ]


def _made_before(plain: str, one: Seen) -> bool:
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
    by_parts: bool  # "alcohol in five lots"
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
            portions_in(plain, clause.start, clause.end) != 1
            or _SLOWLY.search(plain, clause.start, clause.end) is not None,
            words("top").search(here) is not None,
            None if listing is None else clause.first + listing,
            max(corrections, default=-1),
        )


def _score(plain: str, line: Ingredient, mention: Mention, clause: Clause, context: _Context) -> float:
    """How much a mention looks like the place where its line goes in: below 0 not at all, 0 listed, 2 poured."""
    before = plain[clause.start : mention.start]
    if context.told or any(a <= mention.start < b for a, b in context.conditions):
        return -1.0
    only_then = _ONLY_THEN.match(plain, mention.end, clause.end) is not None
    if context.taken_back_at >= mention.end or (words("refused").search(before) and not only_then):
        return -0.5 if mention.own else -1.0
    by_parts = (
        context.by_parts
        and not mention.own
        and (portions_in(plain, mention.end, clause.end) != 1 or _SLOWLY.match(plain, mention.end) is not None)
    )
    score = 2.0 if context.doing or by_parts or _WHEN.match(plain, clause.start, mention.end + _WHEN_BEHIND) else 1.0
    if score < 2.0 and not mention.own and _THEN_BEHIND.match(plain, mention.end):
        score = 2.0
    if not mention.own and before.rfind("(") > before.rfind(")"):
        return 0.75  # said besides: "(dissolve it in the vinegar first)"
    listed = context.listed_from
    wanted = _IN_NEXT.match(plain, mention.end, clause.end) is not None
    if (
        listed is not None
        and listed <= mention.start
        and not wanted
        and not words("doing").search(plain, listed, mention.start)
    ):
        score = 0.0
    elif (
        _only_readied(before)
        and not wanted
        and not _A_PART_OF.search(before)
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
    readied = [one for one in words("readying").finditer(before) if not _AS_IT_IS.search(before, 0, one.start())]
    return bool(readied) and not words("doing").search(before, readied[-1].start())
