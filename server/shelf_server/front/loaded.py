"""Loaded once by the process that forks: each worker then begins with the application in its memory, ready to answer."""

import gc

from django.db import connections

import shelf_server.wsgi
from shelf_server.front.request import Request, answer_of

application = shelf_server.wsgi.application
# The first request makes addresses, schemas and validators; this one asks no database.
_ASK = {
    "REQUEST_METHOD": "GET",
    "PATH_INFO": "/api/schemas/design",
    "SERVER_NAME": "127.0.0.1",
    "SERVER_PORT": "80",
    "wsgi.url_scheme": "http",
}
answer_of(application, Request(_ASK, b""))
# A connection that is open when a process forks would give each of the two the answers to the other's questions.
connections.close_all()
# What is there now is for good: looking through it would only copy the memory that all share.
gc.freeze()
gc.enable()
