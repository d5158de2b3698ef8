"""Addresses of the reckoner."""

from django.urls import path

from firkin.reckoner import views

app_name = "reckoner"
urlpatterns = [
    path("", views.index, name="index"),
    path("strength/", views.strength, name="strength"),
    path("<slug:ask>/", views.question, name="question"),
]
