"""Shipped files: styles, scripts, fonts and icons with their licences; nothing else that lies beside them."""

from pathlib import PurePosixPath

from starlette.exceptions import HTTPException
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

SERVED = frozenset({".css", ".js", ".woff2", ".svg", ".png", ".ico"})
LICENCES = "LICENSE"


class ShippedFiles(StaticFiles):
    """Serves what a page needs, by its ending."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """Answer a request for a file.

        Parameters
        ----------
        path : str
            Below the folder.
        scope : Scope
            Of the request.

        Returns
        -------
        Response
            The file.

        Raises
        ------
        HTTPException
            404 for anything that is not served.
        """
        file = PurePosixPath(path)
        if file.suffix not in SERVED and file.name != LICENCES:
            raise HTTPException(404)
        return await super().get_response(path, scope)
