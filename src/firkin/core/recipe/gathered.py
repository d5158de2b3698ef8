"""What was gathered from a recipe's sentences, and what only the whole of them can decide: titles, per cents, sizes."""

from collections.abc import Iterator
from dataclasses import dataclass, field, replace

from lark import Token, Tree

from firkin.core import datafiles
from firkin.core.catalogue import Material, families, family_of, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import UNCLAIMED, Claim, Claims, LineClaims
from firkin.core.measures import QS, Quantity, Strength
from firkin.core.recipe.recipe import HeardLine, Recipe
from firkin.core.recipe.text import Reading

_SHARE_SLACK = 0.10


@dataclass
class Gathered:
    """What was gathered from the trees of a text so far, and what only the whole of it can decide."""

    reading: Reading
    whose: str
    own: tuple[Material, ...]
    lines: list[HeardLine] = field(default_factory=list)
    percents: dict[int, Strength] = field(default_factory=dict)  # lines whose only figure is a per cent
    sizes: list[Quantity] = field(default_factory=list)
    made_up_to: list[Quantity] = field(default_factory=list)
    said_strengths: list[tuple[str, Material | None]] = field(default_factory=list)
    on_hand: list[Strength] = field(default_factory=list)
    called_for: list[Strength] = field(default_factory=list)
    claims: Claims = UNCLAIMED
    remarks: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    bare_top_up: bool = False
    asides: list[Tree[Token]] = field(default_factory=list)  # what is said beside amounts, in the same sentence
    title: str = ""  # the first sentence, when it names a soap and no more

    def decided(self) -> Recipe:
        """The recipe, once every sentence is gathered."""
        self._forget_titles()
        self._top_up_with_water()
        self._mind_asides()
        self._decide_percents()
        self._put_on_hand()
        make, size = self._make()
        materials = [line.material for line in self.lines]
        family = family_of(materials)
        return Recipe(
            tuple(self.lines),
            make,
            self._claim(),
            replace(self.claims, size=size),
            family,
            families()[family].basis,
            tuple(self.remarks),
            tuple(self.unread),
            self.reading.left_out,
        )

    def gathered(self) -> tuple[object, ...]:
        """All that counts so far, to see whether a sentence added anything."""
        return (
            *self.lines, *self.sizes, *self.made_up_to, *self.said_strengths, *self.on_hand, *self.called_for,
            self.claims, self.bare_top_up,
        )  # fmt: skip

    def only_a_soap(self) -> bool:
        return len(self.lines) == 1 and "soap" in self.lines[0].material.roles and self.lines[0].amount is None

    def _forget_titles(self) -> None:
        """A material named alone was a title when it comes with an amount elsewhere; so was a soap named first."""
        told = {line.material.id for line in self.lines if line.amount is not None or line.wording}
        bare = {i for i, line in enumerate(self.lines) if line.amount is None and not line.wording}
        gone = {i for i in bare - self.percents.keys() if self.lines[i].material.id in told}
        for i, strength in self.percents.items():
            line = self.lines[i]
            if i in bare and line.material.alcohol and self._pass_on(line, strength):
                gone.add(i)
        if self.title and 0 in bare - self.percents.keys() and len(told) >= 2:
            gone.add(0)
            self.remarks.insert(0, self.title)
        places = [i for i in range(len(self.lines)) if i not in gone]
        self.percents = {places.index(i): strength for i, strength in self.percents.items() if i in places}
        self.lines = [self.lines[i] for i in places]

    def _mind_asides(self) -> None:
        """ "Water to dampen" after a list names something that is nowhere told how much of: it must not get lost."""
        told = {line.material.id for line in self.lines}
        for aside in self.asides:
            named = [find(str(token), self.own).id for token in tokens_of(aside) if token.type == "MATERIAL"]
            if any(name not in told for name in named):
                self.unread.append(text_of(aside))

    def _pass_on(self, bare: HeardLine, strength: Strength) -> bool:
        """The strength of "calls for 90 % alcohol" belongs to the line that says how much of it; True if one does."""
        asking = [
            i
            for i, line in enumerate(self.lines)
            if line.material.id == bare.material.id and (line.amount or line.wording) and line.strength is None
        ]
        for i in asking:
            self.lines[i] = replace(self.lines[i], strength=strength)
        return bool(asking)

    def _top_up_with_water(self) -> None:
        """ "Make up to 1 L" that names nothing is done with the water that has no amount, or plain water."""
        if not self.bare_top_up or any(line.amount and line.amount.unit == QS for line in self.lines):
            return
        waiting = next(
            (i for i, line in enumerate(self.lines) if "water" in line.material.roles and not line.amount), None
        )
        if waiting is None:
            self.lines.append(HeardLine(find("water"), Quantity(0.0, QS), claims=LineClaims(words="water, not named")))
        else:
            self.lines[waiting] = replace(self.lines[waiting], amount=Quantity(0.0, QS))

    def _decide_percents(self) -> None:
        """A per cent with no other figure is an amount, unless it can only be how strong a stock is."""
        listed = sum(strength.value for strength in self.percents.values())
        shares = {i for i in self.percents if not self.lines[i].material.alcohol}
        a_list = (bool(shares) and 80.0 <= listed <= 120.0) or len(shares) >= 2
        for i, strength in self.percents.items():
            line = self.lines[i]
            if i in shares or (a_list and line.claims.misread_pct is None):
                self.lines[i] = replace(line, amount=Quantity(strength.value, "%"), strength=None)
        whole = self.made_up_to or self.sizes
        for i, line in enumerate(self.lines):
            if whole and line.strength and line.amount and not line.material.alcohol and _is_share(line, whole[0]):
                share = replace(line.claims, share_pct=line.strength.value)
                self.lines[i] = replace(line, strength=None, claims=share)

    def _put_on_hand(self) -> None:
        alcohols = [i for i, line in enumerate(self.lines) if line.material.alcohol]
        for stated in self.called_for:
            for i in alcohols:
                if self.lines[i].strength is None:
                    self.lines[i] = replace(self.lines[i], strength=stated)
        if self.on_hand and alcohols:
            i = alcohols[0]
            line = self.lines[i]
            if line.strength is None:
                self.lines[i] = replace(line, strength=self.on_hand[-1])
            elif line.strength.value != self.on_hand[-1].value:
                self.lines[i] = replace(line, claims=replace(line.claims, on_hand=self.on_hand[-1]))

    def _make(self) -> tuple[Quantity | None, Quantity | None]:
        """The size to make, where the amounts leave it open; and the size that is only claimed."""
        said = self.made_up_to[0] if self.made_up_to else self.sizes[0] if self.sizes else None
        kinds = {line.amount.kind for line in self.lines if line.amount}
        if said is None and "qs" in kinds:
            said = self.claims.vessel  # "fill it up with water", in a bottle of 500 mL
        if kinds and kinds <= {"volume", "mass"}:
            return None, said
        return said, self.sizes[0] if self.made_up_to and self.sizes else None

    def _claim(self) -> Claim | None:
        if not self.said_strengths:
            return None
        text, named = self.said_strengths[0]
        alcohols = [line.material for line in self.lines if line.material.alcohol]
        actives = [line.material for line in self.lines if line.material.reports == "active"]
        material = next(iter(alcohols or actives), named)
        if material is None:
            return None
        try:
            return Claim(material.id, material.read_strength(text))
        except CannotReckon:
            self.unread.append(text)
            return None


def heard(kind: str) -> tuple[str, ...]:
    names: list[str] = datafiles.toml("recipe/heard.toml")[kind]
    return tuple(names)


def _is_share(line: HeardLine, whole: Quantity) -> bool:
    """True when an amount is about its per cent of the whole: "SLES 12 %, 600 g" of 5 kg."""
    amount, strength = line.amount, line.strength
    if amount is None or strength is None or amount.kind != whole.kind or amount.kind not in ("volume", "mass"):
        return False
    is_part = amount.mL / whole.mL if amount.kind == "volume" else amount.g / whole.g
    return abs(is_part / strength.fraction - 1.0) <= _SHARE_SLACK


def tokens_of(tree: Tree[Token]) -> Iterator[Token]:
    return tree.scan_values(lambda value: isinstance(value, Token))


def text_of(tree: Tree[Token]) -> str:
    return " ".join(tokens_of(tree))
