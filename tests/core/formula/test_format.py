"""The open format of a formula: written and read back the same."""

from pathlib import Path
from typing import Any

from firkin.core.errors import CannotReckon
from firkin.core.formula import Step, formula_from_dict, formula_to_dict
from kept import same_as_kept
from mixes import mix


def test_a_formula_written_and_read_back_is_the_same() -> None:
    data = {
        "format": "firkin-formula/1",
        "name": "Landing rub",
        "family": "liquid-rub",
        "make": "2 L",
        "temperature": "24 degC",
        "guideline": ["cdc-alcohol-60", "who-ethanol"],
        "claim": {"active": "ethanol", "strength": "80 % v/v"},
        "lines": [
            {"material": "ethanol", "strength": "95-96 %", "amount": "833.333333 mL", "phase": "A"},
            {"material": "water", "amount": "q.s.", "note": "boiled"},
        ],
        "steps": [{"do": "combine", "text": "Slowly.", "lines": [0], "wait": "72 h", "portions": 3}],
    }
    formula = formula_from_dict(data)
    assert formula_from_dict(formula_to_dict(formula)) == formula


def test_what_a_step_and_a_formula_say_beside_their_lines_is_written_and_read_back() -> None:
    step = Step("melt", "Warm it.", (0,), 1.0, 3, 0.25, 70.0, "It boils over.")
    formula = mix(("water", "1 L"), family="liquid-soap", steps=(step,), keep_days=21.0, cut=1.5)
    written = formula_to_dict(formula)
    assert written["steps"][0] == {
        "do": "melt", "text": "Warm it.", "lines": [0], "wait": "1 h", "portions": 3, "timer": "15 min",
        "temperature": "70 degC", "caution": "It boils over.",
    }  # fmt: skip
    assert formula_from_dict(written) == formula


#: What is wrong in a document, and where: the path of each is part of what is kept.
WRONG: dict[str, dict[str, Any]] = {
    "line 1 strength": {
        "lines": [{"material": "water", "amount": "1 L"}, {"material": "ethanol", "strength": "x", "amount": "1 L"}]
    },
    "line 1 amount": {"lines": [{"material": "water", "amount": "1 L"}, {"material": "water", "amount": "some"}]},
    "line 0 error": {"lines": [{"material": "water", "amount": "1 L", "error": "by eye"}]},
    "make": {"make": "much"},
    "temperature": {"temperature": "hot"},
    "claim active": {"claim": {"active": "pond water", "strength": "70 %"}},
    "claim strength": {"claim": {"active": "ethanol", "strength": "strong"}},
    "guideline": {"guideline": "house-rule"},
    "guideline 1": {"guideline": ["cdc-alcohol-60", "house-rule"]},
    "step 0 lines": {"steps": [{"do": "pour", "lines": [5]}]},
    "step 0 last line": {"steps": [{"do": "pour", "lines": [1]}]},
    "step 1 wait": {"steps": [{"do": "pour", "lines": [0]}, {"do": "rest", "wait": "soon"}]},
    "step 0 timer": {"steps": [{"do": "stir", "timer": "soon"}]},
    "step 0 temperature": {"steps": [{"do": "melt", "temperature": "hot"}]},
}


def test_what_cannot_be_read_is_said_with_its_place_as_kept() -> None:
    sound: dict[str, Any] = {
        "format": "firkin-formula/1",
        "name": "A mix",
        "lines": [{"material": "ethanol", "amount": "1 L"}],
    }
    said = {}
    for name, wrong in WRONG.items():
        try:
            formula_from_dict(sound | wrong)
            said[name] = "read"
        except CannotReckon as refused:
            said[name] = f"{'.'.join(str(part) for part in refused.path)}: {refused}"
    same_as_kept(Path(__file__).parent / "wrong.txt", said)
