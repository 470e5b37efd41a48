"""Starts a server afresh at each line on standard input, in a process of its own that can be killed.

The libraries are loaded once, before, and the templates compiled; those for meshes are not loaded again beside each
server, where no test uploads one.
"""

import multiprocessing
import os
import sys

import uvicorn

from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app
from ufrin.web.frame.pages import environment


def main(conninfo: str, port: int) -> None:
    multiprocessing.get_context("forkserver").set_forkserver_preload([])
    for name in environment.list_templates(extensions=["html"]):
        environment.get_template(name)
    print("ready", flush=True)
    for _ in sys.stdin:
        child = os.fork()
        if child == 0:
            os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
            app = create_app(Database(conninfo, wait_s=5.0), Settings(sign_in=False))
            uvicorn.run(app, host="127.0.0.1", port=port, log_config=None, access_log=False)
            os._exit(0)
        print(child, flush=True)
        os.waitpid(child, 0)


if __name__ == "__main__":
    main(sys.argv[1], int(sys.argv[2]))
