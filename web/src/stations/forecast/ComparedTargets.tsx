import { Box, Typography } from "@mui/material";
import type { ComparisonOut } from "../../api/types";
import { bytesText, countText, moneyText, writtenDate } from "../../shared/format";

type Target = ComparisonOut["comparison"]["targets"][number];
type Pair = readonly [string, string];

const NONE = "not there";

/** All targets of both designs: what each holds at the date, when it is full, and what it costs, the other's first. */
export function ComparedTargets({ found }: { found: ComparisonOut }) {
  const { comparison, this: now, other } = found;
  return (
    <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Targets of both">
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          "& th, & td": { px: 1.25, py: 0.5, textAlign: "right", borderTop: 1, borderColor: "divider" },
          "& th:first-of-type": { textAlign: "left" },
        }}
      >
        <thead>
          <tr>
            {[
              "Target",
              "Points",
              "Stored",
              "Peak of all years",
              "Full on",
              "The month",
              "Lost",
              "Gained",
            ].map((name) => (
              <Typography key={name} component="th" scope="col" color="textSecondary">
                {name}
              </Typography>
            ))}
          </tr>
        </thead>
        <tbody>
          {comparison.targets.map((one) => (
            <TargetRow key={one.target} one={one} currencies={[other.currency, now.currency]} />
          ))}
        </tbody>
      </Box>
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
        In each pair the other design stands first. Lost are moments that could be restored from this target
        there and cannot here.
      </Typography>
    </Box>
  );
}

function TargetRow({ one, currencies }: { one: Target; currencies: Pair }) {
  const at = one.dates[0];
  if (!at) return null;
  const sides = (say: (side: NonNullable<Target["sides"][number]>) => string): Pair => [
    one.sides[0] ? say(one.sides[0]) : NONE,
    one.sides[1] ? say(one.sides[1]) : NONE,
  ];
  const both = <T,>(pair: readonly [T | null, T | null], say: (value: T, place: 0 | 1) => string): Pair => [
    pair[0] === null ? NONE : say(pair[0], 0),
    pair[1] === null ? NONE : say(pair[1], 1),
  ];
  return (
    <tr>
      <Typography component="th" scope="row">
        {one.name}
      </Typography>
      <Both pair={both(at.points, countText)} />
      <Both pair={both(at.stored_bytes, bytesText)} />
      <Both pair={sides((side) => bytesText(side.peak_bytes))} />
      <Both pair={sides((side) => (side.full_on ? writtenDate(side.full_on) : "not full"))} />
      <Both pair={both(at.cost_month, (amount, place) => moneyText(amount, currencies[place]))} />
      <td>{countText(at.lost_moments)}</td>
      <td>{countText(at.gained_moments)}</td>
    </tr>
  );
}

/** What both have, once where it is the same. */
function Both({ pair }: { pair: Pair }) {
  const [before, now] = pair;
  if (before === now) return <Typography component="td">{now}</Typography>;
  return (
    <Typography component="td" sx={{ whiteSpace: "nowrap" }}>
      <Typography component="span" color="textSecondary">
        {before} →{" "}
      </Typography>
      <b>{now}</b>
    </Typography>
  );
}
