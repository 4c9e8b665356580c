import { Box, Button, Stack, Typography } from "@mui/material";
import type { Link } from "../../api/types";
import { useDesign } from "../../design/context";
import { useReadings } from "../../design/useReadings";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { SpeedWord } from "../../shared/SpeedWord";
import { TextWord } from "../../shared/TextWord";
import { SERIF } from "../../theme/theme";
import { LimitLines } from "./LimitLines";
import { WeekStrip } from "./WeekStrip";

type Limit = NonNullable<Link["limits"]>[number];

/** A line between two sites in sentences, its limits on the strip of a week. */
export function LinkEditor({ link, onTakeOut }: { link: Link; onTakeOut: () => void }) {
  const { design, canEdit, save } = useDesign();
  const { sites } = design.document;
  const names = Object.fromEntries(sites.map((site) => [site.id, site.name || site.id]));
  const [one = "", other = ""] = link.sites;
  const name = link.name || `${names[one]} and ${names[other]}`;
  const keep = (change: Partial<Link>, what: string) =>
    save("links", link.id, { ...link, ...change }, `${name}: ${what}`);
  const limits = link.limits ?? [];
  const keepLimits = (next: Limit[], what: string) => keep({ limits: next }, what);
  const reading = useReadings().data?.links[link.id];
  return (
    <Stack
      component="section"
      aria-label={`Line ${name}`}
      sx={{ gap: 1, borderTop: 1, borderColor: "divider", pt: 1.5 }}
    >
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <TextWord
          heading
          label="Name of the line"
          value={link.name ?? ""}
          placeholder={name}
          disabled={!canEdit}
          width={320}
          onKeep={(text) => keep({ name: text }, `renamed to ${text}`)}
        />
        <Box sx={{ flex: 1 }} />
        {canEdit && (
          <Button color="error" onClick={onTakeOut}>
            Remove
          </Button>
        )}
      </Stack>
      <Typography data-testid="line-sentence" sx={{ fontFamily: SERIF, fontSize: 16, lineHeight: 1.35 }}>
        {reading?.sentence ?? ""}
      </Typography>
      <Line label="What it carries">
        Between
        <SiteWord at={0} link={link} names={names} onKeep={keep} />
        and
        <SiteWord at={1} link={link} names={names} onKeep={keep} />
        it carries
        <SpeedWord
          label="Speed of the line"
          value={link.speed}
          disabled={!canEdit}
          onKeep={(speed) => keep({ speed }, `speed ${speed ?? "not limited"}`)}
        />
        <Choice
          label="Whether both directions share it"
          value={link.shared ? "shared" : "each"}
          options={{ each: "each way", shared: "for both directions together" }}
          disabled={!canEdit}
          onChange={(word) => void keep({ shared: word === "shared" }, `directions ${word}`)}
        />
        of which
        <AmountWord
          label="Usable part in percent"
          value={link.usable_percent ?? 100}
          disabled={!canEdit}
          onKeep={(usable_percent) => keep({ usable_percent }, `${usable_percent} % count`)}
        />
        % count; one transfer alone gets
        <SpeedWord
          label="Speed of one transfer on the line"
          value={link.stream_speed}
          placeholder="all of it"
          disabled={!canEdit}
          onKeep={(speed) => keep({ stream_speed: speed }, `one transfer ${speed ?? "not limited"}`)}
        />
      </Line>
      <WeekStrip
        reading={reading}
        canEdit={canEdit}
        onDraw={(drawn) => {
          const speed = limits.at(-1)?.speed ?? link.speed ?? "0 MB/s";
          return keepLimits([...limits, { ...drawn, speed }], "a limit by the hour");
        }}
      />
      <LimitLines limits={limits} speed={link.speed} canEdit={canEdit} keep={keepLimits} />
    </Stack>
  );
}

function SiteWord({
  at,
  link,
  names,
  onKeep,
}: {
  at: 0 | 1;
  link: Link;
  names: Record<string, string>;
  onKeep: (change: Partial<Link>, what: string) => Promise<boolean>;
}) {
  const { canEdit } = useDesign();
  return (
    <Choice
      label={at === 0 ? "One end of the line" : "Other end of the line"}
      value={link.sites[at] ?? ""}
      options={Object.fromEntries(Object.entries(names).filter(([id]) => id !== link.sites[1 - at]))}
      disabled={!canEdit}
      onChange={(site) =>
        void onKeep(
          { sites: link.sites.map((one, place) => (place === at ? site : one)) },
          `ends at ${names[site]}`,
        )
      }
    />
  );
}
