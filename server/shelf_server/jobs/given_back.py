"""How a worker that is to end leaves what it has not done."""


class GivenBack(Exception):
    """The worker is to end: what it has not done is taken up by another one."""
