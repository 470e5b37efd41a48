"""The Sheet: what its page and its PDF receive."""

from ufrin.actions.job.open_job import OpenJob
from ufrin.core.job.terms.master import WAYS
from ufrin.devices import clock
from ufrin.language import Text
from ufrin.web.contexts.checks import befores
from ufrin.web.contexts.cure_watch import demould_sentences
from ufrin.web.contexts.opening import opening_context
from ufrin.web.contexts.scenes import box_views
from ufrin.web.contexts.station import job_context
from ufrin.web.drawings.svg_marks import in_a_row
from ufrin.web.frame.forms import FormReading
from ufrin.web.frame.pages import environment
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.frame.workshop_clock import WorkshopClock


def sheet_context(opened: OpenJob) -> dict[str, object]:
    """Return what the sheet of a job receives.

    Parameters
    ----------
    opened : OpenJob
        The job.

    Returns
    -------
    dict of str to object
        For its templates.
    """
    say = UnitFormatter(opened.workshop.units, opened.workshop.currency)
    views = box_views(opened, say)
    opening = opening_context(opened, say)
    drawn = [
        (f"{view.title}, {what}", view.drawing)
        for what, key in ((Text("in the box"), "mould_views"), (Text("held for casting"), "cast_views"))
        for view in opening[key]
    ]
    return {
        **opening,
        "opening_line": in_a_row(drawn, Text("How the mould opens, and how it is held for casting")) if drawn else None,
        **job_context(opened, "box", FormReading(changes={})),
        "station": "sheet",
        "views": views,
        "on_one_line": in_a_row([(view.title, view.drawing) for view in views], Text("The box in front, side and plan"))
        if views
        else None,
        "findings": [
            finding for found in opened.plan.findings.values() for finding in found if finding.level != "note"
        ],
        "all_refusals": [say.refusal(refusal) for refused in opened.plan.refusals.values() for refusal in refused],
        "said": {"master": opened.job.master.settled(), "rubber": opened.plan.rubber_settled},
        "ways": WAYS,
        "befores": befores(opened.step_states(clock.now()), say, clock.now().wall_s),
        "after_pours": _after_pours(opened, say),
        "post_cure": opened.plan.pour.post_cure if opened.plan.pour else None,
        "today": opened.workshop.today,
    }


def _after_pours(opened: OpenJob, say: UnitFormatter) -> list[tuple[str, tuple[str, ...]]]:
    # what is done after each pour, under its heading
    plan = opened.plan
    slit_mm = plan.opening.slit.length_mm if plan.opening and plan.opening.slit else None
    return [
        (
            Text("After the {half} half", half=pour.half) if pour.half else Text("After the pour"),
            (
                Text("Press the left-over in its cup before you touch the mould."),
                *demould_sentences(plan.style, pour.half, slit_mm, say),
            ),
        )
        for pour in plan.pours
    ]


def sheet_pdf(opened: OpenJob, workshop_clock: WorkshopClock) -> bytes:
    """Return the sheet of a job as PDF.

    Parameters
    ----------
    opened : OpenJob
        The job.
    workshop_clock : WorkshopClock
        That times are shown by.

    Returns
    -------
    bytes
        The file.
    """
    # it takes a second to load, which a server that starts need not wait for
    from ufrin.web.frame.pdf import pdf  # noqa: PLC0415

    body = environment.get_template("paper/_job_sheet.html").render(
        {"workshop_clock": workshop_clock, **sheet_context(opened)}
    )
    return pdf(body, opened.job.name, opened.workshop.units)
