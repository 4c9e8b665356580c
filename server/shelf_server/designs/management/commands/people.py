"""`./shelf people`: who may sign in, and what they may do to which design."""

import getpass
import sys
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from shelf_server.designs import people


class Command(BaseCommand):
    """Add people, set passwords, give and take roles."""

    help = __doc__
    # They look through all addresses, which loads all that could be asked; the tests do that.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """What is to be done, and to whom."""
        does = parser.add_subparsers(dest="does", required=True, metavar="WHAT")
        does.add_parser("list", help="everybody, with their roles")
        for name, words in (
            ("add", "somebody new"),
            ("password", "another password; sessions and tokens end with the old one"),
        ):
            one = does.add_parser(name, help=words)
            one.add_argument("name")
            one.add_argument("--password-stdin", action="store_true", help="read the password from standard input")
        give = does.add_parser("give", help="a role in a design: viewer, editor or owner")
        take = does.add_parser("take", help="the role in a design away")
        for one in (give, take):
            one.add_argument("name")
            one.add_argument("design", type=int, help="the number of the design, as its address has it")
        give.add_argument("role")

    def handle(self, *_args: Any, **options: Any) -> None:
        """Do it, or say in a line why not."""
        executor = MigrationExecutor(connection)
        if executor.migration_plan(executor.loader.graph.leaf_nodes()):
            call_command("migrate", interactive=False, verbosity=0)
        try:
            self._do(options)
        except ValueError as error:
            raise CommandError(str(error)) from None

    def _do(self, options: dict[str, Any]) -> None:
        match options["does"]:
            case "list":
                for line in people.roles():
                    self.stdout.write("\t".join(map(str, line)))
            case "add":
                people.add_person(options["name"], _password(stdin=options["password_stdin"]))
            case "password":
                people.set_password(options["name"], _password(stdin=options["password_stdin"]))
            case "give":
                people.give_role(options["name"], options["design"], options["role"])
            case "take":
                people.take_role(options["name"], options["design"])


def _password(*, stdin: bool) -> str:
    if stdin:
        return sys.stdin.readline().rstrip("\n")
    first = getpass.getpass("Password: ")
    if getpass.getpass("Again: ") != first:
        raise ValueError("expected the same password twice, got two")
    return first
