import type { Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { durationWords } from "../../shared/durations";
import { Line } from "../../shared/Line";
import { SpeedWord } from "../../shared/SpeedWord";
import { TextWord } from "../../shared/TextWord";
import { TimeWord } from "../../shared/TimeWord";
import type { TargetLineProps } from "./TargetLines";

/** How fast a target is written and read, by how many streams; of tape how long a cartridge takes, of cold stores the thaw. */
export function SpeedLine({ target, canEdit, keep }: TargetLineProps) {
  const speed = (field: "read_speed" | "write_speed" | "stream_speed" | "feed", label: string) => (
    <SpeedWord
      label={label}
      value={target[field]}
      disabled={!canEdit}
      onKeep={(found) => keep({ [field]: found }, `${label.toLowerCase()} ${found ?? "not limited"}`)}
    />
  );
  const time = (field: "thaw" | "mount" | "fetch" | "run_from", label: string, placeholder = "no time") => (
    <TimeWord
      label={label}
      value={target[field]}
      placeholder={placeholder}
      disabled={!canEdit}
      onKeep={(found) =>
        keep({ [field]: found }, `${label.toLowerCase()} ${found ? durationWords(found) : "not said"}`)
      }
    />
  );
  if (target.media === "snapshot") {
    return (
      <Line label="Speeds">
        Replicas are written at
        {speed("write_speed", "Writing speed of the target")}
        and read at
        {speed("read_speed", "Reading speed of the target")}.
      </Line>
    );
  }
  return (
    <>
      <Line label="Speeds">
        It is written at
        {speed("write_speed", "Writing speed of the target")}
        and read at
        {speed("read_speed", "Reading speed of the target")}, one transfer alone at
        {speed("stream_speed", "Speed of one transfer")}, with
        <StreamsWord target={target} canEdit={canEdit} keep={keep} />
        transfers at once.
      </Line>
      {target.media === "tape" && (
        <Line label="Cartridges">
          Loading a cartridge takes
          {time("mount", "Time to load a cartridge")}; fetching one that is away
          {time("fetch", "Time to fetch a cartridge")}
          from
          <AwayWord target={target} canEdit={canEdit} keep={keep} />. Its drives stream from
          {speed("feed", "Slowest speed at which a drive streams")}
          on.
        </Line>
      )}
      {target.media === "object" && (
        <Line label="Thaw">
          The first byte comes {time("thaw", "Time until the first byte", "at once")} after it is asked for.
        </Line>
      )}
      {target.media === "disk" && (
        <Line label="Run from here">
          A machine can be started straight from a point here after
          {time("run_from", "Time until a machine runs from here", "never")}.
        </Line>
      )}
    </>
  );
}

function StreamsWord({ target, canEdit, keep }: TargetLineProps) {
  const drives = target.media === "tape" && target.drives ? `${target.drives} (drives)` : "any number of";
  return (
    <TextWord
      label="Transfers at once"
      value={target.streams == null ? "" : String(target.streams)}
      placeholder={drives}
      disabled={!canEdit}
      width={110}
      align="right"
      onKeep={(text) => {
        const bare = text.trim();
        if (bare === "") return keep({ streams: null }, "streams not limited");
        // What is no number is sent as it is: the server says what was expected, and the text stays.
        const streams = (/^\d+$/.test(bare) ? Number(bare) : bare) as NonNullable<Target["streams"]>;
        return keep({ streams }, `${bare} transfers at once`);
      }}
    />
  );
}

function AwayWord({ target, canEdit, keep }: TargetLineProps) {
  const { sites } = useDesign().design.document;
  const options: Record<string, string> = {
    "": "no place named",
    ...Object.fromEntries(sites.map((site) => [site.id, site.name || site.id])),
  };
  return (
    <Choice
      label="Where cartridges lie when they are away"
      value={target.away_site ?? ""}
      options={options}
      disabled={!canEdit}
      onChange={(site) => void keep({ away_site: site || null }, `cartridges away at ${options[site]}`)}
    />
  );
}
