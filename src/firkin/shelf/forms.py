"""The forms of the shelf."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.accounts.models import Workshop
from firkin.core import catalogue
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, Strength, usual_tool
from firkin.core.questions import heap_of
from firkin.core.texts import uncapped
from firkin.shelf.models import Material, Movement, Stock, Tool, Vessel
from firkin.ui.fields import ErrorField, MakeField, Select, VolumeField, number_pad, number_widget, text_widget


class StockForm(forms.ModelForm):  # type: ignore[type-arg]
    """Put a bottle on the shelf."""

    material = forms.CharField(max_length=80, label="Material", widget=text_widget("isopropanol", list="materials"))
    strength_text = forms.CharField(
        max_length=60,
        required=False,
        label="Strength on the label",
        help_text="Such as 91 %, 190 proof or 90-91 %. Leave empty for what has none.",
        widget=text_widget("91 %", autocomplete="off"),
    )
    size = MakeField(label="Size", widget=text_widget("946 mL"))

    name = forms.CharField(
        max_length=120,
        required=False,
        label="What you call it",
        help_text="Empty: its material and strength.",
        widget=text_widget("Tall blue bottle"),
    )

    scoop = VolumeField(
        required=False,
        label="A powder: a level scoop of",
        help_text="Grades differ by half: weigh one scoop, and cups and parts of it become the right grams.",
        widget=text_widget("20 mL"),
    )
    scoop_weighs = MakeField(bare="g", required=False, label="weighs, g", widget=number_pad("17"))

    class Meta:
        model = Stock
        fields = ("name", "price", "bought_on", "opened_on", "best_before", "lot", "shop", "grade", "stands", "note")
        widgets = {  # noqa: RUF012
            "price": number_widget(min="0", step="0.01"),
            "bought_on": forms.DateInput(attrs={"class": "form-control", "type": "date"}),
            "opened_on": forms.DateInput(attrs={"class": "form-control", "type": "date"}),
            "best_before": forms.DateInput(attrs={"class": "form-control", "type": "date"}),
            **{name: text_widget() for name in ("lot", "shop", "grade", "stands", "note")},
        }

    field_order = (
        "material", "strength_text", "size", "name", "price", "bought_on", "opened_on", "best_before", "lot", "shop",
        "grade", "stands", "scoop", "scoop_weighs", "note",
    )  # fmt: skip

    def __init__(self, *args: Any, **options: Any) -> None:
        kept: Stock | None = options.get("instance")
        if kept is not None:
            there = {"material": find(kept.material).name, "size": str(kept.amount)}
            there["strength_text"] = str(kept.strength or "")
            if kept.bulk is not None:
                there |= {"scoop": "100 mL", "scoop_weighs": f"{100.0 * kept.bulk:.4g}"}
            options["initial"] = there | (options.get("initial") or {})
        super().__init__(*args, **options)
        self.fields["price"].help_text = "What it cost, for the price of a batch."

    def clean(self) -> dict[str, Any]:
        """Read the strength on the material's usual basis."""
        data = super().clean() or {}
        material = find(data["material"]) if data.get("material", "").strip() else None
        strength: Strength | None = None
        if material is not None and data.get("strength_text"):
            try:
                strength = material.read_strength(data["strength_text"])
            except CannotReckon as error:
                self.add_error("strength_text", str(error))
        elif material is not None and material.reports == "active":
            self.add_error("strength_text", f"Say how strong the {uncapped(material.name)} is, as on the label.")
        if material is not None:
            if (
                self.instance.pk
                and self.instance.movements.exclude(kind=Movement.Kind.BOUGHT).exists()
                and material.written != self.instance.material
            ):
                self.add_error(
                    "material", "Batches used it as it stands here. Put what it really is on the shelf as a new bottle."
                )
            self.instance.material = material.written
            if not data.get("name"):
                data["name"] = f"{material.name}, {strength}" if strength else material.name
        self.instance.strength = strength
        self._read_scoop(data, material)
        if isinstance(data.get("size"), Quantity):
            self.instance.amount = data["size"]
        return data

    def _read_scoop(self, data: dict[str, Any], material: catalogue.Material | None) -> None:
        """How dense it lies, by a scoop that was weighed."""
        scoop, weighs = data.get("scoop"), data.get("scoop_weighs")
        self.instance.bulk = None
        if material is None or (scoop is None and weighs is None) or {"scoop", "scoop_weighs"} & set(self.errors):
            return
        if scoop is None or weighs is None:
            self.add_error(
                "scoop" if scoop is None else "scoop_weighs", "Both are needed: how much it holds, and weighs."
            )
        elif weighs.kind != "mass":
            self.add_error("scoop_weighs", "Weigh it: a weight such as 17 g.")
        else:
            try:
                self.instance.bulk = heap_of(material, 1.0, weighs.g, scoop.mL).bulk
            except CannotReckon as error:
                self.add_error("scoop_weighs", str(error))


class MaterialForm(forms.ModelForm):  # type: ignore[type-arg]
    """Add a material of one's own: inert, with a density."""

    class Meta:
        model = Material
        fields = ("name", "solid", "density_g_per_mL")
        labels = {"solid": "It is a powder or another solid", "density_g_per_mL": "Density, g/mL"}  # noqa: RUF012
        widgets = {  # noqa: RUF012
            "name": text_widget("Marsh-mallow root water"),
            "density_g_per_mL": number_widget(step="0.001"),
        }

    def __init__(self, *args: Any, workshop: Workshop, **options: Any) -> None:
        super().__init__(*args, **options)
        self.instance.workshop = workshop

    def clean_name(self) -> str:
        """Not a name the catalogue knows, and not one of the workshop's own."""
        name: str = self.cleaned_data["name"]
        known = find(name)
        if known.known:
            raise ValidationError(f"Firkin knows this already, as {uncapped(known.name)}.")
        others = Material.objects.filter(workshop=self.instance.workshop).exclude(pk=self.instance.pk)
        if others.filter(name__iexact=name).exists():
            raise ValidationError("There is a material of your own by this name already.")
        return name

    def clean_density_g_per_mL(self) -> float:
        """Something a bench has seen."""
        value: float = self.cleaned_data["density_g_per_mL"]
        if not 0.3 <= value <= 5:
            raise ValidationError("A density is between 0.3 and 5 g/mL; water is 1.")
        return value


class ToolForm(forms.ModelForm):  # type: ignore[type-arg]
    """Add a measure: a cup, a syringe, a scale."""

    size = MakeField(
        label="Holds", help_text="A volume; or, for a scale, the most it weighs.", widget=text_widget("10 mL")
    )
    graduation = MakeField(
        required=False,
        label="Read off to",
        help_text="Empty for what is filled to the brim.",
        widget=text_widget("0.5 mL"),
    )
    error = ErrorField(
        required=False,
        label="Good to",
        help_text="Empty: what is usual for such a tool.",
        widget=text_widget("4 %"),
    )

    class Meta:
        model = Tool
        fields = ("name",)
        widgets = {"name": text_widget("Small syringe")}  # noqa: RUF012

    field_order = ("name", "size", "graduation", "error")

    def __init__(self, *args: Any, workshop: Workshop, **options: Any) -> None:
        kept: Tool | None = options.get("instance")
        if kept is not None and kept.pk:
            there = {"size": str(kept.amount), "error": f"{kept.error_pct:g} %"}
            there["graduation"] = f"{kept.step:g} {'g' if kept.weighs else 'mL'}" if kept.step else ""
            options["initial"] = there | (options.get("initial") or {})
        super().__init__(*args, **options)
        self.instance.workshop = workshop

    def clean_name(self) -> str:
        """One tool of a name."""
        name: str = self.cleaned_data["name"]
        others = Tool.objects.filter(workshop=self.instance.workshop).exclude(pk=self.instance.pk)
        if others.filter(name__iexact=name).exists():
            raise ValidationError("There is a tool by this name already.")
        return name

    def clean(self) -> dict[str, Any]:
        """A graduation of the kind its size is, and not above it."""
        data = super().clean() or {}
        size, step = data.get("size"), data.get("graduation")
        if isinstance(size, Quantity):
            self.instance.amount = size
            if step is not None and step.kind != size.kind:
                self.add_error("graduation", f"It holds {size.words}, so read it off in a unit like that.")
            elif step is not None:
                small = step.g if step.kind == "mass" else step.mL
                if small > (size.g if size.kind == "mass" else size.mL):
                    self.add_error("graduation", "It is read off in steps smaller than all it holds.")
                self.instance.step = small
            elif size.kind != "mass":
                self.instance.step = None
            else:
                self.add_error("graduation", "Say to how many grams the scale shows, such as 1 g.")
        if data.get("error") is not None:
            self.instance.error_pct = data["error"] * 100.0
        elif isinstance(size, Quantity) and "error" not in self.errors:
            self.instance.error_pct = usual_tool(data.get("name", ""), weighs=size.kind == "mass").error_pct
        return data


class CountForm(forms.Form):
    """How many of a vessel there are."""

    count = forms.IntegerField(min_value=0, max_value=10_000)


class VesselForm(forms.ModelForm):  # type: ignore[type-arg]
    """Put a jug or bottles on the shelf."""

    size = VolumeField(
        required=False,
        label="Volume to the brim",
        help_text="Or count cups of water: 4 x 250 mL.",
        widget=text_widget("500 mL"),
    )

    name = forms.CharField(
        max_length=80,
        required=False,
        label="What you call it",
        help_text="Empty: its volume.",
        widget=text_widget("Measuring jug"),
    )

    empty = MakeField(
        bare="g",
        required=False,
        label="Empty weight, g",
        help_text="Then a page can say what the scale will show.",
        widget=number_pad("250"),
    )
    water = MakeField(
        bare="g",
        required=False,
        label="Full of water it weighs, g",
        help_text="With the empty weight, its volume is worked out from that.",
        widget=number_pad("750"),
    )

    class Meta:
        model = Vessel
        fields = ("name", "kind", "made_of", "top", "count", "to_wash", "inner_diameter_mm")
        labels = {  # noqa: RUF012
            "inner_diameter_mm": "Inner diameter, mm",
            "count": "How many",
            "to_wash": "To be washed first",
            "kind": "Used",
            "top": "On top",
            "made_of": "Made of",
        }
        widgets = {  # noqa: RUF012
            "kind": Select(),
            "made_of": Select(),
            "top": Select(),
            "count": number_widget(min="1", max="10000"),
            "to_wash": number_widget(min="0", max="10000"),
            "inner_diameter_mm": number_widget(min="1", step="0.1"),
        }

    field_order = ("size", "kind", "made_of", "top", "count", "to_wash", "name", "empty", "water", "inner_diameter_mm")

    def __init__(self, *args: Any, **options: Any) -> None:
        kept: Vessel | None = options.get("instance")
        if kept is not None and kept.pk:
            there = {"size": f"{kept.volume_mL:.6g} mL", "empty": f"{kept.empty_g:.6g}" if kept.empty_g else ""}
            options["initial"] = there | (options.get("initial") or {})
        super().__init__(*args, **options)
        if kept is None or not kept.pk:
            del self.fields["to_wash"]  # what is put on the shelf is clean

    def clean_to_wash(self) -> int:
        """No more than there are of them."""
        unwashed: int = self.cleaned_data["to_wash"] or 0
        count = self.cleaned_data.get("count")
        if count is not None and unwashed > count:
            raise ValidationError(f"There are only {count} of them.")
        return unwashed

    def clean(self) -> dict[str, Any]:
        """Its volume as written, or by the water it holds; without a name it goes by what it is and holds."""
        data = super().clean() or {}
        self._by_water(data)
        if data.get("size") is None and not {"size", "water", "empty"} & set(self.errors):
            self.add_error("size", "How much does it hold? Such as 500 mL; or weigh it empty and full of water.")
        if not data.get("name") and isinstance(data.get("size"), Quantity):
            what = {"bottle": "Bottle", "mixing": "Vessel"}[data.get("kind") or "mixing"]
            data["name"] = f"{what}, {data['size'].words}"
        return data

    def _by_water(self, data: dict[str, Any]) -> None:
        """Its volume by the water it holds, at room temperature, where both weights are given."""
        water, empty = data.get("water"), data.get("empty")
        if water is None or "water" in self.errors:
            return
        if water.kind != "mass":
            self.add_error("water", "Weigh it full of water: a weight such as 750 g.")
        elif empty is None:
            self.add_error("empty", "Weigh it empty too: only then the water in it is known.")
        elif water.g <= empty.g:
            self.add_error("water", "That is no more than it weighs empty.")
        else:
            data["size"] = Quantity(round((water.g - empty.g) / find("water").density, 1), "mL")
            self.instance.volume_mL = data["size"].mL

    def clean_empty(self) -> Quantity | None:
        """A weight."""
        empty: Quantity | None = self.cleaned_data["empty"]
        if empty is not None and empty.kind != "mass":
            raise ValidationError("Weigh it empty: a weight such as 250 g.")
        self.instance.empty_g = empty.g if empty else None
        return empty

    def clean_size(self) -> Quantity | None:
        """Keep the volume in mL."""
        size: Quantity | None = self.cleaned_data["size"]
        if size is not None:
            self.instance.volume_mL = size.mL
        return size

    def clean_inner_diameter_mm(self) -> float | None:
        """More than nothing, and not a pond."""
        value: float | None = self.cleaned_data["inner_diameter_mm"]
        if value is not None and not 1 <= value <= 2000:
            raise ValidationError("An inner diameter is between 1 and 2000 mm.")
        return value
