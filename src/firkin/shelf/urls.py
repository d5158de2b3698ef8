"""Addresses of the shelf."""

from django.urls import path

from firkin.shelf import views

app_name = "shelf"
urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("buy/", views.buy, name="buy"),
    path("stocks/<int:pk>/seen/", views.seen, name="seen"),
    path("stocks/<int:pk>/opened/", views.opened, name="opened"),
    path("<slug:key>/add/", views.add, name="add"),
    path("<slug:key>/<int:pk>/", views.item, name="item"),
    path("<slug:key>/<int:pk>/remove/", views.remove, name="remove"),
    path("vessels/<int:pk>/count/", views.recount, name="recount"),
    path("vessels/<int:pk>/washed/", views.washed, name="washed"),
    path("stocks/<int:pk>/label/", views.label_photo, name="label_photo"),
    path("stocks/<int:pk>/label/<int:photo_pk>/", views.label_picture, name="label_picture"),
    path("stocks/<int:pk>/weigh/", views.weigh, name="weigh"),
    path("stocks/<int:pk>/move/", views.move, name="move"),
    path("stocks/<int:pk>/used-up/", views.use_up, name="use_up"),
    path("stocks/<int:pk>/not-used-up/", views.not_used_up, name="not_used_up"),
]
