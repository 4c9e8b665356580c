"""Where requests go: the API, and for everything else the one page of the front end."""

from django.urls import path, re_path

from shelf_server.api.api import api
from shelf_server.page import page

urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/).*$", page),
]
