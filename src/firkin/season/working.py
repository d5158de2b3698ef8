"""A plan worked out by a process of its own, with what it looks for told in the plan's row; it can be stopped.

The page begins it (season/worker is what runs) and asks how far it is.
"""

import os
import signal
import subprocess
import sys
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from firkin.accounts.models import User, Workshop
from firkin.core.errors import CannotReckon
from firkin.core.season import Season, SeasonPlan, plan_season, plan_to_dict, season_from_dict, unmet_by_product
from firkin.season.asking import season_of
from firkin.season.models import Plan

#: So long a plan is sought at the most, and in the tests, seconds.
SECONDS, SECONDS_HERE = 20.0, 5.0
#: After so long without a word its process is taken to be gone, seconds.
_SILENT_S = 90.0
#: A shortage of less than this is none, mL.
_NONE_ML = 0.5
#: The processes of this server, until they end.
_running: dict[int, "subprocess.Popen[bytes]"] = {}


def begin(
    workshop: Workshop,
    user: User | None,
    why: str,
    pinned: list[dict[str, Any]],
    *,
    keep: bool = False,
    gone: dict[str, Any] | None = None,
) -> Plan:
    """Begin to plan the workshop's season with some batches pinned; what is under way already is stopped.

    With ``keep`` the batches of the plan that stands stay where they are, as far as nobody goes short for it; ``gone``
    is the one that does not stand there any more.
    """
    stop_all(workshop)
    asking = season_of(workshop, pinned)
    document = asking.document
    plan = Plan(workshop=workshop, by=user, why=why[:200], asked=document, telling="Reading the shelf")
    units = {name: one.unit for name, one in asking.materials.items()}
    plan.planned = {
        "left_out": asking.left_out,
        "units": units,
        "keep": _standing(workshop, [*pinned, gone]) if keep else [],
    }
    plan.save()
    if settings.PLAN_HERE:
        work(plan.pk, SECONDS_HERE)
        plan.refresh_from_db()
        return plan
    transaction.on_commit(lambda: _run(plan.pk))  # it looks for the row, which nobody sees before
    return plan


def _run(pk: int) -> None:
    process = subprocess.Popen(  # noqa: S603  this Python, a module of Firkin, a number
        [sys.executable, "-m", "firkin.season.worker", str(pk)],
        env={**os.environ, "DJANGO_SETTINGS_MODULE": "firkin.site.settings", "FIRKIN_MODE": settings.MODE},
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
    )
    _running[pk] = process
    Plan.objects.filter(pk=pk).update(pid=process.pid)


def _standing(workshop: Workshop, without: list[dict[str, Any] | None]) -> list[dict[str, Any]]:
    """The batches of the plan that stands, without some."""
    newest = Plan.objects.newest_of(workshop)
    if newest is None or newest.planned is None:
        return []
    return [row for row in newest.planned.get("batches", []) if row not in without]


def stop_all(workshop: Workshop) -> int:
    """Stop what is worked out for a workshop; how many that were."""
    working = Plan.objects.filter(workshop=workshop, state=Plan.State.WORKING)
    for plan in working:
        process = _running.pop(plan.pk, None)
        if process is not None:
            process.kill()
            process.wait()
        elif plan.pid and is_silent(plan):
            continue
        elif plan.pid:
            _kill(plan.pid)
    return working.update(state=Plan.State.STOPPED, telling="")


def _kill(pid: int) -> None:
    """End a process of a server before this one."""
    try:
        with open(f"/proc/{pid}/cmdline", "rb") as told:
            ours = b"firkin.season.worker" in told.read()
        if ours:
            os.kill(pid, signal.SIGKILL)
    except OSError:
        return


def is_silent(plan: Plan) -> bool:
    """True for a plan whose process has not come to an end for too long, or is gone."""
    process = _running.get(plan.pk)
    if process is not None and process.poll() is not None:
        _running.pop(plan.pk, None)
        return True
    return timezone.now() - plan.at > timedelta(seconds=SECONDS + _SILENT_S)


def given_up(workshop: Workshop) -> None:
    """Plans whose process is gone have failed: nobody waits for them any more."""
    for plan in Plan.objects.filter(workshop=workshop, state=Plan.State.WORKING):
        if is_silent(plan):
            mine = Plan.objects.filter(pk=plan.pk, state=Plan.State.WORKING)
            mine.update(state=Plan.State.FAILED, telling="The planner stopped. Plan again.")


def work(pk: int, seconds: float = SECONDS) -> None:
    """Work a plan out, and write what came of it."""
    plan = Plan.objects.get(pk=pk)
    said: dict[str, Any] = plan.planned or {}

    def tell(words: str) -> None:
        Plan.objects.filter(pk=pk, state=Plan.State.WORKING).update(telling=words)

    try:
        season = season_from_dict(plan.asked)
        found = _with_fewest_changes(plan, season, said.get("keep", []), seconds, tell)
    except CannotReckon as error:
        _write(pk, Plan.State.FAILED, telling=str(error)[:120])
        return
    told = plan_to_dict(found)
    _write(
        pk,
        Plan.State.DONE,
        telling="",
        planned={**told, **{key: said[key] for key in ("left_out", "units") if key in said}},
    )


def _with_fewest_changes(
    plan: Plan, season: Season, keep: list[dict[str, Any]], seconds: float, tell: Any
) -> SeasonPlan:
    """The plan with everything that stood where it was, if nobody goes short for it; else anew.

    First all batches stay; then those of the products that would go short are free; then all.
    """
    begins = season.begins.isoformat()
    there = [row for row in keep if row["start"] >= begins and row["product"] in {one.id for one in season.products}]
    if there:
        least = sum((unmet_by_product(season, seconds / 4.0) or {}).values())
        for kept in (there, _of_others(there, season, seconds)):
            if not kept:
                continue
            try:
                pinned = season_from_dict({**plan.asked, "pinned": [*plan.pinned, *kept]})
                found = plan_season(pinned, seconds / 2.0, tell)
            except CannotReckon:  # they do not fit together any more
                continue
            if found.unmet_mL <= least + _NONE_ML:
                return found
    return plan_season(season, seconds, tell)


def _of_others(rows: list[dict[str, Any]], season: Season, seconds: float) -> list[dict[str, Any]]:
    """The batches of products that go short of nothing however it is planned."""
    unmet = unmet_by_product(season, seconds / 4.0) or {}
    short = {key for key, mL in unmet.items() if mL > _NONE_ML}
    return [row for row in rows if row["product"] not in short]


def _write(pk: int, state: Plan.State, **columns: Any) -> None:
    """What came of it, where nobody stopped it in the meantime."""
    with transaction.atomic():
        Plan.objects.filter(pk=pk, state=Plan.State.WORKING).update(state=state, **columns)
