"""Physical constants."""

STANDARD_GRAVITY_M_PER_S2 = 9.80665  # CGPM 1901
