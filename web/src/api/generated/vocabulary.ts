/** Written by ./shelf schema-types from the core. */
export const VOCABULARY = {
  "picks": {
    "first": "first",
    "last": "last"
  },
  "periods": {
    "hour": "hour",
    "day": "day",
    "week": "week",
    "month": "month",
    "quarter": "quarter",
    "year": "year"
  },
  "weekdays": {
    "MO": "Monday",
    "TU": "Tuesday",
    "WE": "Wednesday",
    "TH": "Thursday",
    "FR": "Friday",
    "SA": "Saturday",
    "SU": "Sunday"
  },
  "days_of_week": {
    "MO": "from Monday on",
    "TU": "from Tuesday on",
    "WE": "from Wednesday on",
    "TH": "from Thursday on",
    "FR": "from Friday on",
    "SA": "from Saturday on",
    "SU": "from Sunday on"
  },
  "days_of_month": {
    "1SU": "from the first Sunday on",
    "1SA": "from the first Saturday on",
    "15": "from the 15th on",
    "-1FR": "from the last Friday on",
    "31": "on its last day"
  },
  "months": [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December"
  ],
  "separators": {
    "space": "\u202f",
    "comma": ",",
    "apostrophe": "\u2019",
    "none": ""
  },
  "part_inks": [
    "#704F7B",
    "#CDB894",
    "#3C5C78",
    "#B79FBE",
    "#2F5452",
    "#DBA79C",
    "#8C8578",
    "#9DB3C4",
    "#7A4A2E",
    "#A9B97E",
    "#4A4458",
    "#E0C7DD"
  ],
  "reclaims": {
    "FREQ=DAILY": "every day",
    "FREQ=WEEKLY;BYDAY=MO": "every Monday",
    "FREQ=WEEKLY;BYDAY=TU": "every Tuesday",
    "FREQ=WEEKLY;BYDAY=WE": "every Wednesday",
    "FREQ=WEEKLY;BYDAY=TH": "every Thursday",
    "FREQ=WEEKLY;BYDAY=FR": "every Friday",
    "FREQ=WEEKLY;BYDAY=SA": "every Saturday",
    "FREQ=WEEKLY;BYDAY=SU": "every Sunday"
  },
  "kinds": {
    "full": "full",
    "synthetic": "synthetic full",
    "differential": "differential",
    "incremental": "incremental",
    "snapshot": "snapshot",
    "log": "log"
  },
  "durations": {
    "minute": {
      "name": "minutes",
      "before": "PT",
      "after": "M"
    },
    "hour": {
      "name": "hours",
      "before": "PT",
      "after": "H"
    },
    "day": {
      "name": "days",
      "before": "P",
      "after": "D"
    },
    "week": {
      "name": "weeks",
      "before": "P",
      "after": "W"
    },
    "month": {
      "name": "months",
      "before": "P",
      "after": "M"
    },
    "year": {
      "name": "years",
      "before": "P",
      "after": "Y"
    }
  },
  "asks": {
    "rpo": {
      "name": "the newest point is never older than",
      "ask": {
        "rpo": "P1DT12H"
      }
    },
    "history": {
      "name": "there is a point",
      "ask": {
        "history": "P1Y",
        "every": "month"
      }
    },
    "copies": {
      "name": "there are",
      "ask": {
        "copies": 3,
        "media": 2,
        "off_site": 1,
        "fresh": "P8D"
      }
    },
    "gone_after": {
      "name": "nothing is left after",
      "ask": {
        "gone_after": "P3Y"
      }
    },
    "stands-rpo": {
      "name": "it stands",
      "ask": {
        "rpo": "P2D"
      }
    },
    "stands-rto": {
      "name": "it comes back after",
      "ask": {
        "rto": "PT8H"
      }
    },
    "rehearsed": {
      "name": "a recovery was rehearsed within",
      "ask": {
        "rehearsed": "P6M"
      }
    }
  },
  "every_period": {
    "hour": "of each hour",
    "day": "of each day",
    "week": "of each week",
    "month": "of each month",
    "quarter": "of each quarter",
    "year": "of each year"
  },
  "no_time": "PT0S",
  "hours": [
    "00:00",
    "01:00",
    "02:00",
    "03:00",
    "04:00",
    "05:00",
    "06:00",
    "07:00",
    "08:00",
    "09:00",
    "10:00",
    "11:00",
    "12:00",
    "13:00",
    "14:00",
    "15:00",
    "16:00",
    "17:00",
    "18:00",
    "19:00",
    "20:00",
    "21:00",
    "22:00",
    "23:00"
  ],
  "first": {
    "logs": "P7D",
    "lock": "P30D",
    "delay": "PT0H",
    "returns_after": "P0D",
    "count": 4,
    "weekday": "SA",
    "weekly_set": "FR",
    "rrule": "FREQ=DAILY",
    "prices": {
      "capacity_tb_month": 0.0,
      "requests_thousand": 0.0,
      "part_size": "16 MiB",
      "retrieval_tb": 0.0,
      "traffic_tb": 0.0,
      "cartridge": 0.0,
      "cartridge_month": 0.0
    },
    "line_speed": "1 Gbit/s",
    "window": {
      "opens": "22:00",
      "closes": "06:00"
    },
    "limit": {
      "from": "08:00",
      "to": "18:00"
    },
    "spread": "PT1H",
    "ask": {
      "rpo": "P1DT12H"
    },
    "plan_ready": "PT2H",
    "distance": "P1D",
    "group": {
      "workloads": {
        "ids": [],
        "tags": []
      },
      "then": null
    }
  },
  "glossary": {
    "ladder": "how long points stay: a recent part and rungs",
    "rung": "in each period of its kind a point is picked, and the picks stay",
    "recent": "the part of a ladder that keeps the newest points, by number or for a time",
    "cadence": "when points are taken: a set of runs",
    "run": "one recurrence of a cadence: what kind of point, and when",
    "route": "workloads, and the copies made of them",
    "copy": "one stop of a route: a target, what it takes and when, how long it keeps it",
    "step-down": "a move of older points of a copy to a colder target",
    "hold": "points of a stretch of time that stay until they are released",
    "floor": "the least number of points that a ladder leaves",
    "lock": "a time in which nobody, or only somebody with special rights, can delete a point",
    "sweep": "when points that nothing keeps any more are deleted",
    "as-of date": "the day at the end of which figures are shown",
    "reference": "the state of a design from which changes are measured",
    "finding": "something that is not as an architect would want it, with a way out",
    "duty": "what a law, a contract or a house asks of workloads; each thing is an ask",
    "loss case": "what is lost at once, and since when what was taken is bad",
    "recovery plan": "groups of workloads that are restored one after another at a place",
    "night": "the time from local noon to local noon, with all that is asked for in it",
    "window": "when the transfers of a copy may start",
    "spine": "a point, or several in a row, as drawn on a shelf",
    "shelf": "a target as it is drawn, with all points that are there",
    "unknown": "low and high values of what is not known of some workloads",
    "opening stock": "points that are there when the design starts",
    "packing": "how points lie: each a file of its own, or blocks that are shared",
    "claim": "a reason for keeping a point: a rung, the recent part, a hold, the floor",
    "pick": "the point that a rung chooses of a period",
    "replica": "snapshots copied to snapshot space at another site, where they stay snapshots and are a copy of the data"
  },
  "shelf": {
    "youngest_days": 0.25,
    "oldest_days": 10957.275,
    "ticks": [
      {
        "days": 1,
        "name": "a day"
      },
      {
        "days": 7,
        "name": "a week"
      },
      {
        "days": 30.44,
        "name": "a month"
      },
      {
        "days": 365.24,
        "name": "a year"
      },
      {
        "days": 3652.43,
        "name": "10 years"
      }
    ]
  },
  "ladder": {
    "ticks": [
      {
        "days": 1,
        "name": "a day"
      },
      {
        "days": 7,
        "name": "a week"
      },
      {
        "days": 30.44,
        "name": "a month"
      },
      {
        "days": 91.31,
        "name": "a quarter"
      },
      {
        "days": 365.24,
        "name": "a year"
      },
      {
        "days": 1826.21,
        "name": "5 years"
      },
      {
        "days": 7304.85,
        "name": "20 years"
      },
      {
        "days": 36524.25,
        "name": "100 years"
      }
    ]
  }
} as const;
