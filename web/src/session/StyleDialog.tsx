import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "../api/keys";
import { useDesign } from "../design/context";
import { isUnderWay } from "../design/editing";
import { Choice } from "../shared/Choice";
import { Line } from "../shared/Line";
import { chooseStyle, type Style } from "../shared/style";
import { usePreferences } from "./usePreferences";

const DIGITS: Record<Style["digits"], string> = {
  space: "a narrow space: 1\u202f234\u202f567",
  comma: "a comma: 1,234,567",
  apostrophe: "an apostrophe: 1’234’567",
  none: "nothing: 1234567",
};
const DATES: Record<Style["dates"], string> = { words: "in words: 31 December 2028", iso: "as 2028-12-31" };

/** How figures are written for the person, wherever the page or the server writes them. */
export function StyleDialog({ onClose }: { onClose: () => void }) {
  const { kept, put } = usePreferences();
  const { saveState } = useDesign();
  const [style, setStyle] = useState(kept.style);
  const queries = useQueryClient();
  const keep = () => {
    put({ style });
    chooseStyle(style);
    // What was fetched has its sentences as they were written then.
    queries.removeQueries({
      predicate: ({ queryKey }) => ![keys.session, keys.preferences].some((key) => key[0] === queryKey[0]),
    });
    queries.setQueryData(keys.session, (session: object | undefined) => ({ ...session, style }));
    onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="style-title">
      <DialogTitle id="style-title">Numbers and dates</DialogTitle>
      <DialogContent>
        <Line>
          Between thousands stands
          <Choice
            label="Between thousands"
            value={style.digits}
            options={DIGITS}
            disabled={false}
            onChange={(digits) => setStyle({ ...style, digits })}
          />
        </Line>
        <Line>
          Dates are written
          <Choice
            label="How dates are written"
            value={style.dates}
            options={DATES}
            disabled={false}
            onChange={(dates) => setStyle({ ...style, dates })}
          />
        </Line>
        <Typography color="textSecondary" sx={{ mt: 1, maxWidth: 460 }}>
          A point stands before decimals, as where numbers are typed. Fields and tables have dates as
          2028-12-31, so that they can be sorted. Files for others are written as at first.
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={isUnderWay(saveState)} onClick={keep}>
          Save
        </Button>
      </DialogActions>
    </Dialog>
  );
}
