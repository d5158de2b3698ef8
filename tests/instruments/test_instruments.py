"""The simulated instruments behave as their kind does."""

import pytest

from firkin.batches.instruments import instruments_of
from firkin.batches.models import Batch
from firkin.core.questions import true_strength
from firkin.instruments.interfaces import Alcoholmeter, PhMeter, Scale, Weight
from firkin.instruments.ph_meter import SimulatedPhMeter
from firkin.instruments.sample import Sample
from firkin.instruments.scale import SimulatedScale
from firkin.instruments.stem import SimulatedAlcoholmeter


def test_a_scale_follows_a_stream_settles_and_shows_whole_grams() -> None:
    scale: Scale = SimulatedScale(seed=7)
    scale.put(412.0, 0.0)
    scale.read(3.0)
    scale.tare(3.0)
    assert abs(scale.read(4.0).grams) <= 1
    scale.hold(25.0, 4.0)
    pouring = [scale.read(4.0 + t / 4) for t in range(1, 17)]
    assert not any(weight.settled for weight in pouring)
    assert pouring[-1].grams > pouring[4].grams > 0
    scale.release(8.0)
    rest = scale.read(12.0)
    assert rest.settled
    assert rest.grams == pytest.approx(100.0, abs=5)  # 25 g/s for 4 s, less the start, plus what was in the air
    assert rest.grams == int(rest.grams)


def test_a_jug_that_stands_there_is_tared_away_at_once() -> None:
    scale = SimulatedScale(seed=5, standing_g=385.0)
    assert scale.read(0.0).grams == pytest.approx(385, abs=1)
    scale.tare(0.1)
    assert abs(scale.read(0.2).grams) <= 1


def test_a_scale_says_when_it_is_overloaded() -> None:
    scale = SimulatedScale(capacity_g=2000.0, seed=1)
    scale.put(2500.0, 0.0)
    assert scale.read(2.0).overload


def test_a_hand_that_vanishes_stops_pouring() -> None:
    scale = SimulatedScale(seed=1)
    scale.hold(50.0, 0.0)
    scale.read(1.0)
    later = scale.read(500.0)
    assert later.settled
    assert later.grams < 60


def test_a_ph_meter_drifts_until_it_is_set_in_a_buffer() -> None:
    beaker = Sample(ph=8.0)
    meter: PhMeter = SimulatedPhMeter(beaker, seed=2, offset=0.25)
    day = 86400.0
    assert meter.read(0.0) - 8.0 > 0.15
    beaker.ph = 7.0
    meter.calibrate(7.0, 0.0)
    assert meter.read(60.0) == pytest.approx(7.0, abs=0.04)
    assert meter.read(5 * day) - 7.0 == pytest.approx(0.2, abs=0.05)
    beaker.ph = -3.0
    assert 0 <= meter.read(0.0) <= 14


@pytest.mark.parametrize(("true", "celsius"), [(80.0, 27.0), (60.0, 12.0), (75.8, 27.0)])
def test_an_alcoholmeter_reads_what_the_tables_say_it_should(true: float, celsius: float) -> None:
    """OIML R 22: corrected back, the reading gives the strength within its half mark."""
    stem: Alcoholmeter = SimulatedAlcoholmeter(Sample(strength_pct=true, celsius=celsius), seed=4)
    reading, warm = stem.read()
    assert true_strength(reading, warm)[0] == pytest.approx(true, abs=0.6)
    assert reading * 2 == int(reading * 2)


class WiredMeter:
    """A meter as a driver of a real one would be written: it knows no truth, only what it reads off the wire."""

    def __init__(self, wire: list[float]) -> None:
        self.wire = wire
        self.set_at: float | None = None

    def read(self, now: float) -> float:
        return self.wire.pop(0)

    def calibrate(self, buffer_ph: float, now: float) -> None:
        self.set_at = now

    def days_since_set(self, now: float) -> float | None:
        return None


class WiredScale:
    """A scale as a driver of a real one would be written: nothing is poured onto it but by hand."""

    resolution_g, capacity_g = 1.0, 3000.0

    def __init__(self, standing_g: float) -> None:
        self.on_it, self.tared = standing_g, 0.0

    def read(self, now: float) -> Weight:
        return Weight(self.on_it - self.tared, settled=True)

    def tare(self, now: float) -> None:
        self.tared = self.on_it


def test_a_real_scale_can_stand_on_the_bench(bench, maker, landing_rub, monkeypatch) -> None:
    scale = WiredScale(412.0)
    monkeypatch.setattr(instruments_of(maker.pk), "scale", scale)
    batch = Batch.objects.start(landing_rub.current, landing_rub.current.as_core(), maker)
    bench.post(f"/batches/{batch.pk}/prepare/", {"act": "begin"})
    page = bench.post(f"/batches/{batch.pk}/pour/", follow=True).content.decode()
    assert "Take 0 g" in page
    assert "Hold to" not in page
    assert "simulated" not in page
    scale.on_it += 37.0
    assert "37 g" in bench.post(f"/batches/{batch.pk}/pour/scale/", {"act": "hold"}).content.decode()


def test_a_real_meter_can_stand_on_the_bench(bench, maker, landing_rub, monkeypatch) -> None:
    monkeypatch.setattr(instruments_of(maker.pk), "ph_meter", WiredMeter([6.83]))
    batch = Batch.objects.start(landing_rub.current, landing_rub.current.as_core(), maker)
    page = bench.get(f"/batches/{batch.pk}/check/?take=ph").content.decode()
    assert 'value="6.83"' in page
