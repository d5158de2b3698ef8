"""Users, workshops, and who belongs to which."""

import hashlib
import secrets
from datetime import timedelta

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone

from firkin.accounts.bounded import Bounded, Within
from firkin.core.kitchen import kitchens
from firkin.core.recipe import measures

#: How a workshop writes decimals.
MARKS = [("", "1.5 (1,500: asked)"), (".", "1.5 (1,500 is 1500)"), (",", "1,5")]


def household_choices() -> list[tuple[str, str]]:
    """Whose measures there are."""
    return list(measures().items())


def kitchen_choices() -> list[tuple[str, str]]:
    """What may be measured with: exactly, with the maker's own tools, or as a usual kitchen does."""
    usual = [(kitchen.id, kitchen.name) for kitchen in kitchens().values()]
    return [("", "exact amounts"), ("own", "my measures"), ("own-scale", "my scale"), *usual]


class User(AbstractUser):
    """An account."""


class Workshop(Bounded):
    """A bench and everything on it; seen only by its members."""

    name = models.CharField(max_length=80, unique=True)
    time_zone = models.CharField(max_length=60, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    #: Whose cups, spoons, ounces and gallons are meant where nothing says it.
    household = models.CharField(max_length=20, default="us", choices=household_choices)
    #: What the bench measures with unless another is chosen: a kitchen's id; empty for exact amounts.
    kitchen = models.CharField(max_length=20, blank=True, choices=kitchen_choices)
    decimal_mark = models.CharField(max_length=1, blank=True, choices=MARKS)
    #: How much a capful, a scoop and the like of this bench is, in mL or g, by the unit's id.
    own_sizes: "models.JSONField[dict[str, float], dict[str, float]]" = models.JSONField(default=dict, blank=True)
    #: Simulated instruments may be tried at the bench; what they show is marked, and counts for nothing.
    simulated_instruments = models.BooleanField(default=False)
    #: Where others on the network reach this Firkin, for the code on labels; empty for no code.
    address = models.URLField(max_length=200, blank=True)
    #: So many days after their last bottle ended, names of people who were given bottles are forgotten; None: never.
    forget_names_days = models.PositiveIntegerField(null=True, blank=True, validators=[Within(1, 36_500)])
    members = models.ManyToManyField(User, through="Membership", related_name="workshops")

    def __str__(self) -> str:
        return self.name


class Role(models.TextChoices):
    """What a member may do."""

    KEEPER = "keeper", "keeper"
    MAKER = "maker", "maker"
    ONLOOKER = "onlooker", "onlooker"


#: What each role means, in words.
ROLE_WORDS = {
    Role.KEEPER: "writes everything, and keeps the settings and the members",
    Role.MAKER: "writes formulas, batches and the shelf",
    Role.ONLOOKER: "sees everything and writes nothing",
}


class Membership(Bounded):
    """One person in one workshop, and what they may do there."""

    user = models.ForeignKey(User, on_delete=models.CASCADE)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE)
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.KEEPER)

    class Meta:
        constraints = (models.UniqueConstraint(fields=["user", "workshop"], name="one_membership_each"),)

    def __str__(self) -> str:
        return f"{self.user} in {self.workshop}"


class Example(Bounded):
    """An account's own copy of the demo, to look at and try, which goes when it is left; it is in no archive."""

    user = models.OneToOneField(User, on_delete=models.CASCADE)
    workshop = models.OneToOneField(Workshop, on_delete=models.CASCADE)

    def __str__(self) -> str:
        return f"the example of {self.user}"


class InvitationQuerySet(models.QuerySet["Invitation"]):
    """Invitations that still lead in, and finding one by its link."""

    def open(self) -> "InvitationQuerySet":
        """Neither used nor withdrawn, and not run out."""
        return self.filter(used_by=None, withdrawn=False, ends__gt=timezone.now())

    def of_token(self, token: str) -> "Invitation | None":
        """The open invitation whose link holds this token."""
        return self.open().select_related("workshop").filter(digest=_digest(token)).first()


class Invitation(Bounded):
    """A link into a workshop: for one person, until a day. The token itself stands in the link alone."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="invitations")
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.MAKER)
    digest = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    ends = models.DateTimeField()
    used_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    withdrawn = models.BooleanField(default=False)

    objects = InvitationQuerySet.as_manager()

    def __str__(self) -> str:
        return f"{self.role} into {self.workshop} until {self.ends:%Y-%m-%d}"

    @classmethod
    def make(cls, workshop: Workshop, role: str, days: int, made_by: User) -> str:
        """Make one; the token of its link, which is kept nowhere."""
        token = secrets.token_urlsafe(32)
        ends = timezone.now() + timedelta(days=days)
        cls.objects.create(workshop=workshop, role=role, digest=_digest(token), made_by=made_by, ends=ends)
        return token


def _digest(token: str) -> str:
    """What is stored of a token: enough to know it again, and not to make a link of."""
    return hashlib.sha256(token.encode()).hexdigest()


class Press(Bounded):
    """A button of a page that was pressed: the page's key, and where it led."""

    key = models.UUIDField(unique=True)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE)
    address = models.CharField(max_length=500, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"{self.key} led to {self.address or 'nowhere yet'}"


class PasswordReset(Bounded):
    """A link by which a member sets a new password, once, until an hour. The token itself stands in the link alone."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="resets")
    digest = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    ends = models.DateTimeField()
    used = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"a new password for {self.user} until {self.ends:%Y-%m-%d %H:%M}"

    @classmethod
    def make(cls, user: User, made_by: User) -> str:
        """Make one, and end those before it; the token of its link, which is kept nowhere."""
        token = secrets.token_urlsafe(32)
        cls.objects.filter(user=user, used=False).update(used=True)
        ends = timezone.now() + timedelta(hours=RESET_HOURS)
        cls.objects.create(user=user, digest=_digest(token), made_by=made_by, ends=ends)
        return token

    @classmethod
    def of_token(cls, token: str) -> "PasswordReset | None":
        """The one whose link holds this token, while it leads anywhere."""
        still = cls.objects.filter(used=False, ends__gt=timezone.now())
        return still.select_related("user").filter(digest=_digest(token)).first()


#: So long the link for a new password leads somewhere, in hours.
RESET_HOURS = 24


class AuditLine(Bounded):
    """What was done with accounts and the workshop's data: sign-ins, roles, invitations, files out and in.

    Without a workshop it concerns the account ``by`` alone.
    """

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, null=True, related_name="audit_lines")
    by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    text = models.CharField(max_length=300)
    address = models.CharField(max_length=45, blank=True)

    class Meta:
        ordering = ("-at", "-pk")
        indexes = (models.Index(fields=["workshop", "-at"], name="audit_of_a_workshop"),)

    def __str__(self) -> str:
        return self.text
