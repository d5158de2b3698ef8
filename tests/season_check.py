"""A plan checked rule by rule, day by day, with exact arithmetic; it shares no code with what made it.

The rules are those of docs/formats/season.md. What is served is found anew: each day the oldest good batch first, and
what is on hand last, since it does not spoil.
"""

from datetime import date, timedelta
from fractions import Fraction
from math import ceil
from typing import Any

WEEK = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"]


def day_of(season: dict[str, Any], text: str) -> int:
    return (date.fromisoformat(text) - date.fromisoformat(season["from"])).days


def needs_of(season: dict[str, Any]) -> list[tuple[int, str, int]]:
    found = []
    for need in season["needs"]:
        if "on" in need:
            days = [day_of(season, need["on"])]
        else:
            days = list(range(day_of(season, need["first"]), season["days"], need["every_days"]))
        found += [(day, need["product"], need["mL"]) for day in days if 0 <= day < season["days"]]
    return sorted(found)


def wrong_with(season: dict[str, Any], plan: dict[str, Any]) -> list[str]:
    """Every rule a plan breaks, in words; none for a plan that holds them all."""
    wrong = []
    products = {one["id"]: one for one in season["products"]}
    vessels = {one["id"]: one for one in season["vessels"]}
    pinned = [(one["product"], one["start"], one["vessel"], one["mL"]) for one in season.get("pinned", [])]
    minutes: dict[int, float] = {}
    held: dict[tuple[str, int], int] = {}
    taken: dict[str, list[tuple[int, Fraction]]] = {one["id"]: [] for one in season["stocks"]}
    closed = {day_of(season, text) for text in season["evening"].get("closed", [])}
    lots: dict[str, list[list[Any]]] = {key: [] for key in products}

    def is_open(day: int) -> bool:
        weekday = (date.fromisoformat(season["from"]) + timedelta(days=day)).weekday()
        return 0 <= day < season["days"] and WEEK[weekday] in season["evening"]["days"] and day not in closed

    def stands(product: str, vessel: str, start: int, free: int) -> None:
        for day in range(start, max(free, start + 1)):
            held[vessel, day] = held.get((vessel, day), 0) + 1

    for one in plan["batches"]:
        product, start, free = products[one["product"]], day_of(season, one["start"]), day_of(season, one["free"])
        known = (one["product"], one["start"], one["vessel"], one["mL"]) in pinned
        if not is_open(start) and not known:
            wrong.append(f"{one}: starts on a day that is not open")
        if free != start + ceil(product["wait_h"] / 24):
            wrong.append(f"{one}: free on the wrong day")
        if one["vessel"] not in product["vessels"] or one["mL"] > vessels[one["vessel"]]["mL"]:
            wrong.append(f"{one}: not in that vessel")
        low, high = product["batch_mL"]
        if not low <= one["mL"] <= high or one["mL"] != int(one["mL"]):
            wrong.append(f"{one}: not a size of it")
        minutes[start] = minutes.get(start, 0) + product["minutes"]
        for later in product.get("later", []):
            minutes[start + later["after_days"]] = minutes.get(start + later["after_days"], 0) + later["minutes"]
        stands(one["product"], one["vessel"], start, free)
        lots[one["product"]].append([start, free, start + product["keeps_days"], one["mL"]])
        takes = one.get("takes", product["takes"])
        for stock, much in takes.items():
            taken[stock].append((start, Fraction(str(much)) * one["mL"]))
    for one in season.get("running", []):
        free = day_of(season, one["free"])
        start = free - ceil(products[one["product"]]["wait_h"] / 24)
        stands(one["product"], one["vessel"], min(start, 0), free)
        lots[one["product"]].append([start, free, start + products[one["product"]]["keeps_days"], one["mL"]])
    for day, much in minutes.items():
        if is_open(day) and much > season["evening"]["minutes"] + 1e-9:
            wrong.append(f"day {day}: {much} minutes")
    for (vessel, day), count in held.items():
        if 0 <= day < season["days"] and count > vessels[vessel]["count"]:
            wrong.append(f"day {day}: {count} of {vessel}")
    for stock in season["stocks"]:
        bought: list[tuple[int, Fraction]] = []
        for one in plan["buy"]:
            if one["stock"] != stock["id"]:
                continue
            packs = stock["buy"] if isinstance(stock["buy"], list) else [stock["buy"]]
            pack = next(p for p in packs if p["size"] == one.get("size", packs[0]["size"]))
            arrives = day_of(season, one["arrives"])
            if arrives != day_of(season, one["order"]) + pack["days"] or arrives - pack["days"] < 0:
                wrong.append(f"{one}: cannot be there then")
            bought.append((arrives, Fraction(str(pack["size"])) * one["packs"]))
        for one in season.get("ordered", []):
            if one["stock"] == stock["id"]:
                packs = stock["buy"] if isinstance(stock["buy"], list) else [stock["buy"]]
                bought.append((day_of(season, one["arrives"]), Fraction(str(packs[0]["size"])) * one["packs"]))
        old = Fraction(str(stock["left"]))
        until = day_of(season, stock["good_until"]) if "good_until" in stock else season["days"]
        used_old = Fraction(0)
        for day in range(season["days"]):
            there = sum((much for arrives, much in bought if arrives <= day), Fraction(0))
            used = sum((much for at, much in taken[stock["id"]] if at <= day), Fraction(0))
            if day <= until:
                used_old = min(old, used)
                if used > there + old:
                    wrong.append(f"day {day}: {stock['id']} below nothing by {float(used - there - old)}")
            elif used - used_old > there:
                wrong.append(f"day {day}: {stock['id']} below nothing")
    short: dict[tuple[int, str], int] = {}
    on_hand = {key: one["on_hand_mL"] for key, one in products.items()}
    for day, key, mL in needs_of(season):
        wanted = mL
        good = sorted((lot for lot in lots[key] if lot[1] <= day <= lot[2] and lot[3] > 0), key=lambda lot: lot[2])
        for lot in good:
            served = min(wanted, lot[3])
            lot[3] -= served
            wanted -= served
        served = min(wanted, on_hand[key])
        on_hand[key] -= served
        wanted -= served
        if wanted:
            short[day, key] = short.get((day, key), 0) + wanted
    if sum(short.values()) > plan["unmet_mL"]:
        wrong.append(f"{sum(short.values())} mL go short, and the plan says {plan['unmet_mL']}")
    if plan["unmet_mL"] != sum(one["mL"] for one in plan["short"]):
        wrong.append("what is short does not sum to what is unmet")
    if plan["evenings"] != len({one["start"] for one in plan["batches"]}):
        wrong.append("evenings are counted wrong")
    return wrong
