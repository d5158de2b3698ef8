"""Densities by CoolProp, which takes seconds to load: whoever collects the tests does without it."""


def density(fluid: str, celsius: float) -> float:
    """The density of a fluid as CoolProp names it, at the pressure of the air, kg/m3."""
    from CoolProp.CoolProp import PropsSI

    return PropsSI("D", "T", 273.15 + celsius, "P", 101325, fluid)
