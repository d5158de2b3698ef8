"""Addresses of the reckoner."""

from django.urls import path
from django.views.generic import RedirectView

from firkin.reckoner import views

app_name = "reckoner"
urlpatterns = [
    path("", RedirectView.as_view(pattern_name="reckoner:strength"), name="index"),
    path("strength/", views.strength, name="strength"),
    path("<slug:ask>/", views.question, name="question"),
]
