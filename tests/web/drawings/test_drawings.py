"""Drawings: well-formed, to scale, and no word on top of another, whatever the box."""

import io
import itertools
import re
from itertools import combinations
from xml.etree import ElementTree as ET

import ezdxf
import numpy as np
import pytest
import shapely
import trimesh
from ezdxf import units
from hypothesis import assume, example, given
from hypothesis import strategies as st

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.cut_list import cut_list, panels
from ufrin.core.box.mould_box import box
from ufrin.core.box.printed_box import printable_box
from ufrin.core.master.attitudes import stand
from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.stand_ins import turned
from ufrin.core.measures.display import show
from ufrin.core.mesh import sections
from ufrin.core.mesh.written_files import write_3mf, write_stl
from ufrin.core.rubber.shore import Hardness
from ufrin.core.rubber.thinner_curve import CouponPoint, Curve
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup, marks
from ufrin.errors import Refused
from ufrin.web.drawings.allowance import evidence
from ufrin.web.drawings.box import views
from ufrin.web.drawings.box_scene import BoxScene
from ufrin.web.drawings.cup import cup_section, true_size_strip
from ufrin.web.drawings.cut_list import sheet_drawings, true_size_svg
from ufrin.web.drawings.displacement import Reading, error_bars
from ufrin.web.drawings.dxf_files import cut_dxf
from ufrin.web.drawings.hardness import ChosenDose, hardness_curve
from ufrin.web.drawings.master import master_views
from ufrin.web.drawings.svg_marks import LINE_PX, TEXT_PX, in_a_row, spread, width_px

SVG = "{http://www.w3.org/2000/svg}"
mm = st.floats(1, 400)
clearance = st.floats(0, 100)


@st.composite
def scenes(draw: st.DrawFn) -> BoxScene:
    length, width, height, count = draw(mm), draw(mm), draw(mm), draw(st.integers(1, 9))
    outline = draw(st.sampled_from(["rectangle", "round"]))
    width = length if outline == "round" else width
    bed = draw(st.just(0.0) | clearance)
    sunk = min(bed, height) * draw(st.floats(0, 0.9))
    said = {name: draw(clearance) for name in ("side_mm", "over_mm", "gap_mm")} | {
        "under_mm": draw(st.just(0.0) | clearance)
    }
    one = Master(length_mm=length, width_mm=width, height_mm=height, volume_ml=None, count=count, outline=outline)
    shape = draw(st.sampled_from(["rectangle", "round", "contour", "tray", "container"]))
    pot = Container(
        name="pot",
        shape="tapered",
        bottom_mm=draw(st.floats(20, 500)),
        top_mm=draw(st.floats(20, 500)),
        height_mm=draw(st.floats(50, 500)),
    )
    holder = {"container": pot} if shape == "container" else {"shape": shape}
    plan = BoxPlan(masters=(one,), bed_mm=bed, sunk_mm=sunk, lip_mm=draw(clearance), **said, **holder)
    try:
        made = box(plan)
    except Refused:
        assume(False)
    return BoxScene(
        box=made, plan=plan, wall_mm=draw(st.floats(0.5, 40)), lift=draw(st.sampled_from(["", "lift 92 g"]))
    )


def text_boxes(root: ET.Element) -> list[tuple[str, tuple[float, float, float, float]]]:
    """Where each text stands: left, top, right, bottom; turned texts stand upright."""
    found = []
    turned = {child: group for group in root.iter(f"{SVG}g") for child in group}
    for text in root.iter(f"{SVG}text"):
        said = text.text or ""
        x, y, wide = float(text.get("x", 0)), float(text.get("y", 0)) - TEXT_PX * 0.35, width_px(said) * 0.9
        x -= {"start": 0, "middle": wide / 2, "end": wide}[text.get("text-anchor", "start")]
        place = (x, y - TEXT_PX * 0.4, x + wide, y + TEXT_PX * 0.4)
        if text in turned:
            at = [float(number) for number in re.findall(r"-?[\d.]+", turned[text].get("transform", ""))]
            place = (at[0] - TEXT_PX * 0.4, at[1] - wide / 2, at[0] + TEXT_PX * 0.4, at[1] + wide / 2)
        found.append((said, place))
    return found


def odd(
    length_mm: float,
    width_mm: float,
    height_mm: float,
    count: int = 1,
    pot_mm: tuple[float, float] | None = None,
    **more: float,
) -> BoxScene:
    """A scene in which texts once met: a narrow box, or a pot of these bottom and top diameters, 50 mm high."""
    master = Master(length_mm=length_mm, width_mm=width_mm, height_mm=height_mm, volume_ml=None, count=count)
    pot = pot_mm and Container(
        name="pot", shape="tapered", material="plastic-sheet", bottom_mm=pot_mm[0], top_mm=pot_mm[1], height_mm=50
    )
    plan = BoxPlan(masters=(master,), container=pot, **{"side_mm": 0, "over_mm": 0, "gap_mm": 0, **more})
    return BoxScene(box=box(plan), plan=plan, wall_mm=1.0, lift="")


@example(odd(47, 1, 1), "us")
@example(odd(1, 1, 26), "us")  # narrower both ways than its texts
@example(odd(1, 1, 93, pot_mm=(20, 48)), "metric")  # filled far above the rim
@example(odd(1, 20, 291, pot_mm=(20, 20)), "metric")
@example(odd(57, 57, 1, 7, pot_mm=(20, 20), over_mm=1, under_mm=40), "metric")  # masters beyond the wall
@example(odd(188, 145, 1, 3, pot_mm=(20, 170), over_mm=100), "metric")
@given(scenes(), st.sampled_from(["metric", "us"]))
def test_no_text_overlaps_another_or_leaves_the_sheet(scene: BoxScene, units: str) -> None:
    for view in views(scene, lambda value, kind: show(value, kind, units)):
        root = ET.fromstring(view.svg)
        width, height = float(root.get("width", 0)), float(root.get("height", 0))
        texts = text_boxes(root)
        for (one, a), (other, b) in combinations(texts, 2):
            apart = a[2] <= b[0] or b[2] <= a[0] or a[3] <= b[1] or b[3] <= a[1]
            assert apart, (view.key, one, other, a, b)
        for said, (left, top, right, bottom) in texts:
            assert left >= -1, (view.key, said)
            assert top >= -1, (view.key, said)
            assert right <= width + 1, (view.key, said)
            assert bottom <= height + 1, (view.key, said)
        assert width < 520
        assert height < 420


def extents(svg: str, fill: str) -> tuple[float, float]:
    (path,) = [r for r in ET.fromstring(svg).iter(f"{SVG}path") if r.get("fill") == fill]
    numbers = np.array(re.findall(r"-?[\d.]+", path.get("d", "")), dtype=float).reshape(-1, 2)
    wide, high = np.ptp(numbers, axis=0)
    return float(wide), float(high)


def test_a_master_with_a_form_is_drawn_by_it_in_its_own_views_and_in_the_box() -> None:
    form = Form(stand(turned([(0, 40), (12, 44), (30, 18), (64, 10)])))
    for view in master_views(form, show):
        root = ET.fromstring(view.svg)
        assert len([one for one in root.iter(f"{SVG}path") if "master" in (one.get("fill") or "")]) == 1
        for (_, a), (_, b) in combinations(text_boxes(root), 2):
            assert a[2] <= b[0] or b[2] <= a[0] or a[3] <= b[1] or b[3] <= a[1]
    length, width, height = form.size_mm
    one = Master(length_mm=length, width_mm=width, height_mm=height, volume_ml=form.volume_ml, form=form)
    plan = BoxPlan(masters=(one,), shape="round")
    drawn = views(BoxScene(box=box(plan), plan=plan, wall_mm=4), show)
    assert extents(drawn[0].svg, "url(#front-master)")[1] == pytest.approx(
        64 * BoxScene(box=box(plan), plan=plan, wall_mm=4).px_per_mm, abs=0.11
    )
    assert in_a_row([(view.title, view.drawing) for view in drawn], "all").svg.count("<svg") == 4


def test_what_is_cut_reads_back_as_it_was_meant() -> None:
    walls = panels(
        length_mm=120, width_mm=80, diameter_mm=None, around_mm=None, rim_mm=50, thickness_mm=6, pinwheel=False
    )
    cut = cut_list(walls, outside_mm=(120, 80), around_mm=400, thickness_mm=6, sheet_mm=(300, 220), kerf_mm=3)
    document = ezdxf.read(io.StringIO(cut_dxf(cut).decode()))
    assert document.units == units.MM
    pieces = [
        np.ptp(np.array([point[:2] for point in line.get_points()]), axis=0)
        for line in document.modelspace().query("LWPOLYLINE[layer=='CUT']")
    ]
    assert sorted(tuple(sorted(piece.round(6).tolist())) for piece in pieces) == [
        (50, 80),
        (50, 80),
        (50, 132),
        (50, 132),
        (142, 182),
    ]
    svg = ET.fromstring(true_size_svg(cut))
    assert svg.get("width") == f"{svg.get('viewBox', '').split()[2]}mm"
    rectangles = [one for one in svg.iter(f"{SVG}rect") if one.get("id") is None]
    assert sum(float(one.get("width", 0)) * float(one.get("height", 0)) for one in rectangles) == pytest.approx(
        sum(a * b for a, b in pieces)
    )
    # nothing overlaps, and the saw has its room
    boxes = [
        shapely.box(p.x_mm, p.y_mm, p.x_mm + p.length_mm, p.y_mm + p.height_mm) for p in cut.pieces if p.sheet == 0
    ]
    assert all(a.distance(b) >= 3 - 0.11 for a, b in combinations(boxes, 2))
    assert len(sheet_drawings(cut, show)) == cut.sheets
    whirl = panels(
        length_mm=120, width_mm=80, diameter_mm=None, around_mm=None, rim_mm=50, thickness_mm=6, pinwheel=True
    )
    assert [panel.length_mm for panel in whirl] == [126, 86]


@pytest.mark.parametrize("write", [write_stl, write_3mf])
def test_a_box_to_print_reads_back_closed_and_holds_what_it_should(write: object) -> None:
    inside = shapely.box(-40, -30, 40, 30)
    made = printable_box(inside, rim_mm=45, thickness_mm=3, pour_mm=20)
    mesh = trimesh.load(
        io.BytesIO(write(made.side_by_side)), file_type="stl" if write is write_stl else "3mf", force="mesh"
    )
    assert mesh.is_watertight
    assert mesh.volume / 1000 == pytest.approx((made.walls.volume_mm3 + made.board.volume_mm3) / 1000, rel=1e-5)
    # through the middle of the walls the hole is the inside
    section = sections.section(made.walls, 25)
    assert sum(shapely.Polygon(ring).area for part in section.geoms for ring in part.interiors) == pytest.approx(
        inside.area
    )


def test_the_three_views_share_one_scale() -> None:
    one = Master(length_mm=92, width_mm=78, height_mm=31, volume_ml=121)
    plan = BoxPlan(masters=(one,))
    scene = BoxScene(box=box(plan), plan=plan, wall_mm=6)
    masters = {}
    for view in views(scene, show):
        masters[view.key] = extents(view.svg, f"url(#{view.key}-master)")
    px = scene.px_per_mm
    assert masters["front"] == pytest.approx((92 * px, 31 * px), abs=0.11)
    assert masters["side"] == pytest.approx((78 * px, 31 * px), abs=0.11)
    assert masters["plan"] == pytest.approx((92 * px, 78 * px), abs=0.11)


@given(st.lists(st.floats(0, 100), min_size=1, max_size=6))
def test_spread_keeps_order_distance_and_limits(wanted: list[float]) -> None:
    placed = spread(wanted, LINE_PX, 0, 100)
    order = sorted(range(len(wanted)), key=lambda index: wanted[index])
    steps = [placed[b] - placed[a] for a, b in zip(order, order[1:], strict=False)]
    assert all(step >= LINE_PX - 1e-6 for step in steps)
    assert min(placed) >= -1e-6
    assert max(placed) <= 100 + 1e-6


def test_error_bars_stand_on_one_scale() -> None:
    exact, rough = error_bars([Reading(value=121.5, plus_minus=0.0), Reading(value=120, plus_minus=3.5)])
    at = [float(ET.fromstring(bar).find("circle").get("cx")) for bar in (exact, rough)]
    assert at[0] - at[1] == pytest.approx(1.5 * 180 / 7, abs=0.02)


def texts(svg: str) -> list[str]:
    return ["".join(node.itertext()) for node in ET.fromstring(svg).iter(f"{SVG}text")]


@given(
    st.floats(0, 60),
    st.lists(st.tuples(st.integers(0, 50), st.floats(5, 60)), max_size=5, unique_by=lambda pair: pair[0]),
    st.none() | st.floats(0, 50),
)
def test_a_curve_falls_has_every_coupon_and_reads_the_same_on_both_scales(
    own: float, coupons: list[tuple[int, float]], dose: float | None
) -> None:
    points = [CouponPoint(parts_per_100=parts, hardness=Hardness(scale="00", shore=shore)) for parts, shore in coupons]
    curve = Curve(Hardness(scale="A", shore=own), points)
    svg = hardness_curve(curve, ChosenDose(parts_per_100=dose, target=Hardness(scale="00", shore=30))).svg
    root = ET.fromstring(svg)
    assert len([node for node in root.iter(f"{SVG}circle") if node.get("class") == "d-coupon"]) == len(points)
    for path in root.iter(f"{SVG}path"):
        if "d-curve" in path.get("class", ""):
            ys = [float(pair.split(",")[1]) for pair in path.get("d", "").removeprefix("M").split()]
            assert all(after >= before - 0.11 for before, after in itertools.pairwise(ys))  # softer is lower
    said = texts(svg)
    assert {"Shore A", "Shore 00", "wanted: 00 30"} <= set(said)
    assert (dose is None) == (not any("parts:" in one for one in said))


@given(st.floats(40, 150), st.floats(40, 150), st.floats(40, 200), st.floats(0.05, 0.95), st.floats(0.05, 0.9))
def test_a_strip_is_as_long_as_the_wall_and_its_marks_stand_where_the_levels_are(
    bottom: float, top: float, height: float, full: float, share: float
) -> None:
    cup = Cup(name="Tub", bottom_mm=bottom, top_mm=top, height_mm=height)
    made = marks(cup, {"A": cup.holds_ml * full * share, "B": cup.holds_ml * full * (1 - share)})
    root = ET.fromstring(true_size_strip(cup, made, show, "strip"))
    long = cup.along_wall_mm(height)
    levels = [float(node.get("y1", "0")) for node in root.iter(f"{SVG}line")]
    assert [8 + long - mark.wall_mm for mark in made] == pytest.approx(levels, abs=1e-3)
    assert float(root.get("height", "").removesuffix("mm")) == pytest.approx(8 + long + 14, abs=0.01)
    section = ET.fromstring(cup_section(cup, made, show).svg)
    assert len([node for node in section.iter(f"{SVG}line") if node.get("class") == "d-fill"]) == 2


@given(st.lists(st.floats(-30, 300), min_size=1, max_size=200), st.floats(0, 100))
def test_evidence_has_a_point_for_every_pour_on_its_sheet(over: list[float], spare: float) -> None:
    drawn = evidence(over, spare)
    root = ET.fromstring(drawn.svg)
    dots = [(float(node.get("cx", "0")), float(node.get("cy", "0"))) for node in root.iter(f"{SVG}circle")]
    assert len(dots) == len(over)
    assert all(0 <= x <= drawn.width_px and 0 <= y <= drawn.height_px for x, y in dots)
    assert f"spare {spare:.1f} %" in texts(drawn.svg)
