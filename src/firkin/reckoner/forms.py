"""The form of a strength question: lines, size, rule lines, all readable from an address."""

from dataclasses import dataclass, field

from django import forms
from django.http import QueryDict

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning, reckon
from firkin.shelf.on_hand import Shelf
from firkin.ui.fields import BasisField, FamilyField, MakeField, RulesField, TemperatureField, text_widget
from firkin.ui.rows import LineForm, filled, rows_from, say_at_field

SPARE_ROWS = 1
LEAST_ROWS = 4
MOST_ROWS = 60


COLUMNS = ("material", "strength", "amount", "error")


class QuestionForm(forms.Form):
    """What concerns the whole batch."""

    make = MakeField(
        required=False,
        label="Make",
        help_text="The finished size, such as 1.5 L. Empty: the amounts as they stand.",
        widget=text_widget("as it stands"),
    )
    rule = RulesField()
    basis = BasisField(required=False)
    temperature = TemperatureField(required=False, label="Bench temperature", widget=text_widget("20 °C"))
    family = FamilyField(required=False, label="Kind")


EXAMPLE = QueryDict(
    "material=Isopropanol&strength=91+%25&amount=2+parts&material=Aloe+gel&strength=&amount=1+part"
    "&rule=cdc-alcohol-60&make=&basis=volume&temperature=&family=aloe-rub"
)


@dataclass
class StrengthQuestion:
    """A whole strength question as read from an address, and its answer."""

    data: QueryDict
    own: tuple[Material, ...] = ()
    shelf: Shelf = field(default_factory=Shelf)
    rows: list[LineForm] = field(default_factory=list)
    result: Reckoning | None = None
    trouble: str = ""

    def __post_init__(self) -> None:
        written = rows_from(self.data, COLUMNS, blanks=True)[:MOST_ROWS]
        self.filled = [row for row in written if filled(row)]
        wanted = max(LEAST_ROWS, len(self.filled) + SPARE_ROWS, len(written) + ("more" in self.data))
        blank = dict.fromkeys(COLUMNS, "")
        rows = written + [blank] * (min(wanted, MOST_ROWS) - len(written))
        self.rows = [LineForm(row, i, self.own, self.shelf) for i, row in enumerate(rows)]
        self.about = QuestionForm(self.data, label_suffix="")
        self.formula = self._formula()
        if self.formula is not None:
            try:
                self.result = reckon(self.formula)
            except CannotReckon as error:
                self.trouble = say_at_field(error, [form for form in self.rows if form.line is not None], self.about)

    def _formula(self) -> Formula | None:
        lines = []
        complete = self.about.is_valid()
        for form in self.rows:
            if not filled(form.data):
                form.errors.clear()
                continue
            if form.is_valid() and form.line is not None:
                lines.append(form.line)
            else:
                complete = False
        if not lines or not complete:
            return None
        data = self.about.cleaned_data
        return Formula(
            name="",
            lines=tuple(lines),
            family=data["family"] or "other",
            basis=data["basis"] or "volume",
            make=data["make"],
            temperature=20.0 if data["temperature"] is None else data["temperature"],
            guidelines=tuple(data["rule"]),
        )
