"""The rules that every plan keeps, looked at one by one, by another way than the planner goes."""

from ufrin.core.schedule.steps import PlacedStep, SchedulePlan, Work


def broken_rules(work: Work, plan: SchedulePlan) -> list[str]:
    """Say which rules a plan breaks; each step is looked at by itself, and each minute that something begins."""
    steps, placed = work.by_key(), plan.by_key()
    found = []
    if sorted(placed) != sorted(steps) or len(plan.placed) != len(steps):
        return ["not every step is placed once"]
    for key, step in steps.items():
        one = placed[key]
        if (one.hands_off_s - one.begins_s, one.ends_s - one.hands_off_s) != (step.attended_s, step.alone_s):
            found.append(f"{key} is cut or stretched")
        if step.begins_s is not None and one.begins_s != step.begins_s:
            found.append(f"{key} was moved")
        if step.is_under_way:
            continue
        if one.begins_s < step.earliest_s:
            found.append(f"{key} is too early")
        for wait in step.after:
            gap_s = one.begins_s - placed[wait.key].ends_s
            if gap_s < wait.at_least_s or (wait.at_most_s is not None and gap_s > wait.at_most_s):
                found.append(f"{key} waits {gap_s} s for {wait.key}")
        if step.attended_s:
            worker = next((worker for worker in work.people if worker.key == one.person), None)
            if worker is None or step.person not in {None, one.person}:
                found.append(f"{key} is done by {one.person}")
            elif not any(begin <= one.begins_s and one.hands_off_s <= end for begin, end in worker.windows):
                found.append(f"{key} is outside working hours")
    return found + _doubles(work, plan)


def _doubles(work: Work, plan: SchedulePlan) -> list[str]:
    steps, found = work.by_key(), []
    for moment in {one.begins_s for one in plan.placed} | {begin for one in work.things for begin, _ in one.away}:
        at_work = [one for one in plan.placed if _holds(one.begins_s, one.hands_off_s, moment)]
        people = [one.person for one in at_work if one.person is not None]
        if len(set(people)) < len(people):
            found.append(f"somebody does two things at {moment}")
        for thing in work.things:
            taken = sum(steps[one.key].uses.count(thing.key) for one in _running(plan, moment))
            taken += sum(_holds(begin, end, moment) for begin, end in thing.away)
            if taken > thing.count:
                found.append(f"{taken} of {thing.key} are taken at {moment}")
    return found


def _running(plan: SchedulePlan, moment: int) -> list[PlacedStep]:
    return [one for one in plan.placed if _holds(one.begins_s, one.ends_s, moment)]


def _holds(begin: int, end: int, moment: int) -> bool:
    return begin <= moment < end
