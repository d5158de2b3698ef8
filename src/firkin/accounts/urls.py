"""Addresses of signing in and out."""

from django.contrib.auth.views import LogoutView
from django.urls import path

from firkin.accounts.members import join, members
from firkin.accounts.views import SignIn, me, workshop

app_name = "accounts"
urlpatterns = [
    path("sign-in/", SignIn.as_view(), name="sign_in"),
    path("workshop/", workshop, name="workshop"),
    path("me/", me, name="me"),
    path("members/", members, name="members"),
    path("join/<slug:token>/", join, name="join"),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
]
