"""What all tests share."""

import os

from hypothesis import settings

settings.register_profile("shelf", deadline=None, print_blob=True)
settings.load_profile("shelf")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shelf_server.settings")
