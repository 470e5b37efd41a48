"""Line work of masters: turned a quarter it is what turning the master itself gives, in every view.

It also stays light enough for a page.
"""

import numpy as np
import pytest
import shapely
from shapes import cup, moved

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import box
from ufrin.core.master.attitudes import stand
from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.stand_ins import block, turned
from ufrin.core.measures.display import show
from ufrin.core.mesh.files import read
from ufrin.core.mesh.line_work import LineWork, ViewKey
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.demo_masters import MASTERS, as_file
from ufrin.web.drawings.box import views
from ufrin.web.drawings.box_scene import BoxScene
from ufrin.web.drawings.master import master_views
from ufrin.web.drawings.master_lines import plain

VIEWS: tuple[ViewKey, ...] = ("plan", "front", "side")
HEAVIEST_PAGE_BYTES = 120_000


def lopsided() -> Mesh:
    """Nothing about it is alike from two sides."""
    return joined([block(50, 20, 10), moved(block(12, 18, 30), 15, 1, 10), moved(block(8, 6, 9), -18, 6, 10)])


def area(outline: LineWork) -> shapely.Geometry:
    shape = shapely.MultiPolygon()
    for ring in outline.rings:
        shape = shapely.symmetric_difference(shape, shapely.Polygon(ring).buffer(0))
    return shape


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize(
    "mesh", [lopsided(), cup(), turned([(0, 40), (30, 18), (50, 34)])], ids=["lopsided", "cup", "vase"]
)
def test_a_quarter_turn_of_the_drawing_is_a_quarter_turn_of_the_master(mesh: Mesh, view: ViewKey) -> None:
    form, really = Form(stand(mesh)), Form(stand(mesh, spin_deg=90))
    told, true = area(form.seen(view, turned=True)), area(really.seen(view))
    assert shapely.symmetric_difference(told, true).area < 0.01 * true.area
    lines = [
        sorted(round(shapely.LineString(line).length, 1) for line in of.lines)
        for of in (form.seen(view, turned=True), really.seen(view))
    ]
    assert sum(lines[0]) == pytest.approx(sum(lines[1]), rel=0.02, abs=0.5)


@pytest.mark.parametrize("outline", ["rectangle", "round"])
@pytest.mark.parametrize("turn", [False, True])
def test_a_master_without_form_is_its_outside(outline: str, turn: bool) -> None:
    width = 50.0 if outline == "round" else 20.0
    one = Master(length_mm=50, width_mm=width, height_mm=30, volume_ml=10, outline=outline)
    spans = {view: np.ptp(np.array(plain(one, view, turned=turn).rings[0]), axis=0) for view in VIEWS}
    across, deep = (width, 50.0) if turn else (50.0, width)
    assert spans["plan"] == pytest.approx((across, deep), rel=1e-3)
    assert spans["front"] == pytest.approx((across, 30))
    assert spans["side"] == pytest.approx((deep, 30))


@pytest.mark.parametrize("name", MASTERS)
def test_the_demos_masters_are_drawn_to_size_and_light_enough_for_a_page(name: str) -> None:
    form = Form(stand(read(as_file(name)).mesh))
    drawn = master_views(form, show)
    assert sum(len(view.svg) for view in drawn) < HEAVIEST_PAGE_BYTES, name
    length, width, height = form.size_mm
    for view, size in (("plan", (length, width)), ("front", (length, height)), ("side", (width, height))):
        rings = np.concatenate([np.array(ring) for ring in form.seen(view).rings])
        assert np.ptp(rings, axis=0) == pytest.approx(size, rel=5e-3)
        # what is seen inside lies inside
        shape = area(form.seen(view)).buffer(0.01 * max(size))
        assert all(shape.covers(shapely.LineString(line)) for line in form.seen(view).lines)


def test_masters_behind_each_other_are_drawn_once_and_each_is_numbered_in_plan() -> None:
    form = Form(stand(lopsided()))
    length, width, height = form.size_mm
    one = Master(length_mm=length, width_mm=width, height_mm=height, volume_ml=form.volume_ml, count=6, form=form)
    plan = BoxPlan(masters=(one,), rows=2, columns=3)
    front, side, above = views(BoxScene(box=box(plan), plan=plan, wall_mm=5), show)
    assert front.svg.count('fill="url(#front-master)"') == 3
    assert side.svg.count('fill="url(#side-master)"') == 2
    assert above.svg.count('fill="url(#plan-master)"') == 6
    assert [number for number in "123456" if f">{number}</text>" in above.svg] == list("123456")
