"""What goes wrong around the site is said as what it is: faults of the machine, requests too large, pages out of date."""

import io
from pathlib import Path

import pytest
from django.contrib.auth.models import AnonymousUser
from django.core.exceptions import ValidationError
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import DatabaseError, OperationalError
from django.test import Client, RequestFactory
from django.urls import reverse
from PIL import Image

from conftest import PASSWORD
from firkin.formulas.models import Formula
from firkin.site import views
from firkin.ui.photos import small_photo
from steps import said


@pytest.mark.parametrize(
    ("fault", "says"),
    [
        (OperationalError("database or disk is full"), "The disk is full"),
        (OSError(28, "No space left on device"), "The disk is full"),
        (OperationalError("database is locked"), "The database is busy"),
        (OperationalError("attempt to write a readonly database"), "Nothing can be stored"),
        (OperationalError("unable to open database file"), "Nothing can be stored"),
        (DatabaseError("database disk image is malformed"), "The database is damaged"),
        (DatabaseError("file is not a database"), "The database is damaged"),
        (ValueError("anything else"), "Something broke"),
    ],
)
def test_a_fault_of_the_machine_is_said_with_what_helps(fault: Exception, says: str) -> None:
    request = RequestFactory().get("/")
    request.user = AnonymousUser()
    try:
        raise fault
    except Exception:
        answer = views.went_wrong(request)
    assert says in answer.content.decode()
    assert answer.status_code == (500 if says == "Something broke" else 503)


def test_a_full_disk_while_a_press_is_stored_is_said_and_nothing_is_half_stored(
    bench: Client, landing_rub: Formula, monkeypatch
) -> None:
    """SQLite refuses to grow beyond max_page_count as it refuses on a full disk."""
    from django.db import connection

    with connection.cursor() as cursor:
        cursor.execute("PRAGMA page_count")
        pages = cursor.fetchone()[0]
        cursor.execute(f"PRAGMA max_page_count = {pages}")
    bench.raise_request_exception = False
    before = Formula.objects.count()
    try:
        answer = None
        for number in range(400):
            answer = bench.post(
                reverse("formulas:new"),
                {"name": f"Mooring soap {number} " + "x" * 150, "family": "foaming-soap", "basis": "volume", "act": "save",
                 "material": "castile soap", "strength": "", "amount": "1 L", "error": "", "phase": "", "note": "y" * 1900},
            )  # fmt: skip
            if answer.status_code == 503:
                break
        assert answer.status_code == 503
        assert "The disk is full" in said(answer)
    finally:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA max_page_count = 1073741823")
    kept = Formula.objects.count()
    assert kept == before + number
    assert all(formula.versions.exists() for formula in Formula.objects.all())


def test_head_has_the_headers_and_no_body(bench: Client, client: Client, db) -> None:
    for path in ("/", "/formulas/", "/no/such/page/"):
        answer = bench.head(path)
        assert answer.content == b""
        assert answer.status_code == bench.get(path).status_code


def test_a_request_too_large_and_a_page_out_of_date_have_pages_of_ours(maker, workshop) -> None:
    strict = Client(enforce_csrf_checks=True)
    answer = strict.post(reverse("accounts:sign_in"), {"username": "maker", "password": PASSWORD})
    assert (answer.status_code, "out of date" in said(answer)) == (403, True)
    strict.force_login(maker)
    answer = strict.post("/batches/1/check/", b"x", content_type="text/plain", headers={"Content-Length": "17000000"})
    assert (answer.status_code, "too much at once" in said(answer)) == (413, True)


def picture(form: str, size: tuple[int, int] = (40, 30)) -> bytes:
    if form == "HEIC":  # a red one of 40 by 30, written once: what Firkin has only reads them
        return (Path(__file__).parents[1] / "checks" / "telephone.heic").read_bytes()
    out = io.BytesIO()
    Image.new("RGB", size, "red").save(out, form)
    return out.getvalue()


@pytest.mark.parametrize("form", ["JPEG", "PNG", "WEBP", "HEIC"])
@pytest.mark.parametrize("cut", [None, 10, 60])
def test_pictures_are_kept_and_damaged_ones_refused(form: str, cut: int | None) -> None:
    upload = SimpleUploadedFile("photo", picture(form)[:cut])
    if cut is None:
        kept = Image.open(io.BytesIO(small_photo(upload)))
        red, green, blue = kept.convert("RGB").getpixel((20, 15))
        assert (kept.format, kept.size, red > 200, green < 60, blue < 60) == ("JPEG", (40, 30), True, True, True)
        return
    with pytest.raises(ValidationError, match="no picture"):
        small_photo(upload)


@pytest.mark.parametrize("form", ["AVIF", "DDS", "TIFF", "GIF", "ICO"])
def test_other_kinds_of_pictures_are_not_even_opened(form: str) -> None:
    try:
        content = picture(form)
    except (KeyError, OSError):
        pytest.skip(f"this machine writes no {form}")
    with pytest.raises(ValidationError, match="no picture"):
        small_photo(SimpleUploadedFile("photo", content))


def test_a_picture_that_would_fill_the_memory_is_refused_before_it_is_read() -> None:
    big = io.BytesIO()
    Image.new("1", (7000, 7000)).save(big, "PNG")
    with pytest.raises(ValidationError, match="more than 25 million"):
        small_photo(SimpleUploadedFile("photo", big.getvalue()))


def test_retries_do_not_prolong_a_lock_and_nobody_locks_out_another_address(
    client: Client, maker, workshop, settings
) -> None:
    settings.AXES_ENABLED = True

    def sign_in(address: str, password: str):
        data = {"username": "maker", "password": password}
        return client.post(reverse("accounts:sign_in"), data, REMOTE_ADDR=address)

    for _ in range(settings.AXES_FAILURE_LIMIT + 2):
        sign_in("203.0.113.7", "wrong")
    assert sign_in("203.0.113.7", PASSWORD).status_code == 429
    assert sign_in("198.51.100.9", PASSWORD).status_code == 302
    assert settings.AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT is False


def test_the_health_address_tells_a_stranger_that_it_answers_and_no_more(client: Client, db) -> None:
    answer = client.get("/health/")
    assert (answer.status_code, answer.content) == (200, b"ok\n")
    assert "camera=()" in answer.headers["Permissions-Policy"]
