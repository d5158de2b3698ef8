"""Values from outside: published tables, standards and their sources, for the tests to check against."""

from mixes import mix

# OIML R 22 (1975), International Alcoholometric Tables, table IIIb: % v/v at 20 degC -> kg/m3.
OIML_AT_20 = [
    (0, 998.20),
    (40, 948.05),
    (50, 930.14),
    (60, 909.1),
    (70, 885.56),
    (80, 859.27),
    (96, 807.42),
    (100, 789.24),
]

# A handbook table of 2-propanol and water at 20 degC, recalled from memory: % w/w -> g/mL, +-0.002.
PROPANOL_AT_20 = [(0, 0.9982), (10, 0.9827), (30, 0.9540), (50, 0.9090), (70, 0.8621), (90, 0.8129)]

# The Gay-Lussac dilution table, recalled from memory: water to 100 volumes of 90 % v/v -> % v/v.
GAY_LUSSAC_90 = [
    (85, 6.56),
    (80, 13.79),
    (75, 21.89),
    (70, 31.05),
    (65, 41.53),
    (60, 53.65),
    (55, 67.87),
    (50, 84.71),
    (45, 105.3),
    (40, 130.8),
    (35, 163.3),
    (30, 206.2),
]

# NIST SP 811 appendix B and NIST HB 44 appendix C, in mL or g.
NIST = [
    ("1 cup", 236.588),
    ("1 tbsp", 14.787),
    ("1 tsp", 4.929),
    ("1 floz", 29.574),
    ("1 pint", 473.18),
    ("1 quart", 946.35),
    ("1 gal", 3785.41),
    ("1 imp_floz", 28.413),
    ("1 imp_pint", 568.26),
    ("1 imp_gal", 4546.09),
    ("1 oz", 28.350),
    ("1 lb", 453.59),
]

PINT_NAMES = {
    "mL": "mL",
    "L": "L",
    "g": "g",
    "kg": "kg",
    "mg": "mg",
    "oz": "oz",
    "lb": "lb",
    "tsp": "teaspoon",
    "tbsp": "tablespoon",
    "cup": "cup",
    "floz": "fluid_ounce",
    "pint": "pint",
    "quart": "quart",
    "gal": "gallon",
    "imp_floz": "imperial_fluid_ounce",
    "imp_pint": "imperial_pint",
    "imp_quart": "imperial_quart",
    "imp_gal": "imperial_gallon",
}

# WHO, Guide to Local Production: WHO-recommended Handrub Formulations; amounts for 10 L.
WHO_I = mix(
    ("ethanol", "8333 mL", "96 %"),
    ("hydrogen-peroxide", "417 mL", "3 %"),
    ("glycerol", "145 mL"),
    ("water", "q.s."),
    make="10 L",
    guidelines=("who-ethanol",),
)

WHO_II = mix(
    ("isopropanol", "7515 mL", "99.8 %"),
    ("hydrogen-peroxide", "417 mL", "3 %"),
    ("glycerol", "145 mL"),
    ("water", "q.s."),
    make="10 L",
    guidelines=("who-isopropanol",),
)

# Label arithmetic is common practice; true strength and volume follow from OIML R 22 for ethanol, and
# from the handbook table recalled from memory for 2-propanol (hence the wider slack).
TRUE_STRENGTHS = [
    ([("ethanol", "700 mL", "100 %"), ("water", "300 mL")], 70.0, 72.3, 968),
    ([("ethanol", "700 mL", "96 %"), ("water", "300 mL")], 67.2, 69.0, 974),
    ([("ethanol", "2 parts", "95 %"), ("water", "1 part")], 63.3, 65.1, None),
    ([("isopropanol", "3 parts", "70 %"), ("aloe-gel", "1 part")], 52.5, 53.1, None),
    ([("isopropanol", "9 parts", "70 %"), ("aloe-gel", "1 part")], 63.0, 63.3, None),
]
