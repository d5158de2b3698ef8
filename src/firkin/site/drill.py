"""Every page of a restored copy is opened, as its keepers would see it: the process of ./firkin restore --drill."""

import os
import sys
from collections.abc import Iterator


def main() -> int:
    """Open every page; 0 where all of them open, else 1, with what was found on standard output."""
    os.environ["DJANGO_SETTINGS_MODULE"] = "firkin.site.settings"
    import django
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    call_command("collectstatic", verbosity=0, interactive=False)
    from django.test import Client

    from firkin.accounts.models import Membership, Role

    opened, wrong = 0, []
    for keeper in Membership.objects.filter(role=Role.KEEPER).order_by("workshop", "pk"):
        client = Client(raise_request_exception=False, SERVER_NAME="localhost")
        client.force_login(keeper.user)
        session = client.session
        session["workshop"] = keeper.workshop_id
        session.pop("second_step_wanted", None)
        session.save()
        for address in _addresses(keeper.workshop_id):
            status = client.get(address).status_code
            opened += 1
            if status >= 400:
                wrong.append(f"{address} ({status})")
    print(f"{opened} pages opened, {len(wrong)} would not." + "".join(f"\n  {one}" for one in wrong[:20]))
    return 1 if wrong or not opened else 0


def _addresses(workshop: int) -> Iterator[str]:
    from firkin.batches.models import Batch
    from firkin.formulas.models import Formula

    yield from ("/", "/shelf/", "/batches/", "/formulas/", "/batches/calendar/", "/exchange/", "/accounts/workshop/")
    for batch in Batch.objects.filter(workshop=workshop).order_by("pk"):
        for page in ("record", "label", "check"):
            yield f"/batches/{batch.pk}/{page}/"
    for formula in Formula.objects.filter(workshop=workshop).order_by("pk"):
        yield f"/formulas/{formula.pk}/"


if __name__ == "__main__":
    sys.exit(main())
