"""The simulated scales as a program of their own."""

import argparse

from ufrin.devices import scale_program
from ufrin.settings import THERMOMETER_BESIDE


def main() -> None:
    """Run the simulated scales until stopped."""
    parser = argparse.ArgumentParser(prog="./run scale")
    parser.add_argument("--port", type=int, default=scale_program.PORT, help="of the first scale; the others follow")
    parser.add_argument(
        "--lever-port", type=int, default=scale_program.LEVER_PORT, help="of the page with the lever that pours"
    )
    parser.add_argument("--scales", type=int, default=2, choices=range(1, 41), metavar="N", help="how many")
    parser.add_argument("--thermometer", action="store_true", help="a simulated thermometer beside them")
    parser.add_argument("--with-server", action="store_true", help=argparse.SUPPRESS)
    arguments = parser.parse_args()
    scale_program.run(
        arguments.port,
        arguments.lever_port,
        number=arguments.scales,
        thermometer_port=arguments.port + THERMOMETER_BESIDE if arguments.thermometer else 0,
        with_server=arguments.with_server,
    )


if __name__ == "__main__":
    main()
