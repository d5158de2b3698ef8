"""Reading a recipe: from the trees of its sentences to lines and claims."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import replace

from lark import Token, Tree

from firkin.core.catalogue import Material, alcohol_names, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import LineClaims
from firkin.core.measures import NUMBER, QS, Quantity, Strength, read_number, read_strength
from firkin.core.recipe.figures import amount_of, middle, share_of, strength_of, together
from firkin.core.recipe.gathered import Gathered, text_of, tokens_of
from firkin.core.recipe.recipe import HeardLine, Recipe
from firkin.core.recipe.text import read_sentences

#: A per cent above this on something without a strength is its purity, below it its share of the batch.
_PURE_PCT = 50.0


def read_recipe(text: str, whose: str = "us", own: Iterable[Material] = ()) -> Recipe:
    """Read a recipe out of any text; ``whose`` cups and gallons they are, one of measures().

    Never raises for a text: what cannot be read stands in ``unread``.

    >>> recipe = read_recipe("Three parts 70% rubbing alcohol to one part aloe vera gel, makes 70%")
    >>> [line.words() for line in recipe.lines], str(recipe.claim.strength)
    ([('isopropanol', '70 % v/v', '3 parts'), ('aloe-gel', '', '1 part')], '70 % v/v')
    """
    return _Reader(read_sentences(text), whose, tuple(own)).recipe()


class _Reader(Gathered):
    """Goes through the trees of the sentences and gathers."""

    def recipe(self) -> Recipe:
        """Everything read, then decided."""
        for number, sentence in enumerate(self.reading.sentences):
            so_far = self.gathered()
            missed = len(self.unread)
            for tree in sentence.trees:
                before = self.gathered()
                try:
                    self._take(tree)
                    if len(sentence.trees) > 1 and before == self.gathered():
                        self.asides.append(tree)
                except CannotReckon:
                    self.unread.append(text_of(tree))
            self.unread += sentence.unread
            if so_far == self.gathered() and not sentence.unread and len(self.unread) == missed:
                self.remarks.append(sentence.text)
            if number == 0 and self.only_a_soap():
                self.title = sentence.text
        return self.decided()

    # one statement

    def _take(self, tree: Tree[Token]) -> None:
        match str(tree.data):
            case "headed":
                self._makes(tree)
                self._ingredients(tree)
            case "proportion" | "ingredients":
                self._ingredients(tree)
            case "ratio" | "equal":
                self._ratio(tree)
            case "top_up":
                self._top_up(tree)
            case "makes" | "product" | "loads":
                self._makes(tree)
            case "vessel" | "vessel_holds":
                self._vessel(tree)
            case "dose":
                self._dose(tree)
            case "cost":
                self._cost(tree)
            case "on_hand":
                self._on_hand(tree)
            case "instead":
                self._instead(tree)
            case "kills":
                self._kills(tree)

    def _ingredients(self, tree: Tree[Token]) -> None:
        parts = [child for child in tree.children if isinstance(child, Tree)]
        # In "glycerin to the water" the water is where it goes, in "1 cup alcohol, glycerin" the amount is missing.
        a_list = len(parts) == 1 or (tree.data != "proportion" and any(part.data == "ingredient" for part in parts))
        for part in parts:
            if part.data == "ingredient":
                self._ingredient(part)
            elif part.data == "in_vessel":
                self._vessel(part)
            elif part.data == "bare" and a_list:
                self._bare(part)

    def _bare(self, tree: Tree[Token]) -> None:
        """A known material by itself, or beside one with an amount, is a line whose amount is missing.

        Where it says which essential oil the line before it is, it names that line.
        """
        substance = tree.children[0]
        if isinstance(substance, Tree) and substance.data == "known":
            material, _, claims = self._substance(substance)
            if "essential-oil" in material.roles and self.lines and self.lines[-1].material.id == "essential-oil":
                self.lines[-1] = replace(self.lines[-1], material=material)
            elif not any(line.material is material for line in self.lines):
                self.lines.append(HeardLine(material, claims=claims))

    def _ingredient(self, tree: Tree[Token]) -> None:
        where = next(i for i, child in enumerate(tree.children) if isinstance(child, Tree))
        substance = tree.children[where]
        assert isinstance(substance, Tree)
        material, strength, claims = self._substance(substance)
        amount: Quantity | None = None
        wording = ""
        before: list[Token] = []
        after: list[Token] = []
        for i, token in enumerate(tree.children):
            if not isinstance(token, Token):
                continue
            if token.type == "AMOUNT" and amount is not None:
                amount, wording = together(amount, amount_of(token, self.whose)[0]), ""
            elif token.type == "AMOUNT" and not wording:
                amount, wording = amount_of(token, self.whose)
            elif token.type == "SHARE_OF":
                amount, wording, share, size = share_of(token, self.whose)
                self.sizes += [size] if size else []
                claims = replace(claims, share_pct=share)
            elif token.type == "COUNT":
                if substance.data == "unknown" and NUMBER.fullmatch(token):
                    raise CannotReckon("A bare number of something unknown says nothing.")
                wording = wording or str(token)
            elif token.type == "STRENGTH":
                (before if i < where else after).append(token)
        if claims.words == "soap" and (amount is None or amount.kind == "mass"):
            material = find("bar-soap")
        line = HeardLine(material, amount, strength, claims, wording)
        self._with_percents(line, before, after)

    def _with_percents(self, line: HeardLine, before: Sequence[Token], after: Sequence[Token]) -> None:
        """Give the per cents of a line their meaning, as far as the line alone decides it."""
        tokens = [*before, *after]
        if not tokens:
            self.lines.append(line)
            return
        if line.amount is None and not line.wording and len(tokens) > 1:
            share, stated = (tokens[0], tokens[1]) if before else (tokens[1], tokens[0])
            pct = strength_of(share, line.material)
            line = replace(line, amount=Quantity(pct.value, "%"))
            self.lines.append(self._strong(line, stated))
        elif line.amount is None and not line.wording:
            self.percents[len(self.lines)] = strength_of(tokens[0], line.material)
            self.lines.append(self._strong(line, tokens[0]))
        elif _has_strength(line.material) or strength_of(tokens[0], line.material).value > _PURE_PCT:
            line = self._strong(line, tokens[0])
            if len(tokens) > 1:
                line = replace(line, claims=replace(line.claims, share_pct=strength_of(tokens[1], line.material).value))
            self.lines.append(line)
        else:
            share_pct = strength_of(tokens[0], line.material).value
            self.lines.append(replace(line, claims=replace(line.claims, share_pct=share_pct)))

    def _strong(self, line: HeardLine, token: Token) -> HeardLine:
        """The line with its strength; more than 100 %, or a spirit above 50 %, can only be proof."""
        limit = 50.0 if line.claims.words in alcohol_names().spirits else 100.0
        figure = NUMBER.match(token)
        if figure and "%" in token and line.material.alcohol and limit < read_number(figure.group()) <= 200.0:
            pct = read_number(figure.group())
            claims = replace(line.claims, misread_pct=pct)
            return replace(line, strength=Strength.of(pct / 2.0, "v/v"), claims=claims)
        return replace(line, strength=strength_of(token, line.material))

    def _substance(self, tree: Tree[Token]) -> tuple[Material, Strength | None, LineClaims]:
        """The material a name stands for, the strength its name implies, and the name where that matters."""
        names = [str(token) for token in tree.children]
        if tree.data == "unknown":
            return find(names[0], self.own), None, LineClaims(words=names[0][:80])
        said = names[0].replace("-", " ") if " " not in names[0] else names[0]
        if said == "soap":
            return find("castile-soap"), None, LineClaims(words=said)
        if said in alcohol_names().spirits:
            return (
                find("ethanol"),
                Strength.of(alcohol_names().spirit_pct, "v/v"),
                LineClaims(words=said),
            )
        if said in alcohol_names().unnamed:
            return find("isopropanol"), None, LineClaims(words=said)
        return find(names[0], self.own), None, LineClaims(words=said)

    def _named(self, tree: Tree[Token]) -> HeardLine:
        """A substance with its strength, as the line it will be."""
        substance = next(child for child in tree.children if isinstance(child, Tree))
        material, strength, claims = self._substance(substance)
        line = HeardLine(material, strength=strength, claims=claims)
        stated = next((child for child in tree.children if isinstance(child, Token)), None)
        return self._strong(line, stated) if stated is not None else line

    def _ratio(self, tree: Tree[Token]) -> None:
        lines = [self._named(child) for child in tree.children if isinstance(child, Tree)]
        sign = next((c for c in tree.children if isinstance(c, Token) and c.type.startswith("RATIO")), None)
        parts = [read_number(part) for part in re.split(r" ?: ?| to |-to-", sign)] if sign else [1.0] * len(lines)
        if len(parts) != len(lines) or not all(parts):
            raise CannotReckon("A ratio needs one number for each thing in it.")
        self.lines += [replace(line, amount=Quantity(part, "part")) for line, part in zip(lines, parts, strict=True)]

    def _top_up(self, tree: Tree[Token]) -> None:
        for token in tokens_of(tree):
            if token.type != "AMOUNT":
                continue
            size, _ = amount_of(token, self.whose)
            if size is not None:
                self.made_up_to.append(size)
        named = next((child for child in tree.children if isinstance(child, Tree) and child.data == "named"), None)
        if named is None:
            self.bare_top_up = True
            return
        line = replace(self._named(named), amount=Quantity(0.0, QS))
        waiting = next(
            (i for i, old in enumerate(self.lines) if old.material is line.material and not old.amount), None
        )
        if waiting is None:
            self.lines.append(line)
        else:
            self.lines[waiting] = replace(self.lines[waiting], amount=line.amount)

    def _makes(self, tree: Tree[Token]) -> None:
        material = None
        tokens = [token for token in tree.children if isinstance(token, Token)]
        for token in tokens:
            if token.type == "MATERIAL":
                material, _, _ = self._substance(Tree("known", [token]))
        if any(token.type == "VESSEL" for token in tokens):  # "for a 16 oz bottle"
            self._vessel(tree)
            tokens = [token for token in tokens if token.type != "AMOUNT"]
        for token in tokens:
            if token.type == "AMOUNT":
                size, _ = amount_of(token, self.whose)
                if size is not None and size.kind in ("volume", "mass"):
                    self.sizes.append(size)
            elif token.type == "STRENGTH":
                self.said_strengths.append((str(token), material))
            elif token.type == "LOADS":
                self.claims = replace(self.claims, loads=middle(token))

    def _vessel(self, tree: Tree[Token]) -> None:
        """One vessel is what the batch must fit in; several are bottles to fill."""
        several = any(token.type == "VESSEL" and token.endswith("s") for token in tokens_of(tree))
        if any(token.type == "VESSEL" and "glass" in token for token in tokens_of(tree)):
            self.claims = replace(self.claims, glass=True)
        amount = next((token for token in tokens_of(tree) if token.type == "AMOUNT"), None)
        if amount is None or several:
            return
        fluid = re.sub(r"(?<!fl )\b(?:oz|ounces?)\b", "fl oz", re.sub(r"(?<=[0-9])-(?=oz|ounce)", " ", amount))
        size, _ = amount_of(fluid, self.whose)
        if size is not None and size.kind == "volume":
            self.claims = replace(self.claims, vessel=size)

    def _dose(self, tree: Tree[Token]) -> None:
        amount = next(token for token in tokens_of(tree) if token.type == "AMOUNT")
        loads = next((token for token in tokens_of(tree) if token.type == "LOADS"), None)
        if loads is not None:
            self.claims = replace(self.claims, loads=middle(loads))
        self.claims = replace(self.claims, dose=amount_of(amount, self.whose)[0])

    def _cost(self, tree: Tree[Token]) -> None:
        tokens = list(tokens_of(tree))
        money = next(token for token in tokens if token.type == "MONEY")
        value = middle(money) / (100.0 if re.search(r"cent|pence|¢", money) else 1.0)
        loads = next((token for token in tokens if token.type == "LOADS"), None)
        if loads is not None:
            self.claims = replace(self.claims, loads=middle(loads))
        if any(token.type == "PER_LOAD" for token in tokens):
            self.claims = replace(self.claims, cost_per_load=value)
        else:
            self.claims = replace(self.claims, cost=value)

    def _on_hand(self, tree: Tree[Token]) -> None:
        self.on_hand.append(read_strength(next(token for token in tokens_of(tree) if token.type == "STRENGTH")))

    def _instead(self, tree: Tree[Token]) -> None:
        tokens = list(tokens_of(tree))
        first, second = (read_strength(token) for token in tokens if token.type == "STRENGTH")
        leading = next(token for token in tokens if token.type in ("INSTEAD", "STRENGTH")).type == "INSTEAD"
        self.on_hand.append(second if leading else first)
        self.called_for.append(first if leading else second)

    def _kills(self, tree: Tree[Token]) -> None:
        said = next(child for child in tree.children if isinstance(child, Tree))
        if said.data == "ingredient":
            self._ingredient(said)
            material = self.lines[-1].material
        else:
            material = self._named(said).material
        if material.known:  # "this kills germs" names nothing
            self.claims = replace(self.claims, kills=material.id)


def _has_strength(material: Material) -> bool:
    return material.strength is not None or material.alcohol is not None
