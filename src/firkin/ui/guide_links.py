"""Where the guide says more about a finding, by its rule."""

from django.urls import reverse

#: The page of the guide, and the place on it.
_PLACES = {
    **dict.fromkeys(
        (
            *("bleach-mixed", "peroxide-vinegar", "peroxide-mixed", "caustic-mixed", "acid-carbonate-wet"),
            *("acid-carbonate-dry", "acid-curdles-soap", "salt-curdles-soap", "oil-in-alcohol", "oil-in-soap"),
        ),
        ("together", ""),
    ),
    **dict.fromkeys(
        (
            *(
                "line-short",
                "line-active-missing",
                "line-uncertain",
                "line-too-strong",
                "no-rule-line",
                "claim-differs",
            ),
            *("surface-weak", "spirit-too-weak"),
        ),
        ("rules", ""),
    ),
    **dict.fromkeys(("thickener-limit", "salt-thins-polymer"), ("troubles", "collapsed")),
    **dict.fromkeys(("preservative-ph", "preservative-window", "no-preservative"), ("words", "preservative")),
    **dict.fromkeys(("two-alcohols", "table-uncertain"), ("words", "true-strength")),
    "unfit-alcohol": ("cautions", "alcohol-grade"),
    "peroxide-strong": ("cautions", "peroxide-corrosive"),
    "too-much-alcohol": ("cautions", "quantity"),
    "heated-alcohol": ("cautions", "flammable"),
    "caustic-left": ("words", "neutralise"),
    "strength-assumed": ("words", "strength"),
    "percent-sum": ("words", "percent-by-volume"),
    "part-unsaid": ("words", "parts"),
    "unknown-material": ("materials", ""),
}


def guide_place(rule: str) -> str:
    """The address in the guide where more is said about a finding; empty where nothing is."""
    if rule not in _PLACES:
        return ""
    page, place = _PLACES[rule]
    return reverse(f"guide:{page}") + (f"#{place}" if place else "")
