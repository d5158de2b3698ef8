"""A formula on its way to the book: signed, so that what is kept is what was shown."""

from typing import Any

from django.core import signing

from firkin.core.formula import Formula, formula_to_dict

_SALT = "keep"


def signed(formula: Formula) -> str:
    """The formula as signed text, still without a name of its own."""
    return signing.dumps({**formula_to_dict(formula), "name": "Unnamed"}, salt=_SALT)


def unsigned(text: str) -> dict[str, Any] | None:
    """The formula as plain data; None where it did not arrive whole."""
    try:
        data: dict[str, Any] = signing.loads(text, salt=_SALT)
    except signing.BadSignature:
        return None
    return data
