"""A page asks the database as often for 200 rows as for 10."""

from datetime import timedelta

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from firkin.batches.models import Batch, CalendarFeed, Due, Entry, Filling, Photo, State, Wait
from firkin.core.bench import EntryKind
from firkin.core.catalogue import find
from firkin.core.formula import Formula as CoreFormula
from firkin.core.formula import Line, Step
from firkin.core.measures import Quantity, Strength
from firkin.formulas.models import Formula, FormulaLine, FormulaVersion
from firkin.shelf.models import Material, Movement, Stock, Tool, Vessel

MOST_LINES = 25  # a formula has tens of lines, not hundreds


def mixture(lines: int) -> CoreFormula:
    """A formula of so many lines and steps, an own material among them."""
    ethanol = Line(find("ethanol"), Quantity(1000.0, "mL"), Strength.of(96.0, "v/v"))
    own = [Line(find(f"own {i}"), Quantity(5.0, "mL")) for i in range(lines - 2)]
    return CoreFormula(
        "Crowded rub",
        (ethanol, *own, Line(find("glycerol"), Quantity(10.0, "mL"))),
        family="liquid-rub",
        guidelines=("cdc-alcohol-60",),
        steps=tuple(Step("pour", f"Pour {i}.", (i,)) for i in range(lines)),
    )


class Crowd:
    """A workshop with ``rows`` of everything."""

    def __init__(self, workshop, maker, rows: int) -> None:
        self.workshop, self.maker, self.rows = workshop, maker, rows
        self._shelf()
        lines = min(rows, MOST_LINES)
        self.formula = Formula.objects.keep(mixture(lines), workshop, maker)
        FormulaVersion.objects.bulk_create(
            FormulaVersion(formula=self.formula, number=2 + i, note=f"change {i}", basis="volume") for i in range(rows)
        )
        self.formula.add_version(mixture(lines), maker)
        others = Formula.objects.bulk_create(
            Formula(workshop=workshop, name=f"Other {i}", family="liquid-rub") for i in range(rows)
        )
        kept = FormulaVersion.objects.bulk_create(
            FormulaVersion(formula=one, number=1, basis="volume") for one in others
        )
        FormulaLine.objects.bulk_create(
            FormulaLine(version=one, position=0, material="own 0", amount_value=1, amount_unit="L") for one in kept
        )
        version = self.formula.current
        self.batches = {state: Batch.objects.start(version, version.as_core(), maker) for state in State}
        for state, batch in self.batches.items():
            self._fill(batch, state)
        self._many_batches(version)

    def _shelf(self) -> None:
        shop, rows = self.workshop, range(self.rows)
        Material.objects.bulk_create(Material(workshop=shop, name=f"own {i}", density_g_per_mL=1.1) for i in rows)
        stocks = [
            Stock(
                workshop=shop, material="ethanol" if i % 2 else f"own {i}", name=f"bottle {i}", price=3, amount_value=2,
                amount_unit="L", bought_on=timezone.localdate(),
            )
            for i in rows
        ]  # fmt: skip
        for stock in stocks:
            stock.strength = Strength.of(96.0, "v/v") if stock.material == "ethanol" else None
        stocks = Stock.objects.bulk_create(stocks)
        Movement.objects.bulk_create(Movement(stock=stock, mass_g=-3) for stock in stocks)
        Vessel.objects.bulk_create(
            Vessel(workshop=shop, name=f"flask {i}", kind=("bottle", "mixing")[i % 2], volume_mL=9000 + i, count=3)
            for i in rows
        )
        Tool.objects.bulk_create(
            Tool(workshop=shop, name=f"cup {i}", amount_value=20 + i, amount_unit="mL", error_pct=3) for i in rows
        )

    def _fill(self, batch: Batch, state: State) -> None:
        """Entries, waits, dues, fillings and photos of one batch in a state."""
        now = timezone.now()
        rows = list(batch.lines.all())
        stocks = list(Stock.objects.filter(workshop=self.workshop, material="ethanol"))
        for row in rows:
            row.stock = stocks[row.position % len(stocks)] if row.material == "ethanol" else None
            row.save()
        if state not in (State.PLANNED, State.MAKING):
            Entry.objects.bulk_create(
                Entry(
                    batch=batch, kind=EntryKind.POUR, line=row, amount_value=row.planned_mL, amount_unit="mL",
                    data={"planned": row.planned_g},
                )
                for row in rows
            )  # fmt: skip
            batch.made_at = now - timedelta(days=3)
        each = [{"kind": EntryKind.NOTE, "text": "a note", "by": self.maker}]
        each.append({"kind": EntryKind.READING, "data": {"what": "ph", "value": 7.0}})
        each.append({"kind": EntryKind.OBSERVE, "data": {"seen": {"colour": 1}}})
        Entry.objects.bulk_create(Entry(batch=batch, **one) for one in each for _ in range(self.rows))
        Due.objects.bulk_create(
            Due(batch=batch, kind="vent", at=now + timedelta(hours=i - 5), text="Open it.") for i in range(self.rows)
        )
        flask = Vessel.objects.filter(workshop=self.workshop, kind="bottle").first()
        Filling.objects.bulk_create(
            Filling(batch=batch, vessel=flask, container="flask", count=1, fill_mL=1) for _ in range(self.rows)
        )
        Photo.objects.bulk_create(Photo(batch=batch, jpeg=b"x", caption="c") for _ in range(self.rows))
        Wait.objects.bulk_create(
            Wait(batch=batch, kind="rest", started_at=now, hours=5, free_at=now, ended_at=now) for _ in range(self.rows)
        )
        if state == State.RESTING:
            Wait.objects.create(batch=batch, kind="rest", started_at=now, hours=9, free_at=now + timedelta(hours=9))
        batch.state = state
        batch.save()

    def _many_batches(self, version) -> None:
        """More batches in every state, as a list shows them."""
        now = timezone.now()
        batches = Batch.objects.bulk_create(
            Batch(
                workshop=self.workshop, version=version, number=100 + i, name=f"batch {i}", family="liquid-rub",
                frozen=self.batches[State.PLANNED].frozen, state=list(State)[i % len(State)], made_at=now,
                rests_until=now,
            )
            for i in range(self.rows)
        )  # fmt: skip
        for batch in batches:
            batch.lines.model.objects.bulk_create(
                batch.lines.model(
                    batch=batch, position=row.position, material=row.material, planned_mL=row.planned_mL,
                    planned_g=row.planned_g, amount_value=row.amount_value, amount_unit=row.amount_unit,
                    strength_value=row.strength_value, strength_low=row.strength_low, strength_high=row.strength_high,
                    strength_basis=row.strength_basis, stock=row.stock,
                )
                for row in self.batches[State.FILLED].lines.all()
            )  # fmt: skip
        Wait.objects.bulk_create(
            Wait(batch=batch, kind="rest", started_at=now, hours=5, free_at=now + timedelta(hours=i))
            for i, batch in enumerate(batches)
            if batch.state == State.RESTING
        )
        CalendarFeed.objects.bulk_create(
            CalendarFeed(workshop=self.workshop, owner=self.workshop.members.first(), token=f"{self.workshop.pk}-{i}")
            for i in range(self.rows)
        )

    def pages(self) -> dict[str, str]:
        """Every list and detail page, by name."""
        first, numbers = self.formula.pk, [f"b={100 + i}" for i in range(6)]
        found = {
            name: reverse(name)
            for name in (
                "bench", "reckoner:strength", "formulas:book", "formulas:check", "formulas:new", "batches:list",
                "batches:calendar", "shelf:shelf", "guide:guide",
            )
        }  # fmt: skip
        found["a question"] = reverse("reckoner:question", args=["max-additive"])
        found["sheet"] = reverse("formulas:sheet", args=[first])
        found["sheet in my measures"] = f"{found['sheet']}?kitchen=own"
        found["edit"] = reverse("formulas:edit", args=[first])
        found["swap"] = reverse("formulas:swap", args=[first, 0])
        found["versions"] = f"{reverse('formulas:compare', args=[first])}?with=1"
        found["compare"] = f"{reverse('batches:compare', args=[first])}?{'&'.join(numbers)}"
        found["compare any"] = f"{reverse('batches:compare_any')}?{'&'.join(numbers)}"
        found["sheets of labels"] = reverse("batches:label_sheets")
        found["a stock"] = reverse(
            "shelf:item", args=["stock", Stock.objects.filter(workshop=self.workshop).first().pk]
        )
        found["settings"] = reverse("accounts:workshop")
        found["house"] = reverse("formulas:house", args=["who-one"])
        found["feed"] = reverse("batches:feed", args=[f"{self.workshop.pk}-0"])
        for state, stage in (
            (State.PLANNED, "prepare"), (State.MAKING, "make"), (State.MAKING, "pour"), (State.RESTING, "wait"),
            (State.RELEASED, "fill"), (State.FILLED, "label"), (State.FILLED, "record"), (State.RELEASED, "check"),
            (State.RELEASED, "rescue"), (State.FILLED, "ics"), (State.FILLED, "label_pdf"),
        ):  # fmt: skip
            found[stage] = reverse(f"batches:{stage}", args=[self.batches[state].pk])
        return found


def counted(client: Client, crowd: Crowd) -> dict[str, int]:
    """How often each page asks the database."""
    found = {}
    for name, address in crowd.pages().items():
        with CaptureQueriesContext(
            connection,
        ) as queries:
            answer = client.get(address)
        assert answer.status_code == 200, (name, answer.status_code)
        found[name] = len(queries)
    return found


@pytest.mark.long
def test_the_number_of_queries_does_not_grow_with_the_rows(client: Client, workshop, maker) -> None:
    from firkin.accounts.models import Membership, User, Workshop

    Workshop.objects.update(simulated_instruments=True)
    client.force_login(maker)
    few = counted(client, Crowd(workshop, maker, 10))
    other = User.objects.create_user("other", password="a long one for the test")
    crowded = Workshop.objects.create(name="Crowded quay", simulated_instruments=True)
    Membership.objects.create(user=other, workshop=crowded)
    client.force_login(other)
    many = counted(client, Crowd(crowded, other, 200))
    grown = {name: (count, many[name]) for name, count in few.items() if many[name] != count}
    assert not grown
    assert max(many.values()) <= 40, many
