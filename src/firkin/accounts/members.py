"""Who is in a workshop, and coming into one by an invitation."""

from urllib.parse import urlencode

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.core import signing
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from firkin.accounts import sessions
from firkin.accounts.audit_list import noted, of_workshop, written
from firkin.accounts.forms import AccountForm, InviteForm, NewPasswordForm
from firkin.accounts.middleware import CHOSEN, MakerRequest
from firkin.accounts.models import RESET_HOURS, ROLE_WORDS, Invitation, Membership, PasswordReset, Role, User
from firkin.accounts.presses import once
from firkin.ui.fields import whole_number

_BACKEND = "django.contrib.auth.backends.ModelBackend"
#: For so long the page that follows an invitation shows its link again when it is loaded anew, in seconds.
_SHOWN_S = 10 * 60
_SALT, _RESET_SALT = "invitation", "new password"
#: So many lines of what was done are shown.
_MOST_LINES = 300


@once
def members(request: MakerRequest) -> HttpResponse:
    """The members; for a keeper also changing what they may do, and inviting."""
    act = request.POST.get("act", "")
    keeper = request.role == Role.KEEPER
    if act and not keeper and act != "leave":
        words = {"title": "For a keeper of the workshop", "advice": "Keepers change the members. Ask one of them."}
        return render(request, "site/sorry.html", words, status=403)
    form = InviteForm(request.POST if act == "invite" else None)
    if form.is_bound and form.is_valid():
        token = Invitation.make(request.workshop, form.cleaned_data["role"], form.cleaned_data["days"], request.user)
        noted(request, f"Made an invitation for {_a(form.cleaned_data['role'])}.", request.workshop)
        return redirect(f"{request.path}?{urlencode({'made': signing.dumps(token, salt=_SALT)})}")
    if act == "withdraw":
        request.workshop.invitations.filter(pk=whole_number(request.POST.get("invitation", ""))).update(withdrawn=True)
        noted(request, "Withdrew an invitation.", request.workshop)
        messages.success(request, "Withdrawn. The link no longer works.")
        return redirect("accounts:members")
    if act == "reset":
        return _reset(request)
    if act in ("role", "remove", "leave"):
        said = _change(request, act)
        if said:
            messages.error(request, said)
        return redirect("bench" if act == "leave" and not said else "accounts:members")
    context = {
        "members": Membership.objects.filter(workshop=request.workshop)
        .select_related("user")
        .order_by("user__username"),
        "invitations": request.workshop.invitations.open().order_by("ends"),
        "form": form,
        "link": _link(request, "made", _SALT, "accounts:join"),
        "reset_link": _link(request, "reset", _RESET_SALT, "accounts:new_password"),
        "reset_hours": RESET_HOURS,
        "roles": [(role, role.label, ROLE_WORDS[role]) for role in Role],
        "keeper": keeper,
        "demo": settings.DEMO,
    }
    return render(request, "accounts/members.html", context)


def _link(request: MakerRequest, name: str, salt: str, leads_to: str) -> str:
    """The link that was made a moment ago, for an invitation or a new password; empty where none was."""
    try:
        token = signing.loads(request.GET.get(name, ""), salt=salt, max_age=_SHOWN_S)
    except signing.BadSignature:
        return ""
    return request.build_absolute_uri(reverse(leads_to, args=[token]))


def _reset(request: MakerRequest) -> HttpResponse:
    """Make a link by which a member sets a new password.

    Not for one who is in a workshop that this keeper does not keep: the link would let the keeper in there.
    """
    member = Membership.objects.filter(
        workshop=request.workshop, pk=whole_number(request.POST.get("member", ""))
    ).first()
    if member is None:
        messages.error(request, "That member is gone already.")
        return redirect("accounts:members")
    kept = Membership.objects.filter(user=request.user, role=Role.KEEPER).values("workshop")
    if settings.DEMO or Membership.objects.filter(user=member.user).exclude(workshop__in=kept).exists():
        why = "The demo has no passwords." if settings.DEMO else f"{member.user} is in a workshop you do not keep."
        messages.error(request, f"{why} Use ./firkin manage changepassword on the machine.")
        return redirect("accounts:members")
    token = PasswordReset.make(member.user, request.user)
    noted(request, f"Made a link for a new password of {member.user}.", request.workshop)
    return redirect(f"{request.path}?{urlencode({'reset': signing.dumps(token, salt=_RESET_SALT)})}")


@login_not_required
def new_password(request: HttpRequest, token: str) -> HttpResponse:
    """Set a new password by a link that a keeper made; it works once."""
    reset = PasswordReset.of_token(token)
    if reset is None:
        return _over(request)
    form = NewPasswordForm(reset.user, request.POST if request.method == "POST" else None)
    if form.is_bound and form.is_valid():
        with transaction.atomic():
            taken = PasswordReset.of_token(token)  # read again where one write comes after another
            if taken is None:
                return _over(request)
            taken.used = True
            taken.save(update_fields=["used"])
            form.save()
            sessions.end(reset.user.pk)
            written(
                "Set a new password by a keeper’s link.", reset.user, None, str(request.META.get("REMOTE_ADDR") or "")
            )
        messages.success(request, "The password is set. Sign in with it.")
        return redirect("accounts:sign_in")
    return render(request, "accounts/new_password.html", {"form": form, "account": reset.user})


def audit(request: MakerRequest) -> HttpResponse:
    """What was done with accounts and data, for keepers."""
    if request.role != Role.KEEPER:
        words = {"title": "For a keeper of the workshop", "advice": "Keepers see who did what. Ask one of them."}
        return render(request, "site/sorry.html", words, status=403)
    return render(request, "accounts/audit_list.html", {"lines": of_workshop(request.workshop)[:_MOST_LINES]})


@transaction.atomic
def _change(request: MakerRequest, act: str) -> str:
    """Give a member another role, or take them out; why not, or nothing. One keeper always stays."""
    there = Membership.objects.filter(workshop=request.workshop)
    named = whole_number(request.POST.get("member", ""))
    one = (there.filter(user=request.user) if act == "leave" else there.filter(pk=named)).first()
    if one is None:
        return "That member is gone already."
    role = request.POST.get("role", "")
    if act == "role" and role not in Role.values:
        return "Choose what they may do."
    stays = act == "role" and role == Role.KEEPER
    if one.role == Role.KEEPER and not stays and there.filter(role=Role.KEEPER).count() == 1:
        return "A workshop needs a keeper: make somebody else one first."
    if act == "role" and one.role == role:
        messages.success(request, f"{one.user} is {_a(role)} already.")
    elif act == "role":
        one.role = role
        one.save(update_fields=["role"])
        noted(request, f"Made {one.user} {_a(role)}.", request.workshop)
        messages.success(request, f"{one.user} is {_a(role)} from now on.")
    else:
        one.delete()
        noted(request, "Left." if act == "leave" else f"Took {one.user} out.", request.workshop)
        gone = "You have left it." if act == "leave" else f"{one.user} is out. What they wrote stays."
        messages.success(request, gone)
    return ""


def _a(role: str) -> str:
    """A role with its article: "an onlooker"."""
    label = Role(role).label
    return f"{'an' if label[0] in 'aeiou' else 'a'} {label}"


def _over(request: HttpRequest) -> HttpResponse:
    """An invitation that leads nowhere, and no word of whether it ever did."""
    advice = "It was used, withdrawn or has run out. Ask whoever sent it for a new one."
    return render(request, "site/sorry.html", {"title": "This invitation leads nowhere", "advice": advice}, status=404)


@login_not_required
def join(request: HttpRequest, token: str) -> HttpResponse:
    """Come in by an invitation: with an account of one's own, or a new one made here."""
    invitation = Invitation.objects.of_token(token)
    if invitation is None:
        return _over(request)
    known = request.user.is_authenticated
    if known and Membership.objects.filter(user=request.user.pk, workshop=invitation.workshop).exists():
        advice = f"You are a member of {invitation.workshop} already. The link is still open, for somebody else."
        return render(request, "site/sorry.html", {"title": "You are in", "advice": advice})
    form = AccountForm(request.POST if request.method == "POST" and not known else None)
    if request.method == "POST" and (known or form.is_valid()):
        with transaction.atomic():
            taken = Invitation.objects.of_token(token)  # read again where one write comes after another
            if taken is None:
                return _over(request)
            user = request.user if isinstance(request.user, User) else form.save()
            Membership.objects.get_or_create(user=user, workshop=taken.workshop, defaults={"role": taken.role})
            taken.used_by = user
            taken.save(update_fields=["used_by"])
        if not known:
            login(request, user, backend=_BACKEND)
        noted(request, f"{user} came in as {_a(taken.role)}.", taken.workshop)
        request.session[CHOSEN] = taken.workshop_id
        messages.success(request, f"Welcome to {taken.workshop.name}.")
        return redirect("bench")
    role = Role(invitation.role)
    words = {"role": role.label, "words": ROLE_WORDS[role], "back": request.get_full_path()}
    return render(request, "accounts/join.html", {"invitation": invitation, "form": form, "known": known, **words})
