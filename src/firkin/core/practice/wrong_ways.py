"""The usual wrong ways of the trade's arithmetic, each under its name: what it comes to, and what it says of itself.

From teaching by hand (common practice, no source).
"""

from firkin.core.measures import figures
from firkin.core.practice.problem import WrongWay


def took_proof_as_per_cent(proof: float) -> WrongWay:
    """Proof read as per cent."""
    return WrongWay("took_proof_as_per_cent", proof, "That is the proof. US proof is twice the per cent.")


def doubled_the_proof(proof: float) -> WrongWay:
    """Proof doubled in place of halved."""
    return WrongWay("doubled_the_proof", 2.0 * proof, "You doubled it. US proof is twice the per cent, so halve it.")


def divided_by_the_larger_part(stock_pct: float, larger: float, smaller: float) -> WrongWay:
    """Parts counted without the smaller one."""
    value = stock_pct * (1.0 - smaller / larger)
    whole = figures(larger + smaller)
    words = f"You divided by {figures(larger)}: {figures(larger)} parts and {figures(smaller)} are {whole}."
    return WrongWay("divided_by_the_larger_part", value, words)


def forgot_to_thin(stock_pct: float) -> WrongWay:
    """The stock's own strength, as if nothing else went in."""
    return WrongWay("forgot_to_thin", stock_pct, "That is the bottle alone. What else goes in thins it.")


def took_the_middle(stock_pct: float) -> WrongWay:
    """Half of the stock, whatever the parts."""
    return WrongWay("took_the_middle", stock_pct / 2.0, "That is half and half. Count the parts.")


def subtracted_the_per_cents(stock_pct: float, target_pct: float) -> WrongWay:
    """The room for additives as a difference of per cents."""
    words = "You subtracted. The room is 1 minus target over stock."
    return WrongWay("subtracted_the_per_cents", stock_pct - target_pct, words)


def took_the_share_that_stays(stock_pct: float, target_pct: float) -> WrongWay:
    """The share of the stock in place of that of the additive."""
    words = "That is the share of alcohol in the mix. The rest is the room."
    return WrongWay("took_the_share_that_stays", 100.0 * target_pct / stock_pct, words)


def took_the_target_as_share(make_mL: float, target_pct: float) -> WrongWay:
    """The target taken as the share of stock, as if the stock were pure."""
    words = "That would do if the bottle were pure. Divide by its strength too."
    return WrongWay("took_the_target_as_share", make_mL * target_pct / 100.0, words)


def multiplied_by_the_stock(make_mL: float, stock_pct: float) -> WrongWay:
    """The size times the stock's strength."""
    words = "You took the strength of the bottle for its share. Divide what is wanted by what the bottle holds."
    return WrongWay("multiplied_by_the_stock", make_mL * stock_pct / 100.0, words)


def forgot_that_it_grows(batch_mL: float, now: float, target: float, stock: float) -> WrongWay:
    """What is missing over the stock's strength: the batch grows by what is added."""
    value = batch_mL * (target - now) / stock
    words = "The batch grows by what you add, and that has to be lifted too: divide by stock minus target."
    return WrongWay("forgot_that_it_grows", value, words)


def slipped_a_zero(answer: float) -> WrongWay:
    """Ten times too much."""
    return WrongWay("slipped_a_zero", 10.0 * answer, "Ten times too much: look at the decimal point.")


def lost_a_zero(answer: float) -> WrongWay:
    """Ten times too little."""
    return WrongWay("lost_a_zero", answer / 10.0, "Ten times too little: look at the decimal point.")


def took_weight_as_volume(pct: float) -> WrongWay:
    """Per cent by weight read as by volume."""
    words = "By weight and by volume differ: alcohol is lighter than water."
    return WrongWay("took_weight_as_volume", pct, words)


def took_equal_weights(grams: float) -> WrongWay:
    """As much base as acid."""
    return WrongWay("took_equal_weights", grams, "Not gram for gram: count moles, grams over molar mass.")


def forgot_the_strengths(grams: float) -> WrongWay:
    """Both counted as pure."""
    return WrongWay("forgot_the_strengths", grams, "Neither is pure: count what each bottle holds.")


def filled_to_the_brim(grams: float) -> WrongWay:
    """Without room for gas."""
    return WrongWay("filled_to_the_brim", grams, "You filled it to the brim. Gas needs room at the top.")


def divided_the_other_way(value: float) -> WrongWay:
    """The quotient turned over."""
    return WrongWay("divided_the_other_way", value, "The wrong way round: divide what there is by what one takes.")


def converted_the_other_way(value: float) -> WrongWay:
    """Multiplied where it is divided."""
    return WrongWay("converted_the_other_way", value, "The other way round: look which unit is the larger.")
