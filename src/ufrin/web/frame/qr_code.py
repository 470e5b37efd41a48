"""QR codes, drawn for a page or for paper."""

import segno


def qr_code(text: str) -> str:
    """Return a QR code as SVG.

    Parameters
    ----------
    text : str
        What it says, such as an address.

    Returns
    -------
    str
        To be put into a page as it is.
    """
    # medium correction: a label on a mould gets scratched, and a screen has reflections
    made = segno.make(text, error="m", micro=False)
    return made.svg_inline(border=2, omitsize=True, svgclass="qr", lineclass=None)
