"""The text commands: `firkin reckon`, `firkin solve`, `firkin read` and `firkin plan`; JSON out, no database."""

import json
import sys
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
_USAGE = (
    "usage: firkin reckon FORMULA.json | firkin solve QUESTION.json | firkin read RECIPE.txt [--household us]"
    " | firkin plan SEASON.json [--seconds 30]  (- reads standard input)"
)


def main(arguments: list[str]) -> int:
    """Run one text command; 0 and a document on standard output, or 2 and a line on standard error."""
    command, *rest = arguments or [""]
    try:
        rest, household = _household(rest) if command == "read" else (rest, "")
        rest, seconds = _seconds(rest) if command == "plan" else (rest, 0.0)
        if len(rest) != 1 or command not in ("reckon", "solve", "read", "plan"):
            print(_USAGE, file=sys.stderr)
            return 2
        if command == "read":
            document = _read_recipe(rest[0], household)
        elif command == "plan":
            document = _plan(_read(rest[0]), seconds)
        else:
            document = (_reckon if command == "reckon" else _solve)(_read(rest[0]))
    except CannotReckon as error:
        place = ".".join(str(part) for part in error.path)
        message = " ".join(str(error).split())
        print(f"{place}: {message}" if place else message, file=sys.stderr)
        return 2
    sys.stdout.reconfigure(encoding="utf-8")  # type: ignore[union-attr]
    print(json.dumps(document, indent=2, ensure_ascii=False))
    return 0


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


def _seconds(arguments: list[str]) -> tuple[list[str], float]:
    """The arguments without --seconds, and what it says: 30 where it is not there."""
    rest, written = list(arguments), ""
    for at, argument in enumerate(arguments):
        if argument == "--seconds" or argument.startswith("--seconds="):
            inline = argument.partition("=")[2]
            written = inline or (arguments[at + 1] if at + 1 < len(arguments) else "nothing")
            rest = arguments[:at] + arguments[at + (1 if inline else 2) :]
    if not written:
        return rest, _SECONDS
    try:
        seconds = float(written)
    except ValueError:
        seconds = -1.0
    if not 0.1 <= seconds <= _MOST_SECONDS:
        raise CannotRead(f"{written[:40]}; expected seconds from 0.1 to {_MOST_SECONDS:g}").at("seconds")
    return rest, seconds


def _household(arguments: list[str]) -> tuple[list[str], str]:
    """The arguments without --household, and whose cups and gallons it names: US where it is not there."""
    from firkin.core.recipe import measures

    rest, household = list(arguments), "us"
    for at, argument in enumerate(arguments):
        if argument == "--household" or argument.startswith("--household="):
            inline = argument.partition("=")[2]
            household = inline or (arguments[at + 1] if at + 1 < len(arguments) else "")
            rest = arguments[:at] + arguments[at + (1 if inline else 2) :]
    if household not in measures():
        raise CannotRead(f"{household[:40]}; expected one of {', '.join(measures())}").at("household")
    return rest, household


def _read_recipe(name: str, household: str) -> dict[str, Any]:
    from firkin.core.recipe import findings_of, read_recipe
    from firkin.exchange.recipe_format import recipe_to_dict

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
