"""The ask `tolerance` of firkin-question/1: tools as they are written, and the answer with its working."""

from collections.abc import Mapping, Sequence
from typing import Any

from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.formula import Formula, work_out
from firkin.core.measures import Tool, figures, read_quantity, tools
from firkin.core.texts import quoted, uncapped
from firkin.core.tolerance.errors import Measure, measure_of
from firkin.core.tolerance.tolerance import DRAWS, Change, Sureness, asked_of, changes_tried, how_sure

#: Tools that could be taken instead, by their ids.
_BETTER = ("scale", "cylinder", "syringe")


def better_tools() -> list[Measure]:
    """The tools of the catalogue that could be taken instead of a worse one.

    >>> [tool.name for tool in better_tools()]
    ['Kitchen scale', 'Graduated cylinder', 'Syringe']
    """
    return [measure_of(tools()[key]) for key in _BETTER]


def measures_said(formula: Formula, written: Sequence[Any] | None) -> list[Measure]:
    """One measure a line, as the tools are written: an id or a name, an object of errors, or None for a perfect one.

    Without any, what the formula says of its lines. Raises CannotReckon with the place of what is no tool.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Line
    >>> cup = read_quantity("1 cup")
    >>> mix = Formula("Mix", (Line(find("ethanol"), cup), Line(find("water"), cup)))
    >>> [one.systematic for one in measures_said(mix, ["cup", {"systematic_pct": 2, "random_pct": 1}])]
    [0.05, 0.02]
    """
    if written is None:
        return [Measure(systematic=line.error) for line in formula.lines]
    if len(written) != len(formula.lines):
        raise CannotReckon(f"{len(written)} of them; expected {len(formula.lines)}, one for each line").at("tools")
    said = []
    for at, one in enumerate(written):
        try:
            said.append(Measure() if one is None else _measure(one))
        except CannotReckon as error:
            raise error.at("tools", at) from None
    return said


def _measure(written: Any) -> Measure:
    if isinstance(written, str):
        return measure_of(_tool(written))
    group = written.get("group", written.get("tool", ""))
    known = tools().get(group)
    size = _size(written["size"]) if "size" in written else (known.size if known else None)
    whose = {
        "group": group,
        "fillings": written.get("fillings"),
        "size": size,
        "bottle": written.get("bottle", ""),
        "name": known.name if known else group,
    }
    errors = ("random_pct", "systematic_pct", "error_g", "error_mL")
    if known is not None and "tool" in written and not any(key in written for key in errors):
        tool = measure_of(known)
        return Measure(tool.random, tool.systematic, tool.error_g, tool.error_mL, **whose)
    return Measure(
        written.get("random_pct", 0.0) / 100.0,
        written.get("systematic_pct", 0.0) / 100.0,
        written.get("error_g", 0.0),
        written.get("error_mL", 0.0),
        **whose,
    )


def _tool(name: str) -> Tool:
    plain = name.strip().lower()
    for tool in tools().values():
        if plain in (tool.id, tool.name.lower(), *tool.names):
            return tool
    raise CannotRead(f"{quoted(name)} is no tool; expected one of {', '.join(tools())}.")


def _size(written: str) -> float:
    amount = read_quantity(written)
    if amount.kind not in ("volume", "mass"):
        raise CannotRead(f"{quoted(written)} is no size; write one such as 250 mL.").at("size")
    return amount.mL if amount.kind == "volume" else amount.g


def tolerance(formula: Formula, asked: Mapping[str, Any]) -> dict[str, Any]:
    """The answer to `tolerance`, under the keys of firkin-answer/1 but ``format`` and ``ask``.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        asked: fields of the question by name: tools, guideline, draws, seed.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Line
    >>> three, one = read_quantity("3 cup"), read_quantity("1 cup")
    >>> mix = Formula("Mix", (Line(find("ethanol"), three), Line(find("water"), one)), "liquid-rub")
    >>> given = tolerance(mix, {"tools": ["cylinder", "cup"], "guideline": "cdc-alcohol-60", "draws": 1000, "seed": 1})
    >>> given["share_holding_pct"], given["ranked"][0]["line"]
    (100.0, 1)
    """
    measures = measures_said(formula, asked.get("tools"))
    draws, seed = asked.get("draws", DRAWS), asked.get("seed", 0)
    sure = how_sure(
        formula,
        measures,
        asked.get("of", ""),
        asked.get("guideline", ""),
        asked.get("active", ""),
        draws,
        seed,
    )
    what = asked_of(
        formula, work_out(formula), asked.get("of", ""), asked.get("guideline", ""), asked.get("active", "")
    )
    tried = changes_tried(formula, measures, better_tools(), what, min(draws, 20_000), seed)
    given: dict[str, Any] = {
        "active": sure.active,
        "basis": sure.basis,
        "nominal": sure.nominal,
        "mean": sure.mean,
        "sd": sure.sd,
        "sd_linear": sure.sd_linear,
        "percentiles": dict(zip(("5", "50", "95"), sure.percentiles, strict=True)),
        "ranked": [{"line": one.line, "share_of_variance_pct": one.share_of_variance_pct} for one in sure.ranked],
        "working": _working(formula, sure, tried),
    }
    if sure.table_share_pct:
        given["table_share_of_variance_pct"] = sure.table_share_pct
    if sure.limit is not None:
        given |= {"guideline": sure.guideline, "share_holding_pct": sure.share_holding_pct}
    if tried and tried[0].share_holding_pct is not None:
        best = tried[0]
        given["best_change"] = {
            "line": best.line,
            "change": best.change,
            "share_holding_pct": best.share_holding_pct,
        }
    return given


def _working(formula: Formula, sure: Sureness, tried: Sequence[Change]) -> list[str]:
    """The arithmetic in words."""
    low, middle, high = sure.percentiles
    said = [
        f"As planned: {figures(sure.nominal)} {sure.basis} {uncapped(sure.name)}",
        f"{sure.draws} draws: mean {figures(sure.mean)} %, standard deviation {figures(sure.sd)} points",
        f"By propagation: standard deviation {figures(sure.sd_linear)} points",
        f"5 in 100 are below {figures(low)} %, half below {figures(middle)} %, 5 in 100 above {figures(high)} %",
    ]
    if sure.share_holding_pct is not None:
        said.append(f"{sure.guideline} is held by {figures(sure.share_holding_pct)} % of the draws")
    said += [
        f"{formula.lines[one.line].material.name}: {figures(one.share_of_variance_pct)} % of the variance"
        for one in sure.ranked
        if abs(one.share_of_variance_pct) > 0.05
    ]
    if sure.table_share_pct > 0.05:
        said.append(f"The density table: {figures(sure.table_share_pct)} % of the variance")
    said += [
        f"Tried: {one.change}: {'' if one.share_holding_pct is None else f'{figures(one.share_holding_pct)} % hold, '}"
        f"standard deviation {figures(one.sd)} points"
        for one in tried
    ]
    return said
