"""What a maker has practised: a card for each skill, repeated by FSRS. It belongs to the person, not to a workshop."""

from typing import Any, Self

from django.db import models
from django.utils import timezone

from firkin.accounts.bounded import Bounded
from firkin.accounts.models import User
from firkin.core.practice import SKILLS, Problem, draw, due_at, reviewed


class CardQuerySet(models.QuerySet["Card"]):
    """Named selections of cards."""

    def of(self, user: User) -> Self:
        """Those of one person."""
        return self.filter(user=user)

    def next_skill(self, user: User) -> str:
        """What to practise now: what is due, the longest due first; else what is new; else what is due soonest."""
        cards = {card.skill: card for card in self.of(user) if card.skill in SKILLS}
        now = timezone.now()
        due = sorted((card.due, skill) for skill, card in cards.items())
        if due and due[0][0] <= now:
            return due[0][1]
        new = next((skill for skill in SKILLS if skill not in cards), "")
        return new or due[0][1]


class Card(Bounded):
    """One skill of one person: what FSRS keeps of it, how often it was right and wrong, which problem is open."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="cards")
    skill = models.CharField(max_length=20)
    state: "models.JSONField[dict[str, Any], dict[str, Any]]" = models.JSONField(default=dict, blank=True)
    due = models.DateTimeField(default=timezone.now)
    right = models.PositiveIntegerField(default=0)
    wrong = models.PositiveIntegerField(default=0)
    seed = models.PositiveIntegerField(default=0)

    objects = CardQuerySet.as_manager()

    class Meta:
        ordering = ("due",)
        constraints = (models.UniqueConstraint(fields=["user", "skill"], name="one_card_of_a_skill"),)

    def __str__(self) -> str:
        return f"{self.skill} of {self.user}"

    @property
    def name(self) -> str:
        """The skill's name."""
        return SKILLS.get(self.skill, self.skill)

    @property
    def problem(self) -> Problem:
        """The problem that is open."""
        return draw(self.skill, self.seed)

    @property
    def tries(self) -> int:
        """How often it was answered."""
        return self.right + self.wrong

    def answered(self, *, right: bool) -> None:
        """Keep how it was answered: it is due again when FSRS says, with another problem."""
        now = timezone.now()
        self.state = reviewed(self.state or None, right=right, at=now)
        self.due = due_at(self.state)
        self.right += right
        self.wrong += not right
        self.seed += 1
        self.save()
