"""Addresses of the guide."""

from django.urls import path

from firkin.guide import views

app_name = "guide"
urlpatterns = [
    path("", views.guide, name="guide"),
    path("start/", views.start, name="start"),
    path("families/<slug:key>/", views.family, name="family"),
    path("rules/", views.rules, name="rules"),
    path("together/", views.together, name="together"),
    path("materials/", views.materials, name="materials"),
    path("materials/<slug:key>/", views.material, name="material"),
    path("troubles/", views.troubles, name="troubles"),
    path("hands/", views.hands, name="hands"),
    path("cautions/", views.cautions, name="cautions"),
    path("words/", views.words, name="words"),
    path("keys/", views.keys, name="keys"),
]
