"""Addresses of the season."""

from django.urls import path

from firkin.season.views import needs, plan, shopping

app_name = "season"
urlpatterns = [
    path("", plan.season, name="season"),
    path("make/", plan.make, name="make"),
    path("stop/", plan.stop, name="stop"),
    path("plans/<int:pk>/progress/", plan.progress, name="progress"),
    path("plans/<int:pk>/undo/", plan.undo, name="undo"),
    path("plans/<int:pk>/<int:place>/move/", plan.move, name="move"),
    path("plans/<int:pk>/<int:place>/pin/", plan.pin, name="pin"),
    path("plans/<int:pk>/<int:place>/start/", plan.start, name="start"),
    path("plans/<int:pk>/<int:place>/bought/", shopping.bag, name="bag"),
    path("needs/", needs.needs, name="needs"),
    path("evenings/", needs.habits, name="habits"),
    path("products/add/", needs.product_add, name="product_add"),
    path("products/<int:pk>/", needs.product, name="product"),
    path("products/<int:pk>/remove/", needs.product_remove, name="product_remove"),
    path("products/<int:pk>/needs/<int:need_pk>/remove/", needs.need_remove, name="need_remove"),
    path("shopping/", shopping.shopping, name="shopping"),
]
