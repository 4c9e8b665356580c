import "@testing-library/jest-dom/vitest";
import { ThemeProvider } from "@mui/material/styles";
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { Days, Overview, Spine } from "../src/api/types";
import { WHOLE_AXIS, xOf } from "../src/shared/ages";
import { bundled, chainOf } from "../src/shared/boards";
import { chanceText, moneyText } from "../src/shared/format";
import { standingAlone } from "../src/shared/savePicture";
import { OverviewTable } from "../src/stations/forecast/OverviewTable";
import { scalesOf } from "../src/stations/forecast/Shapes";
import { PartList, Stack } from "../src/stations/forecast/Stacked";
import { spanAround, spanOf } from "../src/stations/forecast/useSpan";
import { shelfTheme } from "../src/theme/theme";

afterEach(cleanup);

const days = {
  dates: Array.from({ length: 1000 }, (_, at) => `day ${at}`),
  month_begins: [0],
} as unknown as Days;

describe("the days that a chart shows", () => {
  it("are a year around a day, cut off at the ends of the design", () => {
    expect(spanAround(days, 500)).toEqual({ first: "day 317", last: "day 683" });
    expect(spanAround(days, 10)).toEqual({ first: "day 0", last: "day 193" });
    expect(spanAround(days, 990)).toEqual({ first: "day 807", last: "day 999" });
  });

  it("are the same whichever way they were drawn over, and no fewer than three", () => {
    expect(spanOf(days, 40, 20)).toEqual(spanOf(days, 20, 40));
    expect(spanOf(days, 20, 21)).toBeNull();
  });
});

describe("figures in words", () => {
  it("money is whole from a hundred on, to the cent below", () => {
    expect(moneyText(4737.4, "EUR")).toBe("EUR\u00a04\u202f737");
    expect(moneyText(16.409, "EUR")).toBe("EUR\u00a016.41");
    expect(moneyText(-3.5, "NOK")).toBe("NOK\u00a0−3.50");
    expect(moneyText(0, "EUR")).toBe("EUR\u00a00");
  });

  it("a chance is never rounded to certain", () => {
    expect(chanceText(0.996)).toBe("more than 99 % of the draws");
    expect(chanceText(1)).toBe("all draws");
    expect(chanceText(0.003)).toBe("less than 1 % of the draws");
    expect(chanceText(0)).toBe("none of the draws");
    expect(chanceText(0.144)).toBe("14 % of the draws");
  });
});

function spine(at: number, more: Partial<Spine> = {}): Spine {
  const base = {
    age_days: at,
    height: 2,
    state: "kept",
    kind: "full",
    count: 1,
    claims: [],
    why: "",
    parent: null,
  };
  return { ...base, taken: `taken ${at}`, ...more } as Spine;
}

describe("bundles of spines", () => {
  it("stand loose where there is room", () => {
    const spines = [spine(1), spine(1.01), spine(300)];
    expect(bundled(spines, WHOLE_AXIS, 600).map((one) => one.spines.length)).toEqual([1, 1, 1]);
  });

  it("hold each spine once, and only those of one look", () => {
    const spines = Array.from({ length: 900 }, (_, at) =>
      spine(1 + at / 50, { state: at % 3 ? "kept" : "locked", height: at % 2 }),
    );
    const found = bundled(spines, WHOLE_AXIS, 600);
    expect(found.flatMap((one) => one.spines)).toHaveLength(900);
    expect(new Set(found.flatMap((one) => one.spines)).size).toBe(900);
    for (const bundle of found) {
      expect(new Set(bundle.spines.map((one) => `${one.state} ${one.height}`)).size).toBe(1);
      const spread = bundle.spines.map((one) => xOf(one.age_days, WHOLE_AXIS, 600));
      expect(Math.max(...spread) - Math.min(...spread)).toBeLessThanOrEqual(4);
    }
  });

  it("leave out what an open one does not hold", () => {
    const spines = Array.from({ length: 100 }, (_, at) => spine(at + 1));
    expect(bundled(spines, { youngest: 10, oldest: 20 }, 600)).toHaveLength(11);
  });

  it("a chain ends where nothing is rested on, on its own shelf alone", () => {
    const spines = [spine(9), spine(8, { parent: 0 }), spine(7, { parent: 1 }), spine(6)];
    const shelf = { route: "r", copy: "c", target: "t", workloads: 1, spines };
    expect(chainOf(spines[2] as Spine, [shelf]).map((one) => one.age_days)).toEqual([7, 8, 9]);
    expect(chainOf(spines[3] as Spine, [shelf])).toHaveLength(1);
  });
});

describe("parts on top of each other", () => {
  const layers = [
    { name: "one", values: [1, 2] },
    { name: "two", values: [3, 4] },
  ];

  it("lie on top of each other as the core draws them, stretched to what is shown; what is nothing is left out", () => {
    const shapes = ["M0,900", "M0,500", "M0,0"].map((path, at) => ({ name: `${at}`, path }));
    const chart = { first: 0, last: 10, top: 40, marks: [0, 10, 20, 30, 40], days: [], shapes };
    const box = { left: 60, right: 160, top: 10, bottom: 110 };
    const { x, y } = scalesOf(chart, box, [60]);
    expect([x(0), x(10), y(0), y(60)]).toEqual([60, 160, 110, 10]);
    const [one, two] = layers;
    const { container } = render(
      <ThemeProvider theme={shelfTheme("light")}>
        <svg role="img" aria-label="chart">
          <Stack
            chart={chart}
            layers={[one ?? null, null, two ?? null]}
            box={box}
            x={x}
            y={y}
            band={[{ day: 0, low: 15, high: 60 }]}
            day={5}
            inWords={(value) => `${value}`}
          />
        </svg>
        <PartList layers={layers} inWords={(part) => `${layers[part]?.values[1]}`} />
      </ThemeProvider>,
    );
    const [first, second, ...others] = [...container.querySelectorAll("svg svg path")];
    expect([first?.getAttribute("d"), second?.getAttribute("d"), others]).toEqual(["M0,900", "M0,0", []]);
    expect(first?.getAttribute("fill")).not.toBe(second?.getAttribute("fill"));
    expect(container.querySelector("svg svg")?.getAttribute("viewBox")).toBe("0 -500 1000 1500");
    const edges = [...container.querySelectorAll("[data-band]")].map((edge) => edge.getAttribute("d"));
    expect(edges).toEqual(["M60,85Z", "M60,10Z"]);
    const marks = [...container.querySelectorAll("text")].map((text) => text.textContent);
    expect(marks).toEqual(["0", "10", "20", "30", "40", "50", "60"]);
    expect(screen.getAllByRole("listitem").map((item) => item.textContent)).toEqual(["one: 2", "two: 4"]);
  });

  it("let what is expected stay readable where a range reaches far beyond it", () => {
    const chart = { first: 0, last: 10, top: 40, marks: [0, 10, 20, 30, 40], days: [], shapes: [] };
    const { y } = scalesOf(chart, { left: 0, right: 10, top: 0, bottom: 100 }, [4000]);
    expect(y.domain()).toEqual([0, 80]);
    expect(y(4000)).toBe(0);
  });

  it("stand alone as a file with their size, ground and letters", () => {
    const { container } = render(
      // biome-ignore lint/a11y/noNoninteractiveTabindex: charts are read with the arrow keys
      <svg width="40" height="20" tabIndex={0} role="img" aria-label="chart">
        <text>5 TB</text>
      </svg>,
    );
    const svg = container.querySelector("svg");
    const text = svg ? standingAlone(svg) : "";
    expect(text).toMatch(/^<svg [^>]*xmlns="http:\/\/www.w3.org\/2000\/svg"/);
    expect(text).toContain('width="40"');
    expect(text).toContain("<rect");
    expect(text).toContain("5 TB");
    expect(text).not.toContain("tabindex");
    expect(svg?.hasAttribute("tabindex")).toBe(true);
  });
});

it("the overview in figures tells today, the date, the peak and the end apart", () => {
  const overview = {
    today: "2027-01-01",
    on: "2028-12-31",
    end: "2036-12-31",
    currency: "EUR",
    cost_month: 12,
    cost_whole: 900,
    rows: [
      {
        ...{ target: "disk", name: "Disk", media: "disk", points_today: 1, stored_today: 1e12, points_on: 2 },
        ...{
          stored_on: 2e12,
          peak: 4e12,
          peak_on: "2030-02-03",
          points_end: 3,
          stored_end: 3e12,
          room_on: 5e12,
        },
        ...{ fill: 0.8, full_on: null, cost_month: 12, cost_whole: 900 },
      },
    ],
  } satisfies Overview;
  render(
    <ThemeProvider theme={shelfTheme("light")}>
      <OverviewTable overview={overview} />
    </ThemeProvider>,
  );
  const cells = screen.getAllByRole("cell").map((cell) => cell.textContent);
  expect(cells).toEqual([
    "1.00 TB1 points",
    "2.00 TB2 points",
    "4.00 TB3 February 2030",
    "80 %",
    "3.00 TB3 points",
    "not full by the end of 2036",
    "EUR\u00a012.00",
    "EUR\u00a0900",
  ]);
});
