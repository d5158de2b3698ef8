"""Address of the guide."""

from django.urls import path

from firkin.guide import views

app_name = "guide"
urlpatterns = [path("", views.guide, name="guide")]
