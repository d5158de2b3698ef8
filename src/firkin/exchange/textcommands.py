"""The text commands: `firkin reckon`, `solve`, `read`, `plan` and `rehearse`; JSON out, no database."""

import json
import sys
from collections.abc import Iterable
from pathlib import Path
from typing import Any, NoReturn

from firkin.core.audit import audit
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.formula import formula_from_dict, reckon
from firkin.exchange.questions import answer
from firkin.exchange.reckoning_format import reckoning_to_dict
from firkin.exchange.validation import check, check_formula, parts, version_of

_LARGEST_BYTES = 4_000_000
_LONGEST_TEXT = 50_000
_LONGEST_SEED = 18
_USAGE = (
    "usage: firkin reckon FORMULA.json | firkin solve QUESTION.json | firkin read RECIPE.txt [--household us]"
    " | firkin plan SEASON.json [--seconds 30]"
    " | firkin rehearse FORMULA.json [--seed 7] [--care careful|usual|hasty] [--tools cup,scale-1g] [--slips none]"
    "  (- reads standard input)"
)


#: What each command may be told besides its file.
_OPTIONS: dict[str, tuple[str, ...]] = {
    "reckon": (),
    "solve": (),
    "read": ("household",),
    "plan": ("seconds",),
    "rehearse": ("seed", "care", "tools", "slips"),
}


def main(arguments: list[str]) -> int:
    """Run one text command; 0 and a document on standard output, or 2 and a line on standard error."""
    command, *rest = arguments or [""]
    try:
        rest, said = _options(rest, _OPTIONS.get(command, ()))
        if len(rest) != 1 or command not in _OPTIONS:
            print(_USAGE, file=sys.stderr)
            return 2
        document = _document(command, rest[0], said)
    except CannotReckon as error:
        place = ".".join(str(part) for part in error.path)
        message = " ".join(str(error).split())
        print(f"{place}: {message}" if place else message, file=sys.stderr)
        return 2
    sys.stdout.reconfigure(encoding="utf-8")  # type: ignore[union-attr]
    print(json.dumps(document, indent=2, ensure_ascii=False))
    return 0


def _options(arguments: list[str], known: Iterable[str]) -> tuple[list[str], dict[str, str]]:
    """The arguments without the options that are known, and what those say."""
    rest: list[str] = []
    said: dict[str, str] = {}
    there = iter(arguments)
    for argument in there:
        name, given, value = argument.removeprefix("--").partition("=")
        if argument.startswith("--") and name in known:
            said[name] = value if given else next(there, "nothing")
        else:
            rest.append(argument)
    return rest, said


def _document(command: str, name: str, said: dict[str, str]) -> dict[str, Any]:
    """What a command answers."""
    if command == "read":
        return _read_recipe(name, said)
    if command == "plan":
        seconds = _seconds(said)
        return _plan(_read(name), seconds)
    if command == "rehearse":
        return _rehearse(name, said)
    return (_reckon if command == "reckon" else _solve)(_read(name))


def _reckon(document: Any) -> dict[str, Any]:
    check_formula(document)
    result = reckon(formula_from_dict(document))
    return reckoning_to_dict(result, audit(result))


def _solve(document: Any) -> dict[str, Any]:
    asks = parts("firkin-question-1")
    ask = document.get("ask") if isinstance(document, dict) else None
    if ask is None or not isinstance(ask, str) or ask not in asks:
        shown = json.dumps(ask, ensure_ascii=False)[:60]
        raise CannotRead(f"{shown}; expected one of {', '.join(asks)}").at("ask")
    check(document, "firkin-question-1", ask)
    return answer(document)


#: So long a plan is sought where nothing else is said, and at the most, in seconds.
_SECONDS, _MOST_SECONDS = 30.0, 3600.0


def _plan(document: Any, seconds: float) -> dict[str, Any]:
    from firkin.core.season import SEASON_FORMAT, plan_season, plan_to_dict, season_from_dict

    there = document.get("format") if isinstance(document, dict) else None
    if isinstance(there, str) and there.startswith("firkin-season/"):
        version_of(there, SEASON_FORMAT)
    check(document, "firkin-season-1")
    return plan_to_dict(plan_season(season_from_dict(document), seconds))


def _seconds(said: dict[str, str]) -> float:
    """So many seconds a plan is sought: 30 where nothing is said."""
    if "seconds" not in said:
        return _SECONDS
    try:
        seconds = float(said["seconds"])
    except ValueError:
        seconds = -1.0
    if not 0.1 <= seconds <= _MOST_SECONDS:
        raise CannotRead(f"{said['seconds'][:40]}; expected seconds from 0.1 to {_MOST_SECONDS:g}").at("seconds")
    return seconds


def _rehearse(name: str, said: dict[str, str]) -> dict[str, Any]:
    from firkin.core.rehearsal import rehearse
    from firkin.exchange.rehearsal_format import rehearsal_to_dict

    seed = said.get("seed", "0")
    if not seed.isascii() or not seed.isdigit() or len(seed) > _LONGEST_SEED:
        raise CannotRead(f"{seed[:40]}; expected a whole number, 0 or more").at("seed")
    slips = said.get("slips", "usual")
    if slips not in ("none", "usual"):
        raise CannotRead(f"{slips[:40]}; expected none or usual").at("slips")
    tools = [one.strip() for one in said["tools"].split(",")] if "tools" in said else []
    document = _read(name)
    check_formula(document)
    formula = formula_from_dict(document)
    return rehearsal_to_dict(rehearse(formula, int(seed), said.get("care", "usual"), tools, slips=slips == "usual"))


def _read_recipe(name: str, said: dict[str, str]) -> dict[str, Any]:
    from firkin.core.recipe import findings_of, measures, read_recipe
    from firkin.exchange.recipe_format import recipe_to_dict

    household = said.get("household", "us")
    if household not in measures():
        raise CannotRead(f"{household[:40]}; expected one of {', '.join(measures())}").at("household")
    text = _text(_bytes(name))
    if len(text) > _LONGEST_TEXT:
        raise CannotRead(f"The text is too long: {_LONGEST_TEXT} characters can be read, and this has {len(text)}.")
    recipe = read_recipe(text, household)
    return recipe_to_dict(recipe, household, findings_of(recipe))


def _bytes(name: str) -> bytes:
    try:
        raw = sys.stdin.buffer.read(_LARGEST_BYTES + 1) if name == "-" else Path(name).read_bytes()
    except OSError as error:
        raise CannotRead(f"{name}: cannot be read ({error.strerror})") from None
    if len(raw) > _LARGEST_BYTES:
        raise CannotRead("The document is larger than 4 MB.")
    return raw


def _text(raw: bytes) -> str:
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise CannotRead("The document is not UTF-8 text.") from None


def _read(name: str) -> Any:
    raw = _bytes(name)
    try:
        return json.loads(_text(raw), parse_constant=_no_constant, object_pairs_hook=_no_twins)
    except json.JSONDecodeError as error:
        raise CannotRead(f"Not JSON: {error.msg} at line {error.lineno}, column {error.colno}.") from None
    except RecursionError:
        raise CannotRead("The document is nested too deeply.") from None
    except CannotRead:
        raise
    except ValueError:  # Python refuses whole numbers of thousands of digits
        raise CannotRead("The document holds a number with more digits than anyone can measure.") from None


def _no_constant(name: str) -> NoReturn:
    raise CannotRead(f"{name} is not a number JSON knows.")


def _no_twins(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    seen: dict[str, Any] = {}
    for key, value in pairs:
        if key in seen:
            raise CannotRead("the key stands twice").at(key)
        seen[key] = value
    return seen


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
