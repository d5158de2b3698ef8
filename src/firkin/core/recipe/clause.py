"""Reading one sentence: statements by their patterns first, then what is left bound by score."""

import re
from dataclasses import replace

from firkin.core.measures import Quantity
from firkin.core.recipe.binding import Group, bind
from firkin.core.recipe.heard import Mention, Share
from firkin.core.recipe.merging import about
from firkin.core.recipe.names import Named
from firkin.core.recipe.patterns import PATTERNS
from firkin.core.recipe.pieces import MOST_PARTS
from firkin.core.recipe.recipe import MarkKind
from firkin.core.recipe.said import Amount, Percent
from firkin.core.recipe.spans import Span
from firkin.core.recipe.statements import Statements

#: "1 L of the water", "the other 3 L of water": a part of what was read before.
_PART_OF = re.compile(
    r"\b(?:of|from) (?:the|that|your|this)\b|\b(?:the|your) (?:other|remaining|last|first|rest|second)\b|\bremaining\b"
)
#: "25 g ethanol from the above": of what was told.
_FROM_ABOVE = re.compile(r" (?:from|of|out of) (?:the )?above\b", re.IGNORECASE)
#: "The last half litre of water, which goes in too".
_GOES_IN_TOO = re.compile(r",? (?:which |and that |that )?(?:also )?goes in (?:too|as well|also)\b", re.IGNORECASE)


class Clause(Statements):
    """One sentence: its statements, and its lines."""

    def read(self) -> None:
        """Read it: every pattern in turn, then the rest by score."""
        for pattern, does in PATTERNS:
            at = 0
            while (found := pattern.search(self.pieces.letters, at)) is not None:
                before = self.pieces.letters
                does(self, found)
                at = found.start() if self.pieces.letters != before else found.start() + 1
        self._bind()

    def _bind(self) -> None:
        letters = self.pieces.letters
        groups = bind(letters, self.pieces.plausible())
        groups = _amount_behind(self._parts(groups))
        told = any(group.head is not None and (group.amounts or group.strengths) for group in groups)
        words = any(span.kind == "plain" for span in self.pieces.everything)
        only_names = re.fullmatch(r"[MQ,&+:|()]+", self.pieces.said) is not None and not words
        asked = told or only_names or "d" in self.pieces.said or self.pieces.sentence.listed
        for group in groups:
            self._group(group, asked=asked)

    def _parts(self, groups: list[Group]) -> list[Group]:
        """Bare numbers and fractions as parts, where every figure of the sentence is one and there are two or more."""
        heads = [group for group in groups if group.head is not None]
        shared = [group for group in heads if group.shares and not group.amounts]
        if len(shared) >= 2:
            same = len({self._span(group.shares[0]).value for group in shared}) == 1
            for group in shared:
                value = 1.0 if same else self._span(group.shares[0]).value
                self.pieces.put(group.shares[0], "A", Amount(Quantity(value, "part")))
            return bind(self.pieces.letters, self.pieces.plausible())
        counted = [group for group in heads if group.numbers and not group.amounts]
        plausible = self.pieces.plausible()
        unmeasured = [group for group in heads if group.amounts or (group.strengths and not group.numbers)]
        ratio = "A" not in self.pieces.letters and all(
            place not in plausible for group in counted for place in group.numbers
        )
        if len(counted) >= 2 and not unmeasured and ratio and self._as_parts(counted):
            for group in counted:
                self.pieces.put(group.numbers[0], "A", Amount(Quantity(self._span(group.numbers[0]).value, "part")))
            return bind(self.pieces.letters, self.pieces.plausible())
        return groups

    def _as_parts(self, groups: list[Group]) -> bool:
        """True where small bare numbers beside names can only be parts: nothing there is counted in pieces."""
        heads = [self._span(group.head).value for group in groups if group.head is not None]
        numbers = [self._span(group.numbers[0]).value for group in groups]
        pieces = any(
            head.material.roles & {"peel"} or head.material.id == "bar-soap" or _fruity(head) for head in heads
        )
        joined = ":" in self.pieces.said or "t" in self.pieces.said
        return (joined or not pieces) and max(numbers) <= MOST_PARTS

    def _group(self, group: Group, *, asked: bool) -> None:
        if group.head is None:
            for at in (*group.amounts, *group.strengths, *group.numbers, *group.shares):
                self._leftover(at)
            return
        head = self._span(group.head)
        group, said = self._percents(group, head)
        if not group.amounts and not said:
            self._named_alone(group, head, asked)
            return
        if not group.amounts and self.title and self.follows and "P" in self.pieces.said and head.kind != "unknown":
            self.heard.mentions.append(Mention(head, title=True))
            for at in said:
                self.heard.claimed(self._span(at), head.value.material)
                self._take(MarkKind.CLAIM, at, what="What it is said to make.")
            return
        self._measured(group, head, said)

    def _percents(self, group: Group, head: Span) -> tuple[Group, dict[int, Percent]]:
        """The strengths of a name, by their place, and the group without them; figures of no use are marked.

        A bare number that can be a strength is one; where nothing else is measured, the first of the others is an
        amount without a unit ("3 lemons" is counted in lemons, and a fruit stays without).
        """
        plausible = self.pieces.plausible()
        numbers = [at for at in group.numbers if at in plausible]
        pieces = [at for at in (*group.numbers, *group.shares) if at not in numbers]
        said = {at: self._span(at).value for at in group.strengths} | {
            at: Percent(self._span(at).value, self._span(at).value) for at in numbers
        }
        if pieces and not group.amounts and not _fruit(head):
            group = replace(group, amounts=(pieces[0],))
            self.pieces.put(pieces[0], "A", Amount(None, self._span(pieces[0]).text))
            self.heard.mark_span(self._span(pieces.pop(0)), MarkKind.UNREAD, "A number without a unit.")
        for at in pieces:
            self._leftover(at)
        return group, said

    def _named_alone(self, group: Group, head: Span, asked: bool) -> None:
        """A name with neither amount nor strength: it waits for them, as a mention."""
        if head.kind == "unknown":
            self._unknown_alone(head, asked)
            return
        listed = self.pieces.sentence.listed
        titles = self._titles(group)
        if head.value.words == "gel":
            mention = Mention(head, title=True)
        elif head.value.ware and not listed and not titles:
            mention = Mention(head)
        else:
            mention = Mention(head, asked, titles, listed=listed, at_line=len(self.heard.lines))
        self.heard.mentions.append(mention)

    def _measured(self, group: Group, head: Span, said: dict[int, Percent]) -> None:
        """A name with its amounts and strengths is a line, unless it tells an amount over again."""
        amounts = [self._span(at) for at in group.amounts]
        spans = [head, *amounts, *(self._span(at) for at in said)]
        place = (min(span.start for span in spans), max(span.end for span in spans))
        measured = [span for span in amounts if not isinstance(span.value, Amount) or span.value.quantity is not None]
        counted = next(iter([*measured, *amounts]), None)
        value = counted.value if counted is not None else None
        amount, share = (None, value) if isinstance(value, Share) else (value, None)
        if amount is not None and self._over_again(head, amount, place):
            self.heard.mentions.append(Mention(head))
            for spot in group.amounts:
                self.heard.mark_span(self._span(spot), MarkKind.STEP, "Of an amount that was read before.")
            return
        for span in amounts if not measured else ():
            self.heard.mark_span(span, MarkKind.UNREAD, "How much that is, is not said.")
        before = [said[at] for at in sorted(said) if self._span(at).start < head.start]
        after = [said[at] for at in sorted(said) if self._span(at).start > head.start]
        self.heard.measured += [(span.start, span.end) for span in amounts]
        self.heard.line(head, amount, before, after, share, place)
        for extra in amounts:
            if counted is not None and extra is not counted:
                again = _about(extra.value, counted.value)
                kind = MarkKind.LINE if again else MarkKind.UNREAD
                self.heard.mark_span(extra, kind, "The amount over again." if again else "A second amount.")

    def _over_again(self, head: Span, amount: Amount, at: tuple[int, int]) -> bool:
        """True where the amount is of a line read before: what we have by now, a part of it, or a direction."""
        told = [
            line.amount for line in self.heard.lines if line.material is head.value.material and line.amount is not None
        ]
        if amount.quantity is None or not told:
            return False
        if _GOES_IN_TOO.match(self.pieces.written, at[1]):
            return False
        if "h" in self.pieces.said and amount.quantity in told:
            return True
        if _FROM_ABOVE.match(self.pieces.written, at[1]):
            return any(_within(amount.quantity, whole) for whole in told)
        if not (self.heard.directing or _PART_OF.search(self.pieces.written[max(0, at[0] - 14) : at[1]].lower())):
            return False
        return any(_within(amount.quantity, whole) for whole in told)

    def _titles(self, group: Group) -> bool:
        """True for a name in a title: the first sentence holds no figure, or it stands before the colon."""
        if not self.title:
            return False
        if not any(letter in "ASN" for letter in self.pieces.said):
            return self.follows and not re.search(r"[d+&]", self.pieces.said)
        colon = self.pieces.said.find(":")
        first = next((at for at, letter in enumerate(self.pieces.said) if letter in "ASN"), len(self.pieces.said))
        return group.end <= colon < first

    def _unknown_alone(self, span: Span, asked: bool) -> None:
        if asked:
            self.heard.mark_span(span, MarkKind.UNREAD, "Words that could name something that goes in.")

    def _leftover(self, at: int) -> None:
        self.heard.mark_span(self._span(at), MarkKind.UNREAD, "A figure that nothing was found for.")


def _amount_behind(groups: list[Group]) -> list[Group]:
    """ "Grab your alcohol and pour in a cup": an amount without a name is of the name before it that has none."""
    out: list[Group] = []
    for group in groups:
        last = out[-1] if out else None
        waiting = last is not None and last.head is not None and not (last.amounts or last.numbers or last.shares)
        if waiting and last is not None and group.head is None and group.amounts:
            out[-1] = replace(last, amounts=group.amounts, end=group.end)
            continue
        out.append(group)
    return out


def _fruity(name: Named) -> bool:
    """True for lemons and the like, which are no oil when they are counted."""
    return "essential-oil" in name.material.roles and "oil" not in name.words


def _fruit(head: Span) -> bool:
    return head.kind == "named" and _fruity(head.value)


def _about(one: Amount | Share, other: Amount | Share) -> bool:
    """True where an amount says another over again, or says it in pieces."""
    if isinstance(one, Share) or isinstance(other, Share) or other.quantity is None:
        return False
    return one.quantity is None or about(one.quantity, other.quantity)


def _within(amount: Quantity, whole: Quantity) -> bool:
    """True where an amount is no more than another of its kind."""
    if amount.kind != whole.kind:
        return False
    if amount.kind == "volume":
        return amount.mL <= whole.mL * 1.001
    return amount.g <= whole.g * 1.001 if amount.kind == "mass" else amount.value <= whole.value
