"""Addresses of the formula book."""

from django.urls import path

from firkin.formulas import files, sure, views

app_name = "formulas"
urlpatterns = [
    path("", views.book, name="book"),
    path("keep/", views.keep, name="keep"),
    path("check/", views.check, name="check"),
    path("new/", views.edit, name="new"),
    path("<int:pk>/put-away/", views.put_away, name="put_away"),
    path("<int:pk>/edit/", views.edit, name="edit"),
    path("<int:pk>/compare/", views.compare, name="compare"),
    path("<int:pk>/swap/<int:at>/", views.swap_line, name="swap"),
    path("house/<slug:key>/", views.house, name="house"),
    path("<int:pk>/", views.sheet, name="sheet"),
    path("<int:pk>/sure/", sure.sure, name="sure"),
    path("<int:pk>/rehearsal/", sure.rehearsed, name="rehearsed"),
    path("<int:pk>/strip.svg", files.strip, {"kind": "svg"}, name="strip"),
    path("<int:pk>/strip.pdf", files.strip, {"kind": "pdf"}, name="strip_pdf"),
    path("<int:pk>/formula.json", files.as_json, name="json"),
    path("<int:pk>/formula.md", files.as_markdown, name="markdown"),
    path("<int:pk>/in-the-reckoner/", views.in_reckoner, name="in_reckoner"),
]
