"""What is done to the tokens of a sentence before the grammar sees them: runs joined, lead-ins dropped."""

import re
from collections.abc import Iterator
from functools import cache

from lark import Token

from firkin.core import datafiles

_QUANTITY = frozenset({"AMOUNT", "COUNT", "STRENGTH", "SHARE_OF"})
_ENDS = frozenset({"_COMMA", "_AND"})
_LEAD = frozenset({"WORDS", "IS", "_IN", "HAVE"})


class Runs:
    """Joins a run of unknown words into one token, and drops it where it says nothing.

    It says nothing where it touches a material's name, and where it leads in to an amount of one ("you will need 2
    cups water"). What comes before "water" may make something else of it (pond water), so only plain words are dropped
    there. What stands in brackets is an amount over again, unless it is the only one, or the strength of what stands
    before it.
    """

    always_accept = ("ALSO", "ALSO_STRONG")

    def process(self, stream: Iterator[Token]) -> Iterator[Token]:
        joined: list[Token] = []
        closed = False  # a line that has its amount, and its strength in brackets
        for token in stream:
            last = joined[-1] if joined else None
            if token.type == "ALSO":
                _again(joined, token)
            elif token.type == "ALSO_STRONG":
                strength = re.sub(r"^(?:at least |min(?:imum|\.)? )| or \w+$", "", token.strip("()"))
                joined.append(Token("STRENGTH", strength))
                closed = len(joined) > 2 and joined[-3].type in _QUANTITY
                continue
            elif closed and token.type in ("AMOUNT", "COUNT"):
                joined += [Token("_COMMA", ","), token]
            elif last is None or last.type != "WORDS":
                joined.append(token)
            elif token.type == "WORDS" or (str(token) == "water" and not set(last.split()) <= _plain_water()):
                joined[-1] = last.update(value=f"{last} {token}")
            else:
                joined.append(token)
            closed = False
        joined = [_as_strength(joined, i) for i in range(len(joined))]
        kept = [token for i, token in enumerate(joined) if not _leads_in(joined, i) and not _only_pauses(joined, i)]
        for i, token in enumerate(kept):
            around = kept[max(0, i - 1) : i] + kept[i + 1 : i + 2]
            if token.type != "WORDS" or all(near.type != "MATERIAL" for near in around):
                yield token


def _again(joined: list[Token], token: Token) -> None:
    """An amount in brackets: instead of a number of pieces, or the only one there is, or said again."""
    amount = Token("AMOUNT", re.sub(r"\((?:or |about |approx\.? |= ?)?", "", token).rstrip(")"))
    types = [one.type for one in joined[-2:]]
    an_ounce = bool(joined) and re.search(r"(?<!fl )(?:oz|ounces?)\.?$", joined[-1]) and re.search(r"[mc]?l$", amount)
    if types[:1] == ["COUNT"]:
        joined[-len(types)] = amount
    elif an_ounce:  # a fluid ounce, then
        joined[-1] = amount
    elif "AMOUNT" not in types:
        joined.append(amount)


def _as_strength(tokens: list[Token], at: int) -> Token:
    """The number in "8.3 L ethanol 96" is a strength: so much of a material, then a bare number, and no more."""
    token, before, after = tokens[at], [one.type for one in tokens[max(0, at - 2) : at]], tokens[at + 1 : at + 2]
    bare = token.type == "COUNT" and re.fullmatch(r"[0-9]{1,2}(?:[.,][0-9]+)?", token)
    ends = all(one.type in _ENDS for one in after)
    return Token("STRENGTH", f"{token} %") if bare and ends and before == ["AMOUNT", "MATERIAL"] else token


def _leads_in(tokens: list[Token], at: int) -> bool:
    """True for words before an amount of a material: "you will need", "what we need is"."""
    if tokens[at].type not in _LEAD:
        return False
    first = at
    while first and tokens[first - 1].type in _LEAD:
        first -= 1
    after = at
    while after < len(tokens) and tokens[after].type in _LEAD:
        after += 1
    if not any(token.type == "WORDS" for token in tokens[first:after]):
        return False
    what = after
    while what < len(tokens) and tokens[what].type in _QUANTITY:
        what += 1
    begins = first == 0 or tokens[first - 1].type in _ENDS
    asked = after < what < len(tokens) and tokens[what].type == "MATERIAL"
    end = next((i for i in range(what, len(tokens)) if tokens[i].type in _ENDS), len(tokens))
    return begins and asked and tokens[end - 1].type not in ("AMOUNT", "COUNT")  # or else the names come first


def _only_pauses(tokens: list[Token], at: int) -> bool:
    """True for the comma in "2 cups alcohol, the 91 %, and aloe": what follows it is said of what went before."""
    here, after = [token.type for token in tokens[max(0, at - 1) : at + 2]], tokens[at + 2 : at + 3]
    return here == ["MATERIAL", "_COMMA", "STRENGTH"] and all(token.type in _ENDS for token in after)


@cache
def _plain_water() -> frozenset[str]:
    return frozenset(datafiles.toml("recipe/heard.toml")["plain_water"])
