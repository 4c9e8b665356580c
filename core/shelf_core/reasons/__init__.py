"""Why a forecast is what it is: the sum behind a number, and what single rules are worth."""
