"""A formula's family, rule line and basis go with what is in it, until the maker has chosen them."""

from collections.abc import Iterable

from django.http import QueryDict

from firkin.core.catalogue import Material, families, family_of

#: What a form carries: the family it showed last, and the one its lines spoke for then; "chosen" once the maker chose.
SHOWN, SPOKEN, CHOSEN = "family_was", "follows", "chosen"


def followed(data: QueryDict, materials: Iterable[Material]) -> QueryDict:
    """The fields of a form with the family its lines speak for by now, and that family's rule lines and basis.

    What the maker chose stays: a family other than the one shown last was chosen. Rule lines and basis follow while
    they are still those of the family before.
    """
    found = data.copy()
    now, shown, spoken = family_of(materials), data.get(SHOWN), data.get(SPOKEN)
    family = data.get("family") or "other"
    if spoken == CHOSEN or (shown and family != shown):
        found[SPOKEN] = CHOSEN
    else:
        if spoken and now != spoken and family in families():
            before, after = families()[family], families()[now]
            found["family"] = family = now
            if data.getlist("rule") in ([*before.lines], [""] if not before.lines else []):
                found.setlist("rule", [*after.lines] or [""])
            if data.get("basis") == before.basis:
                found["basis"] = after.basis
        found[SPOKEN] = now
    found[SHOWN] = family
    return found
