"""What all tests share."""

import os

from hypothesis import Phase, settings

settings.register_profile("shelf", deadline=None, print_blob=True)
settings.register_profile("without-shrinking", parent=settings.get_profile("shelf"), phases=[Phase.explicit, Phase.generate])
settings.load_profile("shelf")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shelf_server.settings")
