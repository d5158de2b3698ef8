"""What the per cents of a recipe mean: how strong a stock is or which share of a batch, and of which line they are."""

import re
from dataclasses import replace

from firkin.core.catalogue import alcohol_names
from firkin.core.measures import Quantity
from firkin.core.recipe.heard import Heard
from firkin.core.recipe.recipe import HeardLine, MarkKind
from firkin.core.recipe.said import SHARE_SLACK, Percent, bigness

#: "six hundred grams of SLES, that's the seventy per cent paste": between a line and a strength that is of it.
_THAT_IS = re.compile(
    r"[\s,(-]*(?:and\s+)?(?:that(?:['’]?s| is)|it(?:['’]?s| is)|this is|which is|they(?:['’]re| are)|being)"
    r"(?:\s+(?:the|an?|about|only|labelled|marked|sold as|in))*\s*",
    re.IGNORECASE,
)
_STRONG_FIRST = re.compile(r"[\w.,-]+\s*(?:%|per\s?cent|proof)[^\w%]*,\s*", re.IGNORECASE)
_OF_SO_STRONG = re.compile(r"\bof\s+(?:an?\s+|the\s+)?[\d.,]+\s*(?:%|per\s?cent)", re.IGNORECASE)
#: Per cents of a list by share add up to 100, and amounts are those per cents of the whole, as far as they are rounded.
_LIST_SLACK = 0.02


def decide_percents(heard: Heard) -> None:
    """A per cent with no other figure is an amount, unless it can only be how strong a stock is."""
    percents, lines = heard.percents, heard.lines
    listed = sum(said.middle for said in percents.values())
    listed += sum(line.amount.value for line in lines if line.amount and line.amount.unit == "%")
    shares = {i for i in percents if not lines[i].material.alcohol}
    a_list = (
        (bool(shares) and 80.0 <= listed <= 120.0)
        or len(shares) >= 2
        or any(line.amount and line.amount.unit == "%" for line in lines)
    )
    measured = any(line.amount and line.amount.kind in ("volume", "mass", "part") for line in lines)
    gone: set[int] = set()
    for i, said in percents.items():
        line = lines[i]
        told = _passed_on(heard, i) if line.material.alcohol or measured else None
        if told is not None:
            gone.add(i)
        elif (i in shares and not (measured and line.material.reports == "active")) or (
            a_list and line.claims.misread_pct is None
        ):
            lines[i] = replace(line, amount=Quantity(said.middle, "%"), strength=None)
    heard.without(gone)
    lines = heard.lines
    whole = heard.made_up_to or heard.sizes
    for i, line in enumerate(lines):
        if line.strength is None or line.amount is None or line.material.alcohol:
            continue
        of_so_strong = _OF_SO_STRONG.search(heard.text[slice(*line.at)])  # "40 mL of 4 % bleach", whatever it comes to
        is_share = bool(whole) and not of_so_strong and _is_share(line, whole[0])
        if is_share or line.material.id == "water":  # which has no strength
            share = replace(line.claims, share_pct=line.strength.value)
            lines[i] = replace(line, strength=None, claims=share)


def told_behind(heard: Heard) -> None:
    """A strength told of the line before it, in the same breath: one that its material is sold in."""
    for told in list(heard.said_strengths):
        span, named = told
        before = [i for i, line in enumerate(heard.lines) if line.at[1] <= span.start]
        i = max(before, key=lambda at: heard.lines[at].at[1], default=None)
        line = heard.lines[i] if i is not None else None
        if i is None or line is None or line.strength is not None or not line.material.sold_as(span.value.middle):
            continue
        between = heard.text[line.at[1] : span.start]
        if named in (None, line.material) and _THAT_IS.fullmatch(between):
            heard.said_strengths.remove(told)
            heard.lines[i] = heard.strong(replace(line, at=(line.at[0], span.end)), span.value)
            heard.marks = [one for one in heard.marks if one.line != i and not span.start <= one.start < span.end]
            heard.mark(line.at[0], span.end, MarkKind.LINE, "", i)


def told_of_the_wrong_one(heard: Heard) -> None:
    """ "alcohol, which is 91 per cent, one cup aloe": what is no strength of the thing behind it."""
    for i, line in enumerate(heard.lines[1:], start=1):
        last, said = heard.lines[i - 1], line.strength
        leads = _STRONG_FIRST.match(heard.text, line.at[0], line.at[1])
        if said is None or leads is None or last.strength is not None or line.material.sold_as(said.value):
            continue
        if last.material.sold_as(said.value) and last.at[1] <= line.at[0]:
            between = heard.text[last.at[1] : line.at[0]]
            if _THAT_IS.fullmatch(between) or not between.strip(" ,"):
                told = Percent(said.low, said.high)
                heard.lines[i - 1] = heard.strong(replace(last, at=(last.at[0], leads.end())), told)
                heard.lines[i] = replace(line, strength=None, strength_said="", at=(leads.end(), line.at[1]))
                heard.marks = [one for one in heard.marks if one.line not in (i - 1, i)]
                for place in (i - 1, i):
                    heard.mark(*heard.lines[place].at, MarkKind.LINE, "", place)


def a_list_by_share(heard: Heard) -> None:
    """ "Ethanol 80 %, 800 ml; water 20 %, 200 ml": where every line's per cent is its share, none is a strength."""
    lines = heard.lines
    strong = [i for i, line in enumerate(lines) if line.material.alcohol and line.strength and line.amount]
    shares = [line.claims.share_pct for i, line in enumerate(lines) if i not in strong]
    if not strong or not shares or any(share is None for share in shares) or any(line.amount is None for line in lines):
        return
    told = {i: line.strength.value for i in strong if (line := lines[i]).strength is not None}
    whole = sum(bigness(line.amount) for line in lines if line.amount)
    sizes = {i: bigness(amount) for i in strong if (amount := lines[i].amount) is not None}
    fit = whole > 0.0 and all(abs(sizes[i] / whole - pct / 100.0) <= _LIST_SLACK for i, pct in told.items())
    if fit and abs(sum(share or 0.0 for share in shares) + sum(told.values()) - 100.0) <= 100.0 * _LIST_SLACK / 2.0:
        for i, pct in told.items():
            lines[i] = replace(lines[i], strength=None, claims=replace(lines[i].claims, share_pct=pct))


def put_on_hand(heard: Heard) -> None:
    """The strength of the bottle that is there, and the one that is called for."""
    alcohols = [i for i, line in enumerate(heard.lines) if line.material.alcohol]
    for said in heard.called_for:
        for i in alcohols:
            if heard.lines[i].strength is None:
                heard.lines[i] = heard.strong(heard.lines[i], said)
    if heard.on_hand and alcohols:
        i = alcohols[0]
        line = heard.lines[i]
        here = heard.strong(line, heard.on_hand[-1]).strength
        if line.strength is None:
            heard.lines[i] = replace(line, strength=here)
        elif here is not None and line.strength.value != here.value:
            heard.lines[i] = replace(line, claims=replace(line.claims, on_hand=here))


def _passed_on(heard: Heard, at: int) -> int | None:
    """The line that a strength by itself belongs to: of the same material, with an amount and no strength."""
    bare = heard.lines[at]
    for i, line in enumerate(heard.lines):
        free = line.strength is None or line.claims.words in alcohol_names().spirits
        if i != at and line.material.id == bare.material.id and (line.amount or line.wording) and free:
            claims = replace(line.claims, misread_pct=bare.claims.misread_pct)
            heard.lines[i] = replace(line, strength=bare.strength, claims=claims)
            return i
    return None


def _is_share(line: HeardLine, whole: Quantity) -> bool:
    """True when an amount is about its per cent of the whole: "SLES 12 %, 600 g" of 5 kg."""
    amount, strength = line.amount, line.strength
    if amount is None or strength is None or amount.kind != whole.kind or amount.kind not in ("volume", "mass"):
        return False
    if not strength.fraction:
        return False
    is_part = amount.mL / whole.mL if amount.kind == "volume" else amount.g / whole.g
    return abs(is_part / strength.fraction - 1.0) <= SHARE_SLACK
