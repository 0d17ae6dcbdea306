"""The command line: arguments in, lines of text out; what is done is done in ``services``."""

from mortiser.cli.commands import main

__all__ = ["main"]
