"""Addresses of what becomes of bottles."""

from django.urls import path

from firkin.use.views import bottles, money, recalls, review

app_name = "use"
urlpatterns = [
    path("", bottles.overview, name="overview"),
    path("batches/<int:pk>/", bottles.of_batch, name="of_batch"),
    path("batches/<int:pk>/<int:number>/", bottles.bottle, name="bottle"),
    path("batches/<int:pk>/<int:number>/told/", bottles.tell, name="tell"),
    path("batches/<int:pk>/<int:number>/undo/<int:event_pk>/", bottles.undo, name="undo"),
    path("holders/<int:pk>/", bottles.holder, name="holder"),
    path("recalls/", recalls.recalls, name="recalls"),
    path("recalls/batch/<int:pk>/", recalls.because_of_batch, name="recall_batch"),
    path("recalls/stock/<int:pk>/", recalls.because_of_stock, name="recall_stock"),
    path("recalls/<int:pk>/", recalls.recall, name="recall"),
    path("recalls/<int:pk>/dealt/", recalls.dealt, name="dealt"),
    path("recalls/<int:pk>/close/", recalls.close, name="close"),
    path("batches/<int:pk>/good/", recalls.good_again, name="good_again"),
    path("money/<int:pk>/", money.money, name="money"),
    path("money/<int:pk>/bought/<int:bought_pk>/remove/", money.remove, name="bought_remove"),
    path("review/<int:pk>/", review.review, name="review"),
]
