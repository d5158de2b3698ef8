"""Addresses of batches."""

from django.urls import path

from firkin.batches.views import (
    bottling,
    calendar,
    comparison,
    labelling,
    making,
    pouring,
    preparing,
    readings,
    rescues,
    stages,
)

app_name = "batches"
urlpatterns = [
    path("", stages.batch_list, name="list"),
    path("start/", stages.start, name="start"),
    path("calendar/", calendar.calendar, name="calendar"),
    path("calendar/feeds/", calendar.feeds, name="feeds"),
    path("calendar/feed/<slug:token>.ics", calendar.feed, name="feed"),
    path("due/<int:pk>/", calendar.settle, name="settle"),
    path("compare/", comparison.compare_any, name="compare_any"),
    path("compare/<int:pk>/", comparison.compare, name="compare"),
    path("instruments/", pouring.instruments, name="instruments"),
    path("<int:pk>/", stages.batch, name="batch"),
    path("<int:pk>/prepare/", preparing.prepare, name="prepare"),
    path("<int:pk>/make/", making.make, name="make"),
    path("<int:pk>/make/besides/", making.besides, name="besides"),
    path("<int:pk>/make/empty/", making.weigh_empty, name="weigh_empty"),
    path("<int:pk>/make/undo/", making.undo, name="undo"),
    path("<int:pk>/pour/", pouring.pour, name="pour"),
    path("<int:pk>/pour/scale/", pouring.scale, name="scale"),
    path("<int:pk>/check/", readings.check, name="check"),
    path("<int:pk>/photos/<int:photo_pk>/", readings.photo, name="photo"),
    path("<int:pk>/rescue/", rescues.rescue, name="rescue"),
    path("<int:pk>/wait/", stages.wait, name="wait"),
    path("<int:pk>/fill/", bottling.fill, name="fill"),
    path("<int:pk>/fill/<int:filling_pk>/back/", bottling.unfill, name="unfill"),
    path("<int:pk>/starter/", bottling.keep_starter, name="keep_starter"),
    path("labels/", labelling.sheets, name="label_sheets"),
    path("<int:pk>/label/", labelling.label, name="label"),
    path("<int:pk>/label.svg", labelling.label_file, {"kind": "svg"}, name="label_svg"),
    path("<int:pk>/label.pdf", labelling.label_file, {"kind": "pdf"}, name="label_pdf"),
    path("<int:pk>/calendar.ics", calendar.batch_ics, name="ics"),
    path("<int:pk>/record/", stages.record, name="record"),
    path("<int:pk>/record.pdf", stages.record_file, name="record_pdf"),
    path("<int:pk>/end/", stages.end, name="end"),
    path("<int:pk>/undo/<int:number>/", stages.undo_last, name="undo_last"),
]
