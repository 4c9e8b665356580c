import { Box, Link, Stack, Typography } from "@mui/material";
import { NavLink } from "react-router";
import type { DutyNow } from "../api/types";
import { useDesign, useShownFigures } from "../design/context";
import { useVerdicts } from "../design/useVerdicts";
import { countText } from "../shared/format";

/** Which duties hold beside what the targets come to: those that fail, and those of which an edit made something else. */
export function DutyVerdicts() {
  const { design } = useDesign();
  const saved = useVerdicts();
  const tried = useShownFigures().duties;
  const data = tried ?? saved.data;
  if ((design.document.duties ?? []).length === 0) return null;
  const shown = (data?.duties ?? []).filter(
    (one) => one.now.first_failed !== null || one.change !== "" || !one.now.is_judged,
  );
  return (
    <Box
      component="section"
      aria-label="Duties"
      sx={{ px: 2, pb: 0.5, borderTop: 1, borderColor: "divider" }}
    >
      <Stack direction="row" sx={{ justifyContent: "space-between", alignItems: "baseline" }}>
        <Typography component="h3" sx={{ fontWeight: 600 }}>
          Duties
        </Typography>
        <Typography variant="body2" role="status" title={data?.grounds}>
          {saved.error && !tried ? "not judged now" : summary(data?.duties)}
        </Typography>
      </Stack>
      {shown.map((one) => (
        <OneDuty key={one.now.duty} one={one} />
      ))}
      {data?.grounds && shown.length > 0 && (
        <Typography variant="body2" color="textSecondary" sx={{ lineHeight: 1.2 }}>
          {data.grounds}
        </Typography>
      )}
    </Box>
  );
}

function summary(duties: readonly DutyNow[] | undefined): string {
  if (duties === undefined) return "judging…";
  const fail = duties.filter((one) => one.now.first_failed !== null).length;
  const hold = duties.filter((one) => one.now.is_judged && one.now.first_failed === null).length;
  if (fail === 0) return hold === duties.length ? "all hold" : `${countText(hold)} hold`;
  return hold === 0 ? `${countText(fail)} fail` : `${countText(hold)} hold, ${countText(fail)} fail`;
}

function OneDuty({ one: { now, change } }: { one: DutyNow }) {
  const fails = now.first_failed !== null;
  return (
    <Box data-duty={now.duty} data-fails={fails} sx={{ lineHeight: 1.25, pb: 0.25 }}>
      <Link component={NavLink} to="/proof" color="textPrimary" underline="hover" sx={{ fontSize: 15 }}>
        {now.name}
      </Link>
      <Typography variant="body2" color={fails ? "error" : "success"} sx={{ lineHeight: 1.2 }}>
        {now.sentence}
      </Typography>
      {change && (
        <Typography variant="body2" color="primary" data-change="duty" sx={{ lineHeight: 1.2 }}>
          {change}
        </Typography>
      )}
    </Box>
  );
}
