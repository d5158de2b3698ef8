"""Root addresses."""

from django.urls import include, path

from firkin.site import views
from firkin.site.example import example
from firkin.site.installing import manifest, worker

urlpatterns = [
    path("", views.bench, name="bench"),
    path("health/", views.health, name="health"),
    path("manifest.webmanifest", manifest, name="manifest"),
    path("worker.js", worker, name="worker"),
    path("copies/", views.copies, name="copies"),
    path("example/", example, name="example"),
    path("accounts/", include("firkin.accounts.urls")),
    path("exchange/", include("firkin.exchange.urls")),
    path("reckon/", include("firkin.reckoner.urls")),
    path("formulas/", include("firkin.formulas.urls")),
    path("batches/", include("firkin.batches.urls")),
    path("shelf/", include("firkin.shelf.urls")),
    path("use/", include("firkin.use.urls")),
    path("season/", include("firkin.season.urls")),
    path("search/", include("firkin.search.urls")),
    path("practice/", include("firkin.practice.urls")),
    path("guide/", include("firkin.guide.urls")),
]
handler404 = "firkin.site.views.not_found"
handler500 = "firkin.site.views.went_wrong"
handler403 = "firkin.site.views.refused"
handler400 = "firkin.site.views.bad_request"
