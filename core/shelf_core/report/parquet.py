"""Every day of every target as Parquet (Apache Parquet format, written by pyarrow)."""

from typing import BinaryIO

import numpy as np
import pyarrow as pa
import pyarrow.parquet as pq

from shelf_core.formats.digest import digest
from shelf_core.report.asked import Asked


def write_parquet(asked: Asked, out: BinaryIO) -> None:
    """One row per target and day: date, target, points, stored_bytes, peak_bytes, room_bytes (null without a capacity).

    The file's own notes hold the design's name and digest.
    """
    result = asked.result
    days = result.frame.days
    dates = (np.arange(days) + result.frame.first_day).astype("datetime64[D]")
    batches = []
    for one in result.targets:
        room = pa.nulls(days, pa.float64()) if one.room_bytes is None else pa.array(one.room_bytes)
        columns = {
            "date": pa.array(dates),
            "target": pa.array([one.target.id] * days).dictionary_encode(),
            "points": pa.array(one.totals.points),
            "stored_bytes": pa.array(one.totals.stored_bytes),
            "peak_bytes": pa.array(one.totals.peak_bytes),
            "room_bytes": room,
        }
        batches.append(pa.table(columns))
    notes = {"design": result.design.name, "digest": digest(result.document), "made_on": asked.today}
    schema = [("date", pa.date32()), ("points", pa.int64())]
    empty = pa.table({name: pa.array([], kind) for name, kind in schema})
    whole = pa.concat_tables(batches).unify_dictionaries() if batches else empty
    pq.write_table(whole.replace_schema_metadata(notes), out, compression="zstd")
