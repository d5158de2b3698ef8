"""Addresses of taking things out and bringing them in."""

from django.urls import path

from firkin.exchange import views

app_name = "exchange"
urlpatterns = [
    path("", views.exchange, name="exchange"),
    path("progress/", views.progress, name="progress"),
    path("workshop.zip", views.whole, name="whole"),
    path("batches/<int:pk>.zip", views.batch, name="batch"),
    path("tables/<slug:name>.csv", views.table, name="table"),
]
