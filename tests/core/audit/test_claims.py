"""Claims held against what a mix comes to."""

from firkin.core.audit import audit
from firkin.core.formula import formula_from_dict, reckon


def test_a_claim_that_is_not_kept_is_found_and_one_that_is_kept_is_not() -> None:
    """“Three parts 70 % to one of gel makes 70 %”: common practice, no source."""
    data = {
        "format": "firkin-formula/1",
        "name": "Heard at the lock",
        "claim": {"active": "rubbing alcohol", "strength": "70 %"},
        "lines": [
            {"material": "rubbing alcohol", "strength": "70 %", "amount": "3 parts"},
            {"material": "aloe", "amount": "1 part"},
        ],
    }
    rules = [finding.rule for finding in audit(reckon(formula_from_dict(data)))]
    assert "claim-differs" in rules
    data["claim"]["strength"] = "52.5 %"
    assert "claim-differs" not in [f.rule for f in audit(reckon(formula_from_dict(data)))]
