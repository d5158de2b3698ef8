"""The open format of a formula: written and read back the same."""

from firkin.core.formula import Step, formula_from_dict, formula_to_dict
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
