"""Addresses of batches."""

from django.urls import path

from firkin.batches import views

app_name = "batches"
urlpatterns = [
    path("", views.batch_list, name="list"),
    path("start/", views.start, name="start"),
    path("<int:pk>/", views.batch, name="batch"),
    path("<int:pk>/prepare/", views.prepare, name="prepare"),
    path("<int:pk>/make/", views.make, name="make"),
    path("<int:pk>/make/undo/", views.undo, name="undo"),
    path("<int:pk>/wait/", views.wait, name="wait"),
    path("<int:pk>/fill/", views.fill, name="fill"),
    path("<int:pk>/label/", views.label, name="label"),
    path("<int:pk>/label.svg", views.label_file, {"kind": "svg"}, name="label_svg"),
    path("<int:pk>/label.pdf", views.label_file, {"kind": "pdf"}, name="label_pdf"),
    path("<int:pk>/record/", views.record, name="record"),
]
