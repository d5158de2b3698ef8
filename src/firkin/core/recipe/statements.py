"""Statements: what a pattern of pieces says of a line, of the whole, or of nothing that goes in."""

from dataclasses import replace

from firkin.core.catalogue import find
from firkin.core.measures import Quantity
from firkin.core.recipe.heard import Mention, Share
from firkin.core.recipe.made import WhatIsMade
from firkin.core.recipe.names import Named
from firkin.core.recipe.recipe import MarkKind
from firkin.core.recipe.said import Amount, Percent
from firkin.core.recipe.telling import Found

_ADVICE = frozenset("MQWASNFRL$")
#: Alcohol in a bottle at hand, as a bare number: "I've only got 70".
_ON_HAND = (40.0, 100.0)
#: A per cent from here on, with no name, is how strong alcohol is.
_PURE = 50.0


class Statements(WhatIsMade):
    """One sentence being read into what was heard: a method for each thing a pattern can say."""

    def _trial(self, found: Found) -> None:
        start = self._span(found.start()).start
        places = [at for at in range(found.start(), len(self.pieces.letters)) if self.pieces.letters[at] in _ADVICE]
        self.heard.trials.append((start, self.pieces.sentence.end))
        self._take(MarkKind.ADVICE, *places, what="A trial, not counted.")
        self.pieces.take(*range(found.start(), len(self.pieces.letters)))

    def _not(self, found: Found) -> None:
        self._take(MarkKind.ADVICE, *self._of(found, "".join(_ADVICE)), what="Said of what not to do, or not to have.")
        self.pieces.take(*range(*found.span()))

    def _kills(self, found: Found) -> None:
        name = found.start("M")
        material = self._span(name).value.material
        if material.known:
            self.heard.claims = replace(self.heard.claims, kills=material.id)
        if "A" not in self.pieces.letters[max(0, name - 3) : found.end()]:
            self.heard.mentions.append(Mention(self._span(name), title=True))
            self.pieces.take(name)
        self._take(MarkKind.CLAIM, *self._of(found, "S"), what="Said to kill germs.")
        self.pieces.take(found.start("k"))

    def _kills_so_many(self, found: Found) -> None:
        self._take(MarkKind.ADVICE, *self._of(found, "SN"), what="Said to kill germs.")
        self.pieces.take(*self._of(found, "k"))

    def _instead(self, found: Found) -> None:
        first, second = found.start("S"), found.start("T")
        leading = self.pieces.letters.find("j", found.start(), found.end()) < first
        hand, called = (second, first) if leading else (first, second)
        self.heard.on_hand.append(self._span(hand).value)
        self.heard.called_for.append(self._span(called).value)
        for at in self._of(found, "MQ"):
            self.heard.mentions.append(Mention(self._span(at)))
        self._take(MarkKind.CLAIM, first, second, what="One stock in place of another.")
        self.pieces.take(*range(*found.span()))

    def _instead_of(self, found: Found) -> None:
        self._take(MarkKind.ADVICE, *self._of(found, "MQS"), what="What it stands in for, not counted.")

    def _on_hand(self, found: Found) -> None:
        at = found.start("S")
        span = self._span(at)
        said = span.value if span.kind == "strength" else Percent(span.value, span.value)
        names = self._of(found, "MQ")
        if not _ON_HAND[0] <= said.middle <= 200.0 or any(
            not self._span(name).value.material.alcohol for name in names
        ):
            self.pieces.take(found.start())
            return
        self.heard.on_hand.append(said)
        for name in names:
            self.heard.mentions.append(Mention(self._span(name)))
        self._take(MarkKind.CLAIM, at, what="The bottle that is here.")
        self.pieces.take(*range(*found.span()))

    def _dose(self, found: Found) -> None:
        self.heard.claims = replace(self.heard.claims, dose=self._amount(found).quantity)
        for at in self._of(found, "L"):
            self.heard.claims = replace(self.heard.claims, loads=self._span(at).value)
            self._take(MarkKind.CLAIM, at, what="So many loads.")
        self._claim(found, "What a load takes.", "A")
        self.pieces.take(*range(*found.span()))

    def _loads(self, found: Found) -> None:
        self.heard.claims = replace(self.heard.claims, loads=self._span(found.start()).value)
        self._take(MarkKind.CLAIM, found.start(), what="So many loads.")

    def _cost_per_load(self, found: Found) -> None:
        at = self._of(found, "$")[0]
        self.heard.claims = replace(self.heard.claims, cost_per_load=self._span(at).value)
        self._take(MarkKind.CLAIM, at, what="What a load costs.")

    def _cost(self, found: Found) -> None:
        self.heard.claims = replace(self.heard.claims, cost=self._span(found.start()).value)
        self._take(MarkKind.CLAIM, found.start(), what="What it costs.")

    def _when(self, found: Found) -> None:
        self._take(MarkKind.STEP, found.start(), what="A time, a temperature, a pH, or in how many goes.")

    def _cut(self, found: Found) -> None:
        parts = self._span(found.start("R")).value
        if len(parts) != 2:
            return
        if self.pieces.letters[found.start()] == "C":
            self.heard.cut = max(parts) / min(parts)
        self._claim(found, "Cut with water while bottling, or before use.", "R")
        self._take(MarkKind.CLAIM, *self._of(found, "M"), what="What it is cut with.")
        self.pieces.take(*range(*found.span()))

    def _ratio(self, found: Found) -> None:
        at = found.start("R")
        parts = self._span(at).value if self.pieces.letters[at] == "R" else ()
        names = [(place, self._stated(place)) for place in self._of(found, "MQ")]
        parts = parts if len(set(parts)) > 1 else (1.0,) * len(names)
        if len(parts) != len(names):
            return
        for part, (place, stated) in zip(parts, names, strict=True):
            spots = [spot for spot, _ in stated]
            stretch = self._stretch(place, *spots)
            self.heard.line(self._span(place), Amount(Quantity(part, "part")), [said for _, said in stated], at=stretch)
            self.pieces.take(place, *spots)
        self._take(MarkKind.LINE, at, what="The ratio of the lines.")
        self.pieces.take(*range(*found.span()))

    def _container(self, found: Found) -> None:
        glass = any(self._span(at).value is True for at in self._of(found, "KJ"))
        several = "J" in found[0]
        amount = self._amount(found) if "A" in found[0] else None
        self.heard.vessel(None if several else amount, glass)
        if amount is not None:
            self._claim(found, "Bottles to fill." if several else "What it goes into.", "A")
        self.pieces.take(*self._of(found, "KJ"))

    def _container_of(self, found: Found) -> None:
        """ "a 500 mL bottle of alcohol" is so much alcohol."""
        self.pieces.take(*self._of(found, "K"))

    def _part_of_bottle(self, found: Found) -> None:
        name = found.start("M")
        share = Amount(Quantity(100.0 * self._span(found.start("F")).value, "%"))
        stated = self._stated(name)
        spots = [spot for spot, _ in stated]
        place = self.heard.line(self._span(name), share, [said for _, said in stated], at=self._stretch(name, *spots))
        self._take(MarkKind.LINE, found.start("F"), what="A part of the bottle.", line=place)
        self.pieces.take(name, *spots, *range(*found.span()))

    def _who(self, found: Found) -> None:
        self.heard.who = True
        self._take(MarkKind.CLAIM, found.start(), what="Said to be a WHO formulation.")

    def _share_of(self, found: Found) -> None:
        """ "1 % of 5 L = 5 mL" is one amount."""
        first, whole = found.start("S"), found.start("A")
        said = self._span(found.start("B")).value if found["B"] else None
        end = found.start("B") if found["B"] else whole
        span = replace(
            self._span(first),
            end=self._span(end).end,
            value=Share(self._span(first).value.middle, self._span(whole).value.quantity, said),
        )
        self.pieces.take(*range(*found.span()))
        self.pieces.spans[first] = span
        self.pieces.letters = self.pieces.letters[:first] + "A" + self.pieces.letters[first + 1 :]

    def _recap(self, found: Found) -> None:
        """ "which would be half a cup": the amount before it over again."""
        at = found.start("A")
        before = next((place for place in range(found.start() - 1, -1, -1) if self.pieces.letters[place] in "AN"), None)
        if before is None:
            return
        old, new = self._span(before), self._span(at)
        if (
            isinstance(new.value, Amount)
            and isinstance(old.value, Amount)
            and old.value.quantity is None
            and new.value.quantity is not None
        ):
            self.pieces.spans[before] = replace(old, value=new.value)
        self._take(MarkKind.LINE, at, what="The amount before it, over again.")
        self.pieces.take(found.start())

    def _of_each(self, found: Found) -> None:
        """ "vinegar and peroxide, 250 mL of each": so much of every name of the sentence."""
        names = self._names_between_amounts(found)
        if len(names) < 2:
            return
        for at in names:
            stated = self._stated(at)
            spots = [spot for spot, _ in stated]
            place = self._stretch(at, *spots)
            self.heard.line(self._span(at), self._amount(found), [said for _, said in stated], at=place)
            self.pieces.take(at, *spots)
        self._take(MarkKind.LINE, found.start("A"), what="Of each.")
        self.pieces.take(*range(*found.span()))

    def _names_between_amounts(self, found: Found) -> list[int]:
        """The names behind "a cup each of", up to the next amount; or those before it, back to the last one."""
        letters = self.pieces.letters
        until = letters.find("A", found.end())
        behind = [at for at in range(found.end(), len(letters) if until < 0 else until) if letters[at] in "MQ"]
        since = letters.rfind("A", 0, found.start())
        before = [at for at in range(since + 1, found.start()) if letters[at] in "MQ"]
        return behind if len(behind) > 1 else before if len(before) > 1 else [*before, *behind]

    def _each(self, found: Found) -> None:
        """ "One cup each of soda and borax", "soda, borax, 1 cup each"."""
        if self._span(found.start("l")).text not in ("each", "of each", "each of"):
            return
        names = self._of(found, "MQ")
        place = found.start("A")
        for at in names:
            self.heard.line(self._span(at), self._amount(found))
        self.pieces.take(*names)
        self._take(MarkKind.LINE, place, what="Of each.")
        self.pieces.take(*range(*found.span()))

    def _purpose_of(self, found: Found) -> None:
        """ "Salt to thicken, about 20 g": what it is for."""
        self.pieces.take(*range(*found.span()))

    def _defines(self, found: Found) -> None:
        """ "1 Teil = 100 mL" says what a word means, and names nothing that goes in."""
        for at in self._of(found, "AW"):
            self.heard.mark_span(self._span(at), MarkKind.UNREAD, "It says what a word means.")
        self.pieces.take(*range(*found.span()))

    def _purpose(self, found: Found) -> None:
        """ "Bioethanol for fireplaces": what a thing is for."""
        self._take(MarkKind.ADVICE, *self._of(found, "W"), what="What it is for.")
        self.pieces.take(found.start())

    def _unclear(self, found: Found) -> None:
        self._take(MarkKind.UNREAD, found.start(), what="How much that is, is not said.")

    def _of_it(self, found: Found) -> None:
        """ "SLES 70 ...: 200 g of it": of what was named last."""
        at = found.start()
        name = max((place for place in range(at) if self.pieces.letters[place] in "MQW"), default=None)
        amount = self._span(at)
        self.pieces.take(at)
        if name is not None and self.pieces.letters[name] == "W" and self.pieces.letters[max(0, name - 1)] == "f":
            name = None  # "for the crew, ten litres of it"
        if name is not None and self.pieces.letters[max(0, name - 2) : name] == "Ao" and self._vague(name - 2):
            self.pieces.take(name - 2, name - 1)  # "a bar of soap, and you want six ounces of it"
        if name is None and self.title:
            self.heard.sized(amount.value)
            self.heard.mark_span(amount, MarkKind.CLAIM, "How much it is said to make.")
        elif name is not None and (name == 0 or self.pieces.letters[name - 1] not in "Ao"):
            stated = self._stated(name)
            spots = [spot for spot, _ in stated]
            said = [one for _, one in stated]
            place = self.heard.line(self._span(name), amount.value, said, at=self._stretch(name, *spots))
            self.heard.mark_span(amount, MarkKind.LINE, "So much of it.", place)
            self.pieces.take(name, *spots)
        elif name is None and self.heard.mentions:
            mention = self.heard.mentions.pop()
            place = self.heard.line(mention.span, amount.value)
            self.heard.mark_span(amount, MarkKind.LINE, "So much of it.", place)
        else:
            self.heard.mark_span(amount, MarkKind.STEP, "Of what was read before.")

    def _vague(self, at: int) -> bool:
        """True for an amount of which nothing is said in any measure."""
        value = self._span(at).value
        return isinstance(value, Amount) and value.quantity is None

    def _so_much_of_strength(self, found: Found) -> None:
        """ "SLES: 75 g of 70 %": of what was named right before, where it is sold so strong."""
        name, at = found.start("M"), found.start("S")
        said: Percent = self._span(at).value
        named: Named = self._span(name).value
        if not (named.material.sold_as(said.middle) or "weak" in named.qualifiers):
            return
        self.heard.line(self._span(name), self._amount(found), [said], at=self._stretch(name, found.start("A"), at))
        self.pieces.take(*range(*found.span()))

    def _of_strength(self, found: Found) -> None:
        """ "A cup of 91 percent": alcohol, of which nothing else is that strong."""
        at = found.start("S")
        said: Percent = self._span(at).value
        if said.middle < _PURE and "proof" not in said.unit:
            return
        named = Named(find("isopropanol"), "alcohol")
        span = replace(self._span(at), value=named)
        place = self._stretch(found.start("A"), at)
        self.heard.line(span, self._amount(found), [said], at=place)
        self.pieces.take(*range(*found.span()))
