"""Links: every address of Ufrin's pages comes from this one object, which all templates receive."""

from collections.abc import Mapping
from urllib.parse import urlencode

from ufrin.web.frame.people_links import PeopleLinks


class Links(PeopleLinks):
    """The addresses."""

    new_job = "/jobs"
    moulds = "/moulds"
    new_mould = "/moulds/new"
    worn_moulds = "/moulds/near-end"
    orders = "/orders"
    plan = "/plan"
    shop_people = "/plan/shop"
    day_list = "/plan/today.pdf"
    clocks = "/clocks"
    all_clocks = "/clocks?all=1"
    shelf = "/shelf/rubbers"
    lots = "/shelf/lots"
    allowance = "/allowance"
    pairings = "/pairings"
    words = "/words"
    sums = "/sums"
    search = "/search"
    settings = "/settings"
    language = "/language"
    example = "/example"
    end_example = "/example/end"
    api_docs = "/api/docs"
    openapi = "/api/openapi.json"

    practices = "/practice"

    @staticmethod
    def practice(number: int, what: str = "") -> str:
        """Return the address of a practice, or of something of it.

        Parameters
        ----------
        number : int
            Of the practice.
        what : str
            "now", "enter", "act" or "stream".

        Returns
        -------
        str
            The address.
        """
        return f"/practice/{number}/{what}" if what else f"/practice/{number}"

    @staticmethod
    def board(search: str = "", page: int = 1, put_away: bool = False) -> str:
        """Return the address of the Board, with its filters.

        Parameters
        ----------
        search : str
            Part of a name.
        page : int
            From 1.
        put_away : bool
            The jobs off the Board.

        Returns
        -------
        str
            The address.
        """
        query = {
            key: value
            for key, value in (
                ("search", search),
                ("page", page if page > 1 else ""),
                ("away", "1" if put_away else ""),
            )
            if value
        }
        return "/?" + urlencode(query) if query else "/"

    @staticmethod
    def day_plan(days: int = 3, step: str = "") -> str:
        """Return the address of the plan.

        Parameters
        ----------
        days : int
            How many are drawn.
        step : str
            Key of the step whose form is open.

        Returns
        -------
        str
            The address.
        """
        query = {key: value for key, value in (("days", days if days != 3 else ""), ("step", step)) if value}  # noqa: PLR2004
        return "/plan?" + urlencode(query) if query else "/plan"

    @staticmethod
    def calendar(secret: str) -> str:
        """Return the address of a calendar.

        Parameters
        ----------
        secret : str
            That opens it.

        Returns
        -------
        str
            The address.
        """
        return f"/calendar/{secret}.ics"

    @staticmethod
    def job(job_id: int, station: str = "master") -> str:
        """Return the address of a job's station.

        "sheet", "sheet.pdf", "mesh", "ways", "use", "cut.dxf" and the like follow the job's number as well.

        Parameters
        ----------
        job_id : int
            The job's number.
        station : str
            The page or file of the job.

        Returns
        -------
        str
            The address.
        """
        return f"/jobs/{job_id}/{station}"

    @staticmethod
    def mould(number: int, what: str = "") -> str:
        """Return the address of a mould's card, or of a page or file below it.

        Parameters
        ----------
        number : int
            Of the mould.
        what : str
            "run", "signs", "care", "retire", "card.pdf", "label.pdf".

        Returns
        -------
        str
            The address.
        """
        return f"/moulds/{number}" + (f"/{what}" if what else "")

    @staticmethod
    def order(number: int, what: str) -> str:
        """Return the address of what can be done with an order.

        Parameters
        ----------
        number : int
            Of the order.
        what : str
            "close".

        Returns
        -------
        str
            The address.
        """
        return f"/orders/{number}/{what}"

    @staticmethod
    def pairing(pour: str = "", touches: str = "", between: str = "", rubber: str = "") -> str:
        """Return the address of the pairings, with one of them looked up.

        Parameters
        ----------
        pour, touches, between, rubber : str
            What is poured, what it touches, what lies between, and the rubber's name on the Shelf.

        Returns
        -------
        str
            The address.
        """
        query = {
            key: value
            for key, value in (("pour", pour), ("touches", touches), ("between", between), ("rubber", rubber))
            if value
        }
        return "/pairings?" + urlencode(query) if query else "/pairings"

    @staticmethod
    def word(anchor: str) -> str:
        """Return the address of a word on the list of words.

        Parameters
        ----------
        anchor : str
            Of the word.

        Returns
        -------
        str
            The address.
        """
        return f"/words#{anchor}"

    @staticmethod
    def sum(key: str, typed: Mapping[str, str] | None = None) -> str:
        """Return the address of a quick sum, with what was typed.

        Parameters
        ----------
        key : str
            Of the sum.
        typed : mapping of input to text
            What was filled in.

        Returns
        -------
        str
            The address.
        """
        return f"/sums/{key}" + ("?" + urlencode(typed) if typed else "")

    @staticmethod
    def undo(job_id: int, station: str) -> str:
        """Return the address that takes a station's last change back.

        Parameters
        ----------
        job_id : int
            The job's number.
        station : str
            The station.

        Returns
        -------
        str
            The address.
        """
        return f"/jobs/{job_id}/{station}/undo"

    @staticmethod
    def things(kind: str, what: str = "") -> str:
        """Return the address of a board of the Shelf, or of what can be done with it.

        Parameters
        ----------
        kind : str
            "rubbers", "additives", "cups", "containers", "scales" or "lots".
        what : str
            "csv" to read a file in, "file.csv" for one.

        Returns
        -------
        str
            The address.
        """
        return f"/shelf/{kind}" + (f"/{what}" if what else "")

    @staticmethod
    def new_thing(kind: str) -> str:
        """Return the address of the form for a new thing on the Shelf.

        Parameters
        ----------
        kind : str
            Its kind.

        Returns
        -------
        str
            The address.
        """
        return f"/shelf/{kind}/new"

    @staticmethod
    def pour(number: int, what: str = "") -> str:
        """Return the address of a pour's bench, or of a page below it.

        Parameters
        ----------
        number : int
            Of the pour.
        what : str
            "record", "enter", "stream" and the like.

        Returns
        -------
        str
            The address.
        """
        return f"/pours/{number}" + (f"/{what}" if what else "")

    @staticmethod
    def scale(number: int, what: str = "") -> str:
        """Return the address of a scale's readings.

        Parameters
        ----------
        number : int
            Of the scale on the Shelf.
        what : str
            "stream" or "tare".

        Returns
        -------
        str
            The address.
        """
        return f"/scales/{number}/{what}"

    @staticmethod
    def thing(kind: str, number: int, what: str = "") -> str:
        """Return the address of a thing on the Shelf, or of what can be done with it.

        Parameters
        ----------
        kind : str
            Its kind.
        number : int
            Its number.
        what : str
            "retire", "offer", "delete", "lots", "coupons".

        Returns
        -------
        str
            The address.
        """
        return f"/shelf/{kind}/{number}" + (f"/{what}" if what else "")

    @staticmethod
    def static(name: str) -> str:
        """Return the address of a shipped file.

        Parameters
        ----------
        name : str
            Below ``static/``.

        Returns
        -------
        str
            The address.
        """
        return f"/static/{name}"
