"""How a formula is made where it has no steps of its own: the usual way for what is in it, each step with its reason.

All from common practice, no source, but for the 72 hours of a rub (WHO, Guide to Local Production).
"""

from collections.abc import Callable
from dataclasses import replace

from firkin.core.catalogue import families
from firkin.core.formula.formula import Formula, Line, Step
from firkin.core.measures import QUARANTINE_H, figures
from firkin.core.texts import uncapped

#: What a slurry is stirred in.
_BOWL = "bowl"
_WET_OUT_H, _GEL_H, _HYDRATE_H, _STIRRED_H, _NIGHT_H, _FERMENT_H = 1.0, 1.0, 24.0, 3.0, 12.0, 90 * 24.0
_CAUSTIC = "Put on goggles and gloves. Caustic into the water, never the other way round."
_BLEACH = "Bleach with nothing but cold water: no acid, ammonia, alcohol or other cleaner."
#: What heat drives off or spoils: it goes in once the rest has cooled.
_COLD = ("essential-oil", "fragrance", "dye", "preservative", "alcohol")


def steps_of(formula: Formula) -> tuple[Step, ...]:
    """The formula's own steps, or the usual ones for its lines; every line is named by one.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> rub = Formula("Rub", (Line(find("water"), read_quantity("q.s.")),
    ...     Line(find("ethanol"), read_quantity("800 mL"))), family="liquid-rub", make=read_quantity("1 L"))
    >>> [(step.do, step.lines) for step in steps_of(rub)]
    [('pour', (1,)), ('top up', (0,)), ('mix', ()), ('quarantine', ())]
    """
    return formula.steps or tuple(_Method(formula).steps())


#: A wait this long of peel and sugar, h, is a ferment, whatever its step calls it (common practice, no source).
_FERMENTS_FROM_H = 48.0


def ferments(formula: Formula) -> bool:
    """True for a ferment, however it was entered: its family says so, or peel stands in it with sugar.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import Quantity
    >>> heard = Formula("Peel", tuple(Line(find(name), Quantity(1.0, "part")) for name in ("sugar", "peel", "water")))
    >>> ferments(heard), heard.family
    (True, 'other')
    """
    return formula.family == "ferment" or bool(formula.lines_with("peel") and formula.lines_with("sugar"))


def as_ferment(formula: Formula) -> Formula:
    """A formula of peel and sugar as the ferment it is, its long wait among the steps; any other as it is.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import Quantity
    >>> heard = Formula("Peel", tuple(Line(find(name), Quantity(1.0, "part")) for name in ("sugar", "peel", "water")))
    >>> as_ferment(heard).family
    'ferment'
    """
    if not ferments(formula):
        return formula
    long = [step.wait_h is not None and step.wait_h >= _FERMENTS_FROM_H for step in formula.steps]
    steps = tuple(
        replace(step, do="ferment") if waits else step for step, waits in zip(formula.steps, long, strict=True)
    )
    if steps and not any(long):
        text = "Close it with room for gas, and vent it as told. Let it ferment."
        steps = (*steps, Step("ferment", text, wait_h=_FERMENT_H))
    return replace(formula, family="ferment", steps=steps)


def with_steps(formula: Formula) -> Formula:
    """The formula with the steps it is made by, its own or the usual ones.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula.house import house_formulas
    >>> from dataclasses import replace
    >>> rub = replace(house_formulas()["who-one"].formula, steps=())
    >>> [step.do for step in with_steps(rub).steps]
    ['pour', 'pour', 'pour', 'top up', 'mix', 'quarantine']
    """
    return replace(formula, steps=steps_of(formula))


def pour_order(formula: Formula) -> tuple[int, ...]:
    """Positions of the lines in the order the steps pour them; what no step names comes first.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula.house import house_formulas
    >>> pour_order(house_formulas()["citrus-ferment"].formula)
    (0, 2, 1)
    """
    named = tuple(dict.fromkeys(line for step in steps_of(formula) for line in step.lines))
    return (*(i for i in range(len(formula.lines)) if i not in named), *named)


def vessel_order(formula: Formula) -> tuple[tuple[int, ...], ...]:
    """Positions of the lines in the order they reach the main vessel; what comes out of a cup reaches it together.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula.house import house_formulas
    >>> vessel_order(house_formulas()["citrus-ferment"].formula)
    ((0,), (2,), (1,))
    """
    steps = steps_of(formula)
    named = {line for step in steps for line in step.lines}
    seen: set[int] = set()
    order: list[tuple[int, ...]] = [(i,) for i in range(len(formula.lines)) if i not in named]
    cups: dict[str, tuple[int, ...]] = {}
    for step in steps:
        new = tuple(line for line in dict.fromkeys(step.lines) if line not in seen)
        seen.update(new)
        poured = cups.pop(step.source, ()) if step.source else ()
        if step.vessel:
            cups[step.vessel] = (*cups.get(step.vessel, ()), *new, *poured)
        else:  # what a step pours a cup into is there before it
            order += [(line,) for line in new]
            order += [poured] if poured else []
    return (*order, *(left for left in cups.values() if left))


def tops_last(formula: Formula) -> bool:
    """True where the q.s. line is poured last, up to the mark; poured earlier, it is measured as worked out.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula.house import house_formulas
    >>> tops_last(house_formulas()["who-one"].formula), tops_last(house_formulas()["aloe-sixty"].formula)
    (True, False)
    """
    topped = formula.topped_up
    return topped is not None and pour_order(formula)[-1] == topped


def quarantined(formula: Formula) -> bool:
    """True for a rub made of alcohol: it rests 72 h (WHO Guide to Local Production).

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula.house import house_formulas
    >>> quarantined(house_formulas()["who-one"].formula), quarantined(house_formulas()["dish-gentle"].formula)
    (True, False)
    """
    return families()[formula.family].rub and any("alcohol" in line.material.roles for line in formula.lines)


def pour_text(line: Line) -> str:
    """What to do with a line that no step describes.

    Args:
        line: a line of a formula.

    >>> from firkin.core.formula.house import house_formulas
    >>> [pour_text(line) for line in house_formulas()["who-one"].formula.lines][:2]
    ['Measure the ethanol, away from any flame, and keep it covered.', 'Add the hydrogen peroxide.']
    """
    material = line.material
    if line.solid:
        return f"Weigh the {uncapped(material.name)} and add it."
    if "viscous" in material.roles:
        return f"Add the {uncapped(material.name)}. It clings: rinse the measure out with some of the batch."
    if "alcohol" in material.roles:
        return f"Measure the {uncapped(material.name)}, away from any flame, and keep it covered."
    return f"Add the {uncapped(material.name)}."


class _Method:
    """Steps written one after the other, and the lines no step has named yet."""

    def __init__(self, formula: Formula) -> None:
        self.formula = formula
        self.left = list(range(len(formula.lines)))
        self.written: list[Step] = []

    def steps(self) -> list[Step]:
        """The usual steps for what is in it."""
        formula = self.formula
        ways: tuple[tuple[bool, Callable[[], None]], ...] = (
            (formula.dry, self._powder),
            (formula.family == "ferment", self._ferment),
            (bool(formula.lines_with("chlorine")), self._bleach),
            (bool(formula.lines_with("thickener")), self._gel),
            (bool(formula.lines_of("bar-soap")), self._from_bars),
            (bool(formula.lines_with("surfactant")), self._detergent),
            (formula.family == "foaming-soap", self._foaming),
            (True, self._poured),
        )
        next(way for fits, way in ways if fits)()
        return self.written

    # taking lines, writing steps

    def take(self, *roles: str) -> tuple[int, ...]:
        """The lines with any of these roles that no step names yet, in order, without the q.s. one."""
        there = [i for i in self.formula.lines_with(*roles) if i in self.left and i != self.formula.topped_up]
        self.left = [i for i in self.left if i not in there]
        return tuple(there)

    def water(self) -> tuple[int, ...]:
        """The water that comes first: what is measured of it, or else the q.s. line."""
        measured = [i for i in self.formula.lines_of("water") if i in self.left and i != self.formula.topped_up]
        topped = self.formula.topped_up
        first = measured[:1] or ([topped] if topped in self.left and topped in self.formula.lines_with("water") else [])
        self.left = [i for i in self.left if i not in first]
        return tuple(i for i in first if i is not None)

    def write(self, do: str, text: str, lines: tuple[int, ...] = (), **more: object) -> None:
        """One step; none where it is about lines and there are none."""
        self.written.append(replace(Step(do, text, lines), **more))  # type: ignore[arg-type]

    def each(self, lines: tuple[int, ...], do: str = "pour", text: str = "", **more: object) -> None:
        """A step for each of these lines, in its own words or in these."""
        for i in lines:
            self.write(do, text or pour_text(self.formula.lines[i]), (i,), **more)

    def rest(self, *, last: str = "") -> None:
        """Whatever is left, in the order of the formula, and the top-up at the end."""
        topped = self.formula.topped_up
        self.each(tuple(i for i in self.left if i != topped))
        if topped in self.left and topped is not None:
            name = uncapped(self.formula.lines[topped].material.name)
            self.write("top up", last or f"Top up with {name} to the mark, not by measure.", (topped,))
        self.left = []

    def fats(self) -> None:
        """What is solid of the oils is melted by itself, never beside alcohol."""
        solid = tuple(i for i in self.formula.lines_with("oil") if self.formula.lines[i].material.melts_C)
        self.left = [i for i in self.left if i not in solid]
        for i in solid:
            text = (
                f"Solid below about {figures(self.formula.lines[i].material.melts_C or 0.0)} °C: melt it in a bowl "
                "over hot water, by itself, and stir it in while it is liquid. Cold, it stays in lumps."
            )
            self.write("melt", text, (i,))

    def quarantine(self, already_h: float = 0.0) -> None:
        """The 72 hours of a rub, less what it rested since everything was in."""
        if quarantined(self.formula):
            text = "Keep it closed and still for 72 hours: that kills spores."
            if already_h:
                text = "Keep it closed until 72 hours have passed in all."
            self.write("quarantine", text, wait_h=QUARANTINE_H - already_h)

    # the ways

    def _poured(self) -> None:
        if not self.formula.lines_with("alcohol"):
            self.fats()
        self.rest()
        self.write("mix", "Close the vessel and mix gently until even.")
        self.quarantine()

    def _powder(self) -> None:
        self.write("lay out", "A dry bowl, a dry spoon, and a dust mask. Damp makes it fizz and clump.")
        acids = self.take("free-acid")
        self.rest()
        self.each(
            acids, "weigh", "Mix the rest evenly first. Add this last: it fizzes with the soda where damp gets at it."
        )
        self.write("mix", "Stir with a dry spoon until even, and break every lump.")
        self.write("close", "Into a dry jar that seals, with a desiccant sachet or rice: moist air cakes it.")

    def _ferment(self) -> None:
        sugar, water = self.take("sugar"), self.water()
        text = "Dissolve the sugar in the water, in a plastic container with a tight lid, never glass."
        self.write("dissolve", text, (*sugar, *water))
        self.each(self.take("starter"), "add", "Stir it in: it starts from an earlier batch.")
        text = "Add the peel, and close the lid tight over the free space that the gas needs."
        self.each(self.take("peel"), "add", text)
        self.rest()
        text = "Vent every day in week 1, every third day in weeks 2 and 3, then weekly. Ready about day 90."
        self.write("ferment", text, wait_h=_FERMENT_H)
        text = "Strain it through a cloth, press the peel out, and measure the liquid. The peel goes on the compost."
        self.write("strain", text)

    def _bleach(self) -> None:
        water = self.water()
        self.each(water, "measure", "Cold water first: what splashes then is water, not bleach.")
        text = "Bleach into the water, in gloves and by an open window."
        self.each(self.take("chlorine"), "pour", text, caution=_BLEACH)
        self.rest()
        self.write("mix", "Close it and turn it over a few times.")

    def _gel(self) -> None:
        polymer = self.take("needs-neutraliser")
        others = self.take("thickener")
        alcohol = self.take("alcohol")
        neutraliser = self.take("neutraliser") if polymer else ()
        cold = self.take(*_COLD)
        after_alcohol = tuple(i for i in others if self.formula.lines[i].material.disperses_in_alcohol)
        slurried = tuple(i for i in others if i not in after_alcohol)
        if slurried:
            self._slurry(slurried)
        if polymer:
            self._wet_out(polymer)
        portions = 10 if slurried else 4 if polymer else 1
        text = "Away from any flame, by hand or with spark-proof equipment"
        text += ": slowly, letting the gel re-form each time, or it collapses." if portions > 1 else "."
        self.each(alcohol, "pour", text, portions=portions)
        topped = self.formula.topped_up
        self.each(tuple(i for i in self.left if i != topped))
        self.each(cold)
        ends_wet = bool(after_alcohol or neutraliser)
        if topped in self.left and topped is not None:
            name = uncapped(self.formula.lines[topped].material.name)
            text = f"Stir in the rest of the {name}." if ends_wet else f"Stir in the last of the {name}, to the mark."
            self.write("stir" if ends_wet else "top up", text, (topped,))
        self.left = []
        text = "Sprinkle it in under slow stirring: poured in at once it lumps."
        self.each(after_alcohol, "thicken", text, portions=3)
        text = "In drops, stirring, until it gels at about pH 7: a polymer thickens only once it is neutral. Gloves."
        self.each(neutraliser, "neutralise", text, portions=4)
        hydrate = _STIRRED_H if after_alcohol else _HYDRATE_H if polymer else 0.0
        if hydrate:
            text = "Let it hydrate fully, closed. It goes on thickening."
            self.write("hydrate", text, wait_h=hydrate)
        self.quarantine(hydrate if hydrate == _HYDRATE_H else 0.0)

    def _slurry(self, thickeners: tuple[int, ...]) -> None:
        wetting = self.take("humectant")
        water = self.water()
        if wetting:
            bowl = _BOWL if water else ""  # without water it is all made in that bowl
            text = "Stir the powder into it until no lump is left: on water alone it clumps."
            self.each(wetting, "measure", "Into a dry bowl.", vessel=bowl)
            self.each(thickeners, "slurry", text, vessel=bowl)
            self.each(water, "whisk", "Whisk the slurry into this water.", source=bowl)
        else:
            self.each(water, "measure", "Into a wide bowl, and let it stand still.")
            text = "Sprinkle the powder on the still water, a little at a time, and let it wet out before you stir."
            self.each(thickeners, "wet out", text)
        self.write("gel", "Cover it and let the gel form.", wait_h=_GEL_H)

    def _wet_out(self, polymer: tuple[int, ...]) -> None:
        self.each(self.water(), "measure", "Into a wide bowl, and let it stand still.")
        text = (
            "Sprinkle the polymer on the still water: it takes it up by itself. Ask the supplier whether your grade "
            "may meet alcohol."
        )
        self.each(polymer, "wet out", text)
        self.write("wet out", "Cover it and let the polymer wet out.", wait_h=_WET_OUT_H)

    def _from_bars(self) -> None:
        laundry = self.formula.family == "laundry-soap"
        bars = tuple(i for i in self.formula.lines_of("bar-soap") if i in self.left)
        self.left = [i for i in self.left if i not in bars]
        cold = self.take(*_COLD)
        self.each(bars, "grate", "Grate the soap: fine gratings melt without lumps.")
        self.each(self.water(), "melt", "Melt the soap into this water, hot and not boiling: it boils over quickly.")
        self.fats()
        builders = self.take("builder", "borate", "carbonate")
        self.each(builders, "dissolve", "Stir it in until it is clear, before the next goes in.")
        self.rest(last="Top up with hot water to the mark.")
        self.write("set", "Cover it and let it stand overnight: it thickens as it cools.", wait_h=_NIGHT_H)
        self.write("break up" if laundry else "stir", "Stir it smooth, now that it is cold.")
        self.each(cold, "add", "Only now that it is cold: heat would drive it off or spoil it.")

    def _detergent(self) -> None:
        water = self.water()
        self.each(water, "measure", "Water first: everything goes into plenty of it.")
        for i in self.take("base"):
            caustic = "caustic" in self.formula.lines[i].material.cautions
            self.write("dissolve", "Into the water, slowly: it warms.", (i,), caution=_CAUSTIC if caustic else "")
        surfactants = self.take("surfactant")
        sulfonic = tuple(i for i in surfactants if "acid" in self.formula.lines[i].material.roles)
        self.each(sulfonic, "neutralise", "In small amounts; it warms. Check: about pH 8.", portions=5)
        others = tuple(i for i in surfactants if i not in sulfonic)
        self.each(others, "stir", "Stir it in gently until even: foam only hides lumps.")
        self.fats()
        salt, cold = self.take("salt"), self.take(*_COLD)
        topped = self.formula.topped_up
        self.each(tuple(i for i in self.left if i != topped))
        self.each(cold, "add", "Once it has cooled: heat would drive it off or spoil it.")
        self.left = [i for i in self.left if i == topped]
        if not salt:
            self.rest()
        else:
            self.each(tuple(self.left), "stir", "Stir it in, the rest of the batch.")
            self.left = []
        text = "A little at a time, and stop at the peak: past it, more salt thins."
        self.each(salt, "thicken", text, portions=6)
        self.write("set", "Leave it overnight; look at pH, clarity and thickness next day.", wait_h=_NIGHT_H)

    def _foaming(self) -> None:
        topped = self.formula.topped_up
        self.each(self.take("soap"), "pour", "The soap first: water poured on it hardly foams.")
        self.fats()
        cold = self.take(*_COLD, "oil")
        water = self.water() if topped is None or topped not in self.left else ()
        self.each(water, "pour", "Slowly, or it foams.")
        if cold and topped in self.left:
            self.each(cold)
            cold = ()
        self.rest(last="Fill with water to the mark, slowly, or it foams.")
        self.each(cold)
        self.write("mix", "Put the foaming pump on and tilt it until even.")
