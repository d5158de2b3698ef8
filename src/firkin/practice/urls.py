"""Addresses of practice."""

from django.urls import path

from firkin.practice import views

app_name = "practice"
urlpatterns = [
    path("", views.practice, name="practice"),
    path("sheet/", views.sheet, name="sheet"),
    path("<slug:skill>/<int:seed>/", views.answer, name="answer"),
]
