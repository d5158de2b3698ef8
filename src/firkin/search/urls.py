"""The address of the search."""

from django.urls import path

from firkin.search import views

app_name = "search"
urlpatterns = [path("", views.search, name="search")]
