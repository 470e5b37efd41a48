"""The spot test: a spoonful of the mix on a hidden place, left for the whole cure."""

from ufrin.core.pairing.contacts import JudgedContact
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.language import Text

SPOT_TEST_WORK_MIN = 10.0  # our estimate of the work alone


def needs_spot_test(pair: JudgedContact) -> bool:
    """Return whether a spot is tested before the tin is risked: nobody knows how the two get on, or a coat must hold.

    Parameters
    ----------
    pair : JudgedContact
        Judged with what lies between.

    Returns
    -------
    bool
        False once the workshop has a test of its own.
    """
    if pair.ruling.own is not None:
        return False
    kept_back = pair.bare.verdict in {"may-not-set", "will-not-set"} and pair.ruling.verdict == "fine"
    return not pair.ruling.known or pair.ruling.verdict == "may-not-set" or kept_back


def spot_test(pair: JudgedContact, test_min: float) -> PrepStep:
    """Return the step that tests a spot.

    Parameters
    ----------
    pair : JudgedContact
        What is poured, on what.
    test_min : float
        How long the spot is left: until the rubber may be demoulded.

    Returns
    -------
    PrepStep
        With every coat that lies between.
    """
    over = Text(" over {between_words}", between_words=pair.between_words) if pair.layers else ""
    do = Text(
        "Test a spot: a spoonful of {pour_kind} on a hidden place of {touches_name}{over}; it must set as in its cup",
        pour_kind=pair.pour_kind,
        touches_name=pair.contact.touches_name,
        over=over,
    )
    return PrepStep(
        phase=pair.contact.phase,
        do=do,
        before_min=test_min + SPOT_TEST_WORK_MIN,
        work_min=SPOT_TEST_WORK_MIN,
        dry_min=test_min,
        pairs=(pair.contact.key,),
    )
