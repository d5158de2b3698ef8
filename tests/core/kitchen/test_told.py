"""What kitchens of every kind make of amounts and of formulas, one line a case, as kept.

Beside the usual kitchens: cups with a scale beside them, a drawer with more measures than are tried, and one that is
coarse. The figures were read through when they were kept; a changed one is a changed measure at somebody's bench.
"""

from dataclasses import replace
from pathlib import Path

from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, house_formulas, reckon
from firkin.core.kitchen import Kitchen, Measure, against_vessel, in_kitchen, kitchens, measure_out, placed
from firkin.core.kitchen.kitchen import exactly
from firkin.core.measures import Quantity, read_quantity
from kept import same_as_kept
from mixes import mix

HERE = Path(__file__).parent
US, METRIC, SCALE = kitchens()["us"], kitchens()["metric"], kitchens()["scale"]
DRAWER = tuple(
    Measure(f"m{size}", float(size), 2.0 + size % 3)
    for size in (1, 2, 3, 5, 7, 11, 15, 23, 40, 60, 95, 130, 210, 340, 500, 900)
)
KITCHENS = {
    **kitchens(),
    "cups and scale": replace(US, scale=SCALE.measures[-1]),
    "jug and scale": replace(METRIC, scale=SCALE.measures[0]),
    "drawer": Kitchen("drawer", "Drawer", DRAWER),
    "twelve": Kitchen("twelve", "Twelve", DRAWER[:12]),
    "coarse": Kitchen("coarse", "Coarse", (Measure("bucket", 1000.0, 10.0), Measure("mug", 300.0, 10.0))),
}  # fmt: skip
AMOUNTS = (0.4, 2.5, 7.0, 14.79, 33.3, 59.0, 118.3, 187.8, 236.588, 250.0, 418.0, 751.5, 850.0, 1310.0, 4800.0)


def words(find) -> str:
    try:
        found = find()
    except CannotReckon as error:
        return str(error)
    if found is None or isinstance(found, str):
        return found or "-"
    return f"{found.words} = {found.total:.6g} ± {found.error:.4g}"


def test_amounts_in_every_kitchen_are_as_kept() -> None:
    sections = {}
    for name, kitchen in KITCHENS.items():
        rows = []
        for amount in AMOUNTS:
            grams = 0.81 * amount
            rows.append(
                f"{amount:g}: {words(lambda a=amount, k=kitchen, g=grams: placed(a, g, k))}"
                f" | {words(lambda a=amount, k=kitchen, g=grams: exactly(a, g, k))}"
                f" | up {words(lambda a=amount, k=kitchen: measure_out(a, k.measures, 'up'))}"
                f" | down {words(lambda a=amount, k=kitchen: measure_out(a, k.measures, 'down', slack=0.25))}"
            )
        sections[name] = "\n".join(rows)
    same_as_kept(HERE / "amounts.txt", sections)


MIXES = {
    **{key: one.formula for key, one in house_formulas().items()},
    "acid and base": mix(("water", "744 g"), ("caustic-soda", "8.7 g"), ("labsa", "70 g", "98 %"), ("sles", "170 g", "28 %"), family="dish-liquid", basis="weight"),
    "gel": mix(("carbomer", "4 g"), ("water", "300 mL"), ("ethanol", "700 mL", "96 %"), ("triethanolamine", "6 mL"), family="gel", guidelines=("cdc-alcohol-60",)),
    "two oils": mix(("castile-soap", "200 mL"), ("water", "800 mL"), ("lemon-oil", "1 mL"), ("lavender-oil", "3 mL"), family="foaming-soap"),
    "on its line": mix(("ethanol", "630 mL", "96 %"), ("aloe-gel", "370 mL"), family="aloe-rub", guidelines=("cdc-alcohol-60",)),
    "in a window": mix(("isopropanol", "752 mL", "99.8 %"), ("water", "q.s."), make="1 L", family="liquid-rub", guidelines=("who-isopropanol",)),
    "small": mix(("ethanol", "83 mL", "96 %"), ("water", "q.s."), make="100 mL", family="liquid-rub", guidelines=("who-ethanol",)),
}  # fmt: skip


def in_one_line(formula: Formula, kitchen: Kitchen) -> str:
    try:
        found = in_kitchen(reckon(formula), kitchen)
    except CannotReckon as error:
        return str(error)[:60]
    lines = []
    for line in found.lines:
        said = line.combination.words if line.combination is not None else "-"
        lines.append(f"{said} ({100 * line.off:.2f}){'w' * line.weigh}{'r' * line.rinse}{'f' * bool(line.finer)}")
    errors = ",".join(f"{one.error:.3f}" for one in found.result.formula.lines)
    verdicts = ",".join(f"{one.verdict} {one.margin_points:.2f}" for one in found.result.verdicts)
    return f"{'; '.join(lines)} | worst {found.worst} | guarded {found.guarded} | {errors} | {verdicts}"


def test_formulas_in_every_kitchen_are_as_kept() -> None:
    """Each in the kitchens that treat it differently; of two alike the first is told."""
    sections = {}
    for key, formula in MIXES.items():
        said: dict[str, str] = {}
        for times in (0.3, 1.0):
            total = reckon(formula).total
            size = Quantity(total.mass_g * times, "g") if formula.dry else Quantity(total.volume_mL * times, "mL")
            sized = formula if times == 1.0 else formula.scaled_to(size)
            for name in ("us", "scale", "cups and scale", "jug and scale", "drawer", "coarse"):
                said[f"x {times:g} {name}"] = in_one_line(sized, KITCHENS[name])
        told = {
            name: one
            for name, one in said.items()
            if one not in [said[b] for b in list(said)[: list(said).index(name)]]
        }
        sections[key] = "\n".join(f"{name}: {one}" for name, one in told.items())
    same_as_kept(HERE / "formulas.txt", sections)


def test_what_each_vessel_holds_of_it_is_as_kept() -> None:
    sections = {}
    for key in ("who-one", "foam-plain", "citrus-ferment", "dish-gentle", "bar-soap-liquid", "laundry-bottle"):
        result = reckon(MIXES[key])
        made = result.total.volume_mL
        rows = []
        for times in (0.5, 0.95, 1.0, 1.05, 1.3, 2.0):
            volume = made * times
            rows.append(f"x {times:g}: {told(lambda r=result, v=volume: against_vessel(r, 'Jug', v, 'glass'))}")
        sections[key] = "\n".join(rows)
    same_as_kept(HERE / "vessels.txt", sections)


def told(find) -> str:
    try:
        return repr(find())
    except CannotReckon as error:
        return str(error)


def test_a_size_that_is_read_is_a_size_that_is_tried() -> None:
    """A jug's marks and a bucket: an amount between two marks goes to the nearer one, and to the side that is asked."""
    for written, near, up, down in (("333 mL", 350.0, 350.0, 300.0), ("501 mL", 500.0, 550.0, 500.0)):
        amount = read_quantity(written).mL
        jug = (Measure("jug", 1000.0, 0.1, 50.0),)
        found = [measure_out(amount, jug, side).total for side in ("near", "up", "down")]
        assert found == [near, up, down]
