"""Making something once, however often a script asks because it did not hear the answer."""

from collections.abc import Callable
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from shelf_server.designs.access import Person, person_id
from shelf_server.designs.models import Design, Remembered

KEPT_FOR = timedelta(days=2)


class KeyUsedOtherwise(Exception):
    """The key came before with another request."""


@transaction.atomic
def made_once(user: Person, key: str | None, digest: str, make: Callable[[], Design]) -> Design:
    """The design that is made, or the one that was made when the same key came with the same request.

    `digest` stands for the request. Two requests at once wait for each other. Raises KeyUsedOtherwise.
    """
    if key is None:
        return make()
    Remembered.objects.filter(created__lt=timezone.now() - KEPT_FOR).delete()
    found, is_new = Remembered.objects.get_or_create(user_id=person_id(user), key=key, defaults={"digest": digest})
    if found.digest != digest:
        raise KeyUsedOtherwise
    if not is_new and found.design is not None:
        return found.design
    found.design = make()
    found.save(update_fields=["design"])
    return found.design
