import getpass
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils.translation import gettext as _

from lynxwort.web.garages.models import User
from lynxwort.web.garages.services import add_user


class Command(BaseCommand):
    help = "Add a person with a garage of their own; the password is asked."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")
        parser.add_argument("--garage", default="")

    def handle(self, *, username: str, garage: str, **options: Any) -> None:
        if User.objects.filter(username=username).exists():
            raise CommandError(_("This name is taken."))
        password = getpass.getpass(f"{_('Password')}: ")
        try:
            validate_password(password)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        add_user(username, password, garage)
        self.stdout.write(_("%(name)s may come in") % {"name": username})
