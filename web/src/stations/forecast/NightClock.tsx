import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";
import type { CopyEnd, NightPicture } from "../../api/types";
import { useWidth } from "../../shared/useWidth";
import { ROW, type Scale, Ticks, Track, UseArea } from "./NightTracks";
import { barName, barWords, bundleWords, changeWords } from "./nightWords";

const NAMES = 230;
const MOST_OPENED = 80;

/** The transfers of a night on a clock, bundled by copy; a bundle opens. Below, the use of what they share, on the same clock. */
export function NightClock({ night, before }: { night: NightPicture; before: readonly CopyEnd[] }) {
  const [ref, whole] = useWidth<HTMLDivElement>(900);
  const [opened, setOpened] = useState<string | null>(null);
  const width = Math.max(200, whole - NAMES);
  const x: Scale = (seconds) => (Math.min(Math.max(seconds, 0), night.seconds) / night.seconds) * width;
  return (
    <div ref={ref}>
      <Line name="">
        <Ticks night={night} x={x} width={width} />
      </Line>
      {night.bundles.map((bundle) => {
        const key = `${bundle.route} ${bundle.copy}`;
        const isOpen = opened === key;
        const was = before.find((one) => one.route === bundle.route && one.copy === bundle.copy);
        const changed = before.length > 0 ? changeWords(bundle, was) : "";
        return (
          <Box key={key}>
            <Line
              name={
                <Button
                  data-said
                  size="small"
                  aria-expanded={isOpen}
                  onClick={() => setOpened(isOpen ? null : key)}
                  sx={{ justifyContent: "flex-start", p: 0, textAlign: "left" }}
                >
                  {bundle.name}
                </Button>
              }
            >
              <Track bundle={bundle} bars={bundle.bars} x={x} width={width} label={bundleWords(bundle)} />
              {changed && (
                <Typography variant="body2" data-testid="night-change">
                  {changed}
                </Typography>
              )}
            </Line>
            {isOpen &&
              bundle.bars.slice(0, MOST_OPENED).map((bar) => (
                <Line key={`${bar.workload} ${bar.machine} ${bar.asked}`} name={barName(bar)}>
                  <Track bundle={bundle} bars={[bar]} x={x} width={width} label={barWords(bar)} />
                  <Typography variant="body2" color={bar.late.length > 0 ? "error" : "textSecondary"}>
                    {barWords(bar)}
                  </Typography>
                </Line>
              ))}
          </Box>
        );
      })}
      {night.resources.map((one) => (
        <Line key={one.resource} name={one.name}>
          <UseArea stretches={one.stretches} x={x} width={width} label={`Use of ${one.name}`} />
        </Line>
      ))}
    </div>
  );
}

function Line({ name, children }: { name: React.ReactNode; children: React.ReactNode }) {
  return (
    <Box
      sx={{ display: "grid", gridTemplateColumns: `${NAMES}px 1fr`, alignItems: "center", minHeight: ROW }}
    >
      <Typography component="div" variant="body2" noWrap data-whole sx={{ pr: 1 }}>
        {name}
      </Typography>
      <Box>{children}</Box>
    </Box>
  );
}
