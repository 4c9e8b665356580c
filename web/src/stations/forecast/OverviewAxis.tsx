import { useTheme } from "@mui/material/styles";
import { scaleLinear } from "d3-scale";
import { useDesign } from "../../design/context";
import { AGE_TICKS, WHOLE_AXIS, xOf } from "../../shared/ages";
import { writtenDate } from "../../shared/format";
import { useWidth } from "../../shared/useWidth";
import { DayMarks } from "./Shapes";

const HEIGHT = 19;

/** What all rows share: the day of their figures, the years of their charts, the ages of their shelves. */
export function OverviewAxis() {
  const { days, on } = useDesign();
  const { inks } = useTheme();
  const [years, yearsWidth] = useWidth<HTMLDivElement>(400);
  const [ages, agesWidth] = useWidth<HTMLDivElement>(400);
  const x = scaleLinear([0, Math.max(1, days.dates.length - 1)], [0, yearsWidth]);
  return (
    <div className="axis" data-axis>
      <p className="aside">Target</p>
      <p className="aside">End of {writtenDate(on)}</p>
      <div ref={years}>
        <svg
          viewBox={`0 0 ${yearsWidth} ${HEIGHT}`}
          width={yearsWidth}
          height={HEIGHT}
          fontSize={12}
          style={{ display: "block" }}
          aria-hidden="true"
        >
          <DayMarks marks={days.marks} x={x} top={-1} />
        </svg>
      </div>
      <div ref={ages}>
        <svg
          viewBox={`0 0 ${agesWidth} ${HEIGHT}`}
          width={agesWidth}
          height={HEIGHT}
          fontSize={12}
          style={{ display: "block" }}
          aria-hidden="true"
        >
          {AGE_TICKS.map(({ days: age, name }) => (
            <text key={name} x={xOf(age, WHOLE_AXIS, agesWidth)} y={14} textAnchor="middle" fill={inks.muted}>
              {name}
            </text>
          ))}
        </svg>
      </div>
    </div>
  );
}
