"""`manual`: a manual page of all commands, made from the commands themselves."""

from argparse import ArgumentParser, Namespace

from argparse_manpage.manpage import Manpage

from shelf_core.commands.whole import whole_parser


def arguments(parser: ArgumentParser) -> None:
    """Nothing more is asked."""
    parser.set_defaults()


def run(_chosen: Namespace) -> int:
    """Print the page, as `man` reads it."""
    print(Manpage(whole_parser()))
    return 0
