"""What share of a finished batch each role usually has, family by family."""

from functools import cache

from firkin.core import datafiles
from firkin.core.catalogue.materials import Material

#: An amount so many times above its usual share, or below it, is asked about: kitchens differ, slips differ more.
MUCH, LITTLE = 1.6, 5.0


def usual_share(material: Material, family: str = "") -> tuple[float, float]:
    """The share of a batch, as a fraction, that a material of its role usually has in a family: from and to.

    Without a family the share that holds for all of them. Source: common practice (usual_shares.toml).

    Args:
        material: a material of the catalogue or the workshop, known or not.
        family: id of a family, such as "liquid-rub"; one that is not known counts as "other".

    >>> from firkin.core.catalogue.materials import find
    >>> usual_share(find("phenoxyethanol")), usual_share(find("ethanol"), "gel")
    ((0.001, 0.015), (0.5, 0.95))
    """
    return _of_roles(material.roles, family)


@cache
def _of_roles(roles: frozenset[str], family: str) -> tuple[float, float]:
    table = datafiles.toml("catalogue/usual_shares.toml")
    rows = {**table["usual"], **table.get(family, {})}
    low, high = next((row for role, row in rows.items() if role in roles), rows["other"])
    return low / 100.0, high / 100.0


def out_of_usual(material: Material, family: str, *shares: float) -> int:
    """How a share stands to what is usual: 1 far above, -1 far below, 0 within reason.

    Several shares are the same amount by weight and by volume; one within reason is enough. Materials that Firkin does
    not know have no usual share.

    Args:
        material: a material of the catalogue or the workshop, known or not.
        family: id of a family, such as "liquid-rub"; one that is not known counts as "other".
        shares: fractions of the batch, 0 to 1.

    >>> from firkin.core.catalogue.materials import find
    >>> [out_of_usual(find("phenoxyethanol"), "foaming-soap", share) for share in (0.08, 0.01, 0.0001)]
    [1, 0, -1]
    """
    if not material.known:
        return 0
    low, high = usual_share(material, family)
    if all(share > min(high * MUCH, 1.0) for share in shares):
        return 1
    return -1 if all(share < low / LITTLE for share in shares) else 0
