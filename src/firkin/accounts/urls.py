"""Addresses of signing in and out."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from firkin.accounts.forms import SignInForm
from firkin.accounts.views import workshop

app_name = "accounts"
urlpatterns = [
    path(
        "sign-in/",
        LoginView.as_view(template_name="accounts/sign_in.html", authentication_form=SignInForm),
        name="sign_in",
    ),
    path("workshop/", workshop, name="workshop"),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
]
