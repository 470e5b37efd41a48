"""Addresses of the pages for people, devices and safekeeping."""

from urllib.parse import urlencode


class PeopleLinks:
    """The addresses."""

    sign_in = "/sign-in"
    sign_out = "/sign-out"
    first_owner = "/first-owner"
    me = "/me"
    accounts = "/people"
    changes = "/changes"
    devices = "/devices"
    certificate = "/devices/certificate.crt"
    bench = "/bench"
    device_code = "/devices/code"
    scripts = "/devices/scripts"
    safekeeping = "/safekeeping"
    back_up = "/safekeeping/backup"
    bring_in = "/bring-in"
    everything = "/everything.zip"
    who_stands = "/bench/who"
    my_password = "/me/password"  # noqa: S105 - an address

    @staticmethod
    def backup(number: int) -> str:
        """Return the address of a backup's file.

        Parameters
        ----------
        number : int
            Of the backup.

        Returns
        -------
        str
            The address.
        """
        return f"/safekeeping/{number}.zip"

    @staticmethod
    def incoming(number: int) -> str:
        """Return the address of a parcel that waits to be brought in.

        Parameters
        ----------
        number : int
            Of the parcel.

        Returns
        -------
        str
            The address.
        """
        return f"/bring-in/{number}"

    @staticmethod
    def shared(secret: str) -> str:
        """Return the address of a sheet that was shared.

        Parameters
        ----------
        secret : str
            That opens it.

        Returns
        -------
        str
            The address.
        """
        return f"/shared/{secret}"

    @staticmethod
    def throw_out(number: int) -> str:
        """Return the address that throws a device out.

        Parameters
        ----------
        number : int
            Of the device.

        Returns
        -------
        str
            The address.
        """
        return f"/devices/{number}/out"

    @staticmethod
    def joined(code: str) -> str:
        """Return the address that tells whether a tablet has joined with a code.

        Parameters
        ----------
        code : str
            That works once.

        Returns
        -------
        str
            The address.
        """
        return f"/devices/joined/{code}"

    @staticmethod
    def sign_in_then(then: str) -> str:
        """Return the address at which somebody signs in and goes on.

        Parameters
        ----------
        then : str
            Where.

        Returns
        -------
        str
            The address.
        """
        return f"{PeopleLinks.sign_in}?{urlencode({'then': then})}" if then != "/" else PeopleLinks.sign_in

    @staticmethod
    def account(number: int, what: str) -> str:
        """Return the address of what can be done with an account.

        Parameters
        ----------
        number : int
            Of the account.
        what : str
            "role", "code", "end" or "back".

        Returns
        -------
        str
            The address.
        """
        return f"/people/{number}/{what}"

    @staticmethod
    def choose_password(code: str) -> str:
        """Return the address at which somebody chooses a password.

        Parameters
        ----------
        code : str
            That works once.

        Returns
        -------
        str
            The address.
        """
        return f"/password/{code}"

    @staticmethod
    def join(code: str = "") -> str:
        """Return the address at which a tablet joins.

        Parameters
        ----------
        code : str
            That works once.

        Returns
        -------
        str
            The address.
        """
        return "/join?" + urlencode({"code": code}) if code else "/join"

    @staticmethod
    def changes_of(doer: str, before: int | None = None) -> str:
        """Return the address of who did what.

        Parameters
        ----------
        doer : str
            One person; empty for all.
        before : int or None
            The number from which the page goes on.

        Returns
        -------
        str
            The address.
        """
        query = {key: value for key, value in (("doer", doer), ("before", before)) if value}
        return "/changes?" + urlencode(query) if query else "/changes"
