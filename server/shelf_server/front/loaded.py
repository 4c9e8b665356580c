"""Loaded once by the process that forks: each worker then begins with the application in its memory."""

import shelf_server.wsgi

application = shelf_server.wsgi.application
