"""Audit rule about shares of a batch that no kitchen uses: a decimal point slipped, or an amount is another's."""

from collections.abc import Iterator

from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import out_of_usual, usual_share
from firkin.core.formula import Reckoning
from firkin.core.measures import figures
from firkin.core.texts import uncapped

#: Rules that say more of the same amount.
SAYS_MORE = frozenset(
    {
        *("preservative-window", "thickener-much", "neutraliser-off", "glycerol-sticky", "foam-ratio"),
        *("ferment-ratio", "will-not-dissolve", "top-up-of-little", "caustic-left", "salt-curdles-soap"),
        *("line-short", "line-too-strong", "surface-weak", "spirit-too-weak", "chlorine-strong"),
    }
)


def unusual(result: Reckoning) -> Iterator[tuple[str, int]]:
    """The materials whose share of the batch is far from what their family usually holds, each with 1 or -1."""
    formula = result.formula
    if len(formula.lines) < 2:
        return
    for key in dict.fromkeys(line.material.id for line in formula.lines):
        off = _off(result, key)
        if off:
            yield key, off


def _off(result: Reckoning, key: str) -> int:
    places = result.formula.lines_of(key)
    return out_of_usual(
        result.formula.lines[places[0]].material,
        result.formula.family,
        sum(result.lines[i].mass_g for i in places) / result.total.mass_g,
        sum(result.lines[i].volume_mL for i in places) / result.total.volume_mL,
    )


def _share_unusual(result: Reckoning) -> Iterator[Finding]:
    for key, off in unusual(result):
        places = result.formula.lines_of(key)
        material = result.formula.lines[places[0]].material
        low, high = usual_share(material, result.formula.family)
        share = sum(result.lines[i].share_w_pct for i in places)
        yield Finding(
            "share-unusual",
            Severity.WARN if off > 0 else Severity.NOTE,
            f"{figures(share, 3)} % of this is {uncapped(material.name)}. Usual is {figures(100 * low, 3)} to "
            f"{figures(100 * high, 3)} %.",
            "Check the amount and its unit: a decimal point may have slipped.",
            places,
        )


SHARE_RULES = (_share_unusual,)
