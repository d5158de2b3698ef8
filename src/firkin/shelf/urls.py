"""Addresses of the shelf."""

from django.urls import path

from firkin.shelf import views

app_name = "shelf"
urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("vessels/<int:pk>/count/", views.recount, name="recount"),
    path("stocks/<int:pk>/used-up/", views.use_up, name="use_up"),
]
