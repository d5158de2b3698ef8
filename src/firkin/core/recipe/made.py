"""What a pattern of pieces says of what is made: its title, its size, its strength, and with what it is topped up."""

import re

from firkin.core.recipe.heard import Mention, Share
from firkin.core.recipe.recipe import MarkKind
from firkin.core.recipe.said import Amount
from firkin.core.recipe.telling import Found, Telling

_INTO = re.compile(r"\s+into\b", re.IGNORECASE)
_OF_THE = re.compile(r"\s+of\s+(?P<the>the|that|your|my|our)?", re.IGNORECASE)
#: A title names no less than this, mL or g, of what comes out of a shop; a line does.
_SIZE_FROM = 300.0


class WhatIsMade(Telling):
    """A method for each thing a pattern can say of what is made."""

    def _titled(self, found: Found) -> None:
        """ "Handgel 500 mL: ...", "Benzalkonium solution 0.13 %: ..." """
        sizes = {at: self._span(at).value for at in self._of(found, "A")}
        if any(_no_size(size) for size in sizes.values()):
            return
        for at, size in sizes.items():
            self.heard.sized(size)
            self._take(MarkKind.CLAIM, at, what="How much it is said to make.")
        names = self._of(found, "MQ")
        for at in self._of(found, "S"):
            self.heard.claimed(self._span(at), self._span(names[0]).value.material if names else None)
            self._take(MarkKind.CLAIM, at, what="What it is said to make.")
        for at in names:
            self.heard.mentions.append(Mention(self._span(at), title=True))
        self.pieces.take(*range(*found.span()))

    def _sized_title(self, found: Found) -> None:
        amount = self._amount(found).quantity
        small = (
            amount is not None
            and amount.kind in ("volume", "mass")
            and (amount.mL if amount.kind == "volume" else amount.g) < _SIZE_FROM
        )
        if (
            self.title
            and (self.follows or self.pieces.letters[found.end() : found.end() + 1] == ":")
            and not (small and "P" not in found[0])
        ):
            self._titled(found)

    def _gel_title(self, found: Found) -> None:
        """ "Carbomer gel, 1 kg" over a list: a gel of it is made, and does not go in."""
        if self._span(found.start("Q")).text.lower() in ("gel", "paste", "cream"):
            self._sized_title(found)

    def _makes_size(self, found: Found) -> None:
        self.heard.sized(self._amount(found))
        self._claim(found, "How much it is said to make.", "A")
        for name in self._of(found, "MQ"):
            self.heard.mentions.append(Mention(self._span(name), title=True))
        self.pieces.take(*self._of(found, "MQ"))

    def _for_each(self, found: Found) -> None:
        """ "80 g of soap per litre": of the whole, unless the whole turns out to be more than that."""
        span = self._span(found.start("A"))
        self.heard.rates.append((span, self._amount(found)))
        self._makes_size(found)

    def _makes_strength(self, found: Found) -> None:
        at = self._of(found, "S")[0]
        solution = next((place for place in self._of(found, "P") if self._span(place).text == "solution"), None)
        first = min(at, solution) if solution is not None else 0
        if solution is not None and first and self.pieces.letters[first - 1] == "M":
            self.pieces.take(solution)  # "caustic soda 50 % solution": how strong the stock is
            return
        if "P" in found[0] and any(
            "chlorine" in self._span(place).value.material.roles for place in self._of(found, "M")
        ):
            self._take(MarkKind.ADVICE, at, what="So much bleach, not so much chlorine.")
            return
        names = [found.start("M")] if found.groupdict().get("M") else []
        self.heard.claimed(self._span(at), self._span(names[0]).value.material if names else None)
        for name in names:
            self.heard.mentions.append(Mention(self._span(name), title=True))
        self._claim(found, "What it is said to make.", "S")
        self.pieces.take(*range(at, at + 1), *names)

    def _makes_both(self, found: Found) -> None:
        """ "Makes 100 mL of 77 %"."""
        self._makes_size(found)
        self._makes_strength(found)

    def _comes_to(self, found: Found) -> None:
        """ "That's 66 %" is of the whole; behind a stock without its strength it is of that."""
        before = self.pieces.letters[: found.start()].rstrip(",(")
        if before.endswith("M") and not before.endswith("SM"):
            material = self._span(len(before) - 1).value.material
            if material.reports == "active":
                self.pieces.take(*(at for at in self._of(found, "yb")))
                return
        self._makes_strength(found)

    def _active(self, found: Found) -> None:
        if self._span(found.start()).text == "active":
            self._makes_strength(found)

    def _ended_by_strength(self, found: Found) -> None:
        """A strength by volume at the end, behind amounts: what it comes to, unless what it follows has a strength."""
        name = found.start("S") - 2
        has_strength = self._span(name).value.material.reports == "active"
        if self._span(found.start("S")).value.unit == "% v/v" and not has_strength:
            self._makes_strength(found)

    def _strong_gel(self, found: Found) -> None:
        """ "My 62 % gel"."""
        if self._span(found.end() - 1).value.words == "gel":
            self._makes_strength(found)
            self.pieces.take(found.end() - 1)

    def _from_stock(self, found: Found) -> None:
        """ "For 70 percent from 99 percent": what it is to be, and the stock."""
        self.heard.called_for.append(self._span(found.start("T")).value)
        self._take(MarkKind.CLAIM, found.start("T"), what="The stock it is made from.")
        self._makes_strength(found)

    def _top_up(self, found: Found) -> None:
        name = found.start("M")
        stated = self._stated(name)
        spots = [spot for spot, _ in stated]
        size = self._amount(found) if found["A"] else None
        self.heard.top_up(self._span(name), size, [said for _, said in stated], self._stretch(name, *spots))
        if found["A"]:
            self._claim(found, "What it is made up to.", "A")
        self._take(MarkKind.LINE, *self._of(found, "urq"), what="As much as it takes.")
        self.pieces.take(*range(*found.span()), *spots)

    def _top_up_bare(self, found: Found) -> None:
        amount = self._amount(found)
        if amount.quantity is None or amount.quantity.kind not in ("volume", "mass"):
            return
        self.heard.made_up_to.append(amount.quantity)
        self.heard.bare_top_up = (self._span(found.start("A")).start, self._span(found.start("A")).end)
        self._claim(found, "What it is made up to.", "A")
        self.pieces.take(*range(*found.span()))

    def _to_make(self, found: Found) -> None:
        """ "Water to make 1 gallon" tops up; "aloe makes 1 cup" does not."""
        if self._span(found.start("g")).text.startswith("to "):
            self._top_up(found)

    def _top_up_with(self, found: Found) -> None:
        """Not "dilute the soap with water", which thins the soap, nor "fill the water into the jug"."""
        thins = self._span(found.start()).text.startswith("dilut")
        behind = self._span(found.start("M")).end
        if "w" not in found[0] and (thins or _INTO.match(self.pieces.written, behind)):
            self.pieces.take(found.start())
            return
        if self._rest_of_a_line(found) or self._told_already(found):
            self.pieces.take(*range(found.start(), found.end()))
            return
        self._top_up(found)

    def _told_already(self, found: Found) -> bool:
        """ "Top it off with the oil", where the oil was measured before: it comes last, and no more of it than that."""
        name = self._span(found.start("M"))
        material, words = name.value.material, self.pieces.written[self._span(found.start()).start : name.start]
        told = any(
            line.amount is not None
            and (line.material is material or (not material.known and material.name in line.material.name.lower()))
            for line in self.heard.lines
        )
        said_again = "off" in words.split() or words.split()[-1:] == ["the"] or material.id != "water"
        return told and not found["A"] and said_again

    def _rest_of_a_line(self, found: Found) -> bool:
        """ "Then the rest of the alcohol": of what was measured before, and no topping up."""
        first, name = self._span(found.start()), self._span(found.start("M"))
        of = _OF_THE.match(self.pieces.written, first.end)
        if self.pieces.letters[found.start()] != "r" or of is None or (of["the"] is None and found["A"]):
            return False
        material = name.value.material
        return any(
            line.amount is not None and (line.material is material or (line.material.alcohol and material.alcohol))
            for line in self.heard.lines
        )


def _no_size(amount: Amount | Share) -> bool:
    """True for what cannot be how much is made."""
    return isinstance(amount, Share) or amount.quantity is None or amount.quantity.kind == "part"
