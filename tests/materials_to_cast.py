"""A resin, a foam, powders and a mould of four cavities, with round figures."""

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.planned_cast import CastCavity
from ufrin.core.casting.resins import Resin
from ufrin.core.inputs.casts import SettledCasts

# 1 : 1 by volume and 100 : 90 by weight at once: 1.00 and 0.90 g/ml make 0.95
RESIN = Resin(
    name="Test resin",
    a_name="Part A",
    b_name="Part B",
    weight_a=100,
    weight_b=90,
    volume_a=1,
    volume_b=1,
    sg_a=1.0,
    sg_b=0.9,
    pot_life_min=10,
    demould_min=60,
    kit_g=1000,
    kit_price=20,
)
FOAM = Resin(
    name="Test foam", kind="rigid-foam", weight_a=1, weight_b=1, sg_mixed=1.1, rises=10, kit_g=1000, kit_price=10
)
CHALK = Addition(name="Chalk", bulk_sg=1.0, true_sg=2.5, most_volumes=2, pack_g=1000, pack_price=5)
METAL = Addition(name="Bronze", kind="metal", bulk_sg=3.0, true_sg=9.0, pack_g=1000, pack_price=30)
GREY = Addition(name="Grey", kind="resin-colour", pack_g=100, pack_price=10)
PICKS = CastPicks(resin=RESIN, foam=FOAM, filler=CHALK)
CAVITY = CastCavity(volume_ml=20, area_cm2=40, height_mm=25, sprue_ml=2, count=4)
PLAIN = SettledCasts(spare_pct=0.0, room_c=23.0)
