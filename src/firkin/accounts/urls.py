"""Addresses of signing in and out."""

from django.urls import path

from firkin.accounts.first import first
from firkin.accounts.members import audit, join, members, new_password
from firkin.accounts.passkeys import BeginRegistration, BeginSignIn, CompleteRegistration, CompleteSignIn
from firkin.accounts.second_step import second_step, set_up
from firkin.accounts.views import SignIn, SignOut, me, workshop

app_name = "accounts"
urlpatterns = [
    path("sign-in/", SignIn.as_view(), name="sign_in"),
    path("workshop/", workshop, name="workshop"),
    path("me/", me, name="me"),
    path("members/", members, name="members"),
    path("join/<slug:token>/", join, name="join"),
    path("first/<str:token>/", first, name="first"),
    path("members/audit/", audit, name="audit"),
    path("reset/<slug:token>/", new_password, name="new_password"),
    path("second-step/", second_step, name="second_step"),
    path("second-step/set-up/", set_up, name="set_up"),
    path("passkey/begin/", BeginSignIn.as_view(), name="passkey_begin"),
    path("passkey/complete/", CompleteSignIn.as_view(), name="passkey_complete"),
    path("passkey/new/begin/", BeginRegistration.as_view(), name="new_passkey_begin"),
    path("passkey/new/complete/", CompleteRegistration.as_view(), name="new_passkey_complete"),
    path("sign-out/", SignOut.as_view(), name="sign_out"),
]
