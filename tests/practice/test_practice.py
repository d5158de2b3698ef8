"""The pages of practice: a problem answered once, kept for the person, due again; a sheet with its answers."""

from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from firkin.accounts.models import Membership, User
from firkin.core.practice import SKILLS, draw
from firkin.practice.models import Card

pytestmark = pytest.mark.django_db


def words(response):
    return " ".join(response.content.decode().split())


def given(problem, *, right):
    if problem.choices:
        wrong = [at for at in range(len(problem.choices)) if at != int(problem.answer)]
        return str(int(problem.answer) if right else wrong[0])
    return f"{problem.answer if right else 7.0 * problem.answer:.8g}"


def test_ten_problems_one_after_the_other(bench, maker):
    skills = []
    for _ in range(10):
        page = words(bench.get(reverse("practice:practice")))
        card = Card.objects.latest("pk")
        skills.append(card.skill)
        assert "Check" in page
        page = words(
            bench.post(
                reverse("practice:answer", args=[card.skill, card.seed]), {"answer": given(card.problem, right=True)}
            )
        )
        assert "Right" in page
        assert "Next problem" in page
    assert skills == list(SKILLS)[:10]
    assert sum(card.right for card in Card.objects.filter(user=maker)) == 10


def test_what_is_due_comes_first_with_another_problem(bench, maker):
    card = Card.objects.create(user=maker, skill="lift", seed=4)
    bench.post(reverse("practice:answer", args=["lift", 4]), {"answer": given(card.problem, right=False)})
    card.refresh_from_db()
    assert (card.right, card.wrong, card.seed) == (0, 1, 5)
    assert card.due > timezone.now()
    Card.objects.filter(pk=card.pk).update(due=timezone.now() - timedelta(days=1))
    assert draw("lift", 5).text[:40] in words(bench.get(reverse("practice:practice")))


@pytest.mark.parametrize("seconds", [-1, 0, 60])
def test_a_card_is_due_from_its_moment_on(bench, maker, seconds):
    for skill in SKILLS:
        Card.objects.create(user=maker, skill=skill, due=timezone.now() + timedelta(days=2))
    Card.objects.filter(skill="spot").update(due=timezone.now() + timedelta(seconds=seconds))
    assert Card.objects.all().next_skill(maker) == "spot"


def test_a_problem_answered_twice_counts_once(bench, maker):
    card = Card.objects.create(user=maker, skill="proof", seed=1)
    for _ in range(2):
        page = words(
            bench.post(reverse("practice:answer", args=["proof", 1]), {"answer": given(draw("proof", 1), right=True)})
        )
        assert "Right" in page
    card.refresh_from_db()
    assert (card.right, card.seed) == (1, 2)


@pytest.mark.parametrize("answer", ["", "lots", "12 bananas", "9" * 9])
def test_what_is_no_answer_is_said_and_counts_for_nothing(bench, maker, answer):
    card = Card.objects.create(user=maker, skill="dilute", seed=1)
    page = words(bench.post(reverse("practice:answer", args=["dilute", 1]), {"answer": answer}))
    card.refresh_from_db()
    assert card.tries == (1 if answer.startswith("9") else 0)
    assert ("field-error" in page) is not answer.startswith("9")


def test_the_usual_wrong_way_is_named(bench):
    problem = next(one for seed in range(50) if (one := draw("parts", seed)).wrong)
    page = words(
        bench.post(
            reverse("practice:answer", args=["parts", problem.seed]), {"answer": f"{problem.wrong[0].value:.6g}"}
        )
    )
    assert problem.wrong[0].words in page
    assert "The worked answer" in page


def test_a_sheet_has_its_answers_behind_it_and_is_the_same_each_time(bench):
    page = bench.get(reverse("practice:sheet") + "?sheet=3").content.decode()
    assert page.count("<li><p>") == 10
    assert page.index("sheet-problems") < page.index("sheet-answers")
    assert bench.get(reverse("practice:sheet") + "?sheet=3").content.decode().split("<ol")[1:] == page.split("<ol")[1:]
    for query in ("", "?sheet=x", "?sheet=-1", "?sheet=99999999999999999"):
        assert bench.get(reverse("practice:sheet") + query).status_code == 200


def test_each_person_has_cards_of_their_own(bench, maker, workshop, client):
    Card.objects.create(user=maker, skill="proof", right=9, seed=1)
    other = User.objects.create_user("other")
    Membership.objects.create(user=other, workshop=workshop)
    client.force_login(other)
    assert "9 of 9" not in words(client.get(reverse("practice:practice")))


def test_an_address_that_is_no_problem_leads_to_one(bench):
    for args in (["juggling", 1], ["proof", 99_999_999]):
        assert bench.post(reverse("practice:answer", args=args), {"answer": "1"}).url == reverse("practice:practice")
    assert bench.get(reverse("practice:answer", args=["proof", 1])).url == reverse("practice:practice")
