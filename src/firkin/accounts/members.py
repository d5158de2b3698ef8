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

from firkin.accounts.forms import AccountForm, InviteForm
from firkin.accounts.middleware import CHOSEN, MakerRequest
from firkin.accounts.models import ROLE_WORDS, Invitation, Membership, Role, User
from firkin.accounts.presses import once
from firkin.ui.fields import whole_number

_BACKEND = "django.contrib.auth.backends.ModelBackend"
#: For so long the page that follows an invitation shows its link again when it is loaded anew, in seconds.
_SHOWN_S = 10 * 60
_SALT = "invitation"


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
        return redirect(f"{request.path}?{urlencode({'made': signing.dumps(token, salt=_SALT)})}")
    if act == "withdraw":
        request.workshop.invitations.filter(pk=whole_number(request.POST.get("invitation", ""))).update(withdrawn=True)
        messages.success(request, "Withdrawn. The link leads nowhere from now on.")
        return redirect("accounts:members")
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
        "link": _link(request),
        "roles": [(role, role.label, ROLE_WORDS[role]) for role in Role],
        "keeper": keeper,
        "demo": settings.DEMO,
    }
    return render(request, "accounts/members.html", context)


def _link(request: MakerRequest) -> str:
    """The link of the invitation that was made a moment ago; empty where none was."""
    try:
        token = signing.loads(request.GET.get("made", ""), salt=_SALT, max_age=_SHOWN_S)
    except signing.BadSignature:
        return ""
    return request.build_absolute_uri(reverse("accounts:join", args=[token]))


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
    if act == "role":
        one.role = role
        one.save(update_fields=["role"])
        messages.success(request, f"{one.user} is a {one.get_role_display()} from now on.")
    else:
        one.delete()
        gone = "You have left it." if act == "leave" else f"{one.user} is out. What they wrote stays."
        messages.success(request, gone)
    return ""


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
        request.session[CHOSEN] = taken.workshop_id
        messages.success(request, f"Welcome to {taken.workshop.name}.")
        return redirect("bench")
    role = Role(invitation.role)
    words = {"role": role.label, "words": ROLE_WORDS[role], "back": request.get_full_path()}
    return render(request, "accounts/join.html", {"invitation": invitation, "form": form, "known": known, **words})
