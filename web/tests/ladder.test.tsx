import "@testing-library/jest-dom/vitest";
import { ThemeProvider } from "@mui/material/styles";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import type { Bar, Ladder, LadderReading } from "../src/api/types";
import { AgeAxis } from "../src/stations/rules/AgeAxis";
import { LadderRules } from "../src/stations/rules/LadderRules";
import { shelfTheme } from "../src/theme/theme";
import { houseRule, WEEKLY_BAR, withoutObserver } from "./house";

beforeAll(withoutObserver);
afterEach(cleanup);

const ladder = houseRule({ name: "legal", keep: "forever" });

const bars: Bar[] = [
  {
    part: "recent",
    place: 0,
    label: "recent",
    keep: "points",
    count: 14,
    unit: "point",
    step_days: null,
    reach_days: null,
    height: 1,
    candidates: [],
  },
  WEEKLY_BAR,
  {
    part: "rung",
    place: 1,
    label: "legal",
    keep: "forever",
    count: null,
    unit: null,
    step_days: null,
    reach_days: null,
    height: 6,
    candidates: [{ value: "any", words: "of any kind" }],
  },
];

const reading: LadderReading = {
  sentence: "Keeps the newest 14 points.",
  bars,
  next_recent: { keep: "P7D" },
  next_rung: { name: "monthly", every: "month", pick: "first", from: "self-contained", keep: { periods: 4 } },
  uses: [
    {
      route_id: "files",
      route: "Files",
      copy_id: "house",
      target: "disk",
      claimed: { recent: 14, weekly: 6, legal: 2, all: 19 },
      oldest_days: { recent: 13, weekly: 40, legal: 500 },
    },
  ],
};

function themed(children: ReactNode) {
  return render(<ThemeProvider theme={shelfTheme("light")}>{children}</ThemeProvider>);
}

function hand(canEdit = true) {
  return { ladder, reading, runs: {}, canEdit, onTry: vi.fn(), onKeep: vi.fn(), onRename: vi.fn() };
}

function lastLadder(mock: { mock: { lastCall?: unknown[] } }): Ladder {
  const [ladder] = mock.mock.lastCall ?? [];
  return ladder as Ladder;
}

describe("the age axis", () => {
  it("draws the longer reach further left and leaves what has no end unmoved", () => {
    const { container } = themed(<AgeAxis {...hand()} />);
    const left = [...container.querySelectorAll("rect:not([role])")].map((rect) =>
      Number(rect.getAttribute("x")),
    );
    expect(left[1]).toBeLessThan(left[0] ?? 0);
    expect(left[2]).toBeLessThan(left[1] ?? 0);
    expect(screen.getAllByRole("slider").map((slider) => slider.getAttribute("aria-label"))).toEqual([
      "Reach of recent",
      "Reach of weekly",
    ]);
  });

  it("moves by the arrow keys, never below one", () => {
    const props = hand();
    themed(<AgeAxis {...props} />);
    const slider = screen.getByRole("slider", { name: "Reach of weekly" });
    fireEvent.keyDown(slider, { key: "ArrowLeft" });
    fireEvent.keyDown(slider, { key: "PageDown" });
    const kept = props.onKeep.mock.calls.map(([changed]) => (changed as Ladder).rungs[0]?.keep);
    expect(kept).toEqual([{ periods: 7 }, { periods: 1 }]);
  });

  it("has nothing to move for somebody who only looks", () => {
    themed(<AgeAxis {...hand(false)} />);
    expect(screen.queryByRole("slider")).not.toBeInTheDocument();
  });
});

describe("the rules of a ladder as sentences", () => {
  it("tell how many points each claims", () => {
    const { container } = themed(<LadderRules {...hand()} />);
    const claimed = [...container.querySelectorAll("[data-claimed]")].map((one) => one.textContent);
    expect(claimed).toEqual(["14 claimed", "6 claimed", "2 claimed"]);
  });

  it("try a number while it is typed", async () => {
    const props = hand();
    themed(<LadderRules {...props} />);
    await userEvent.type(screen.getByLabelText("Number of recent"), "0");
    expect(lastLadder(props.onTry).recent[0]?.keep).toEqual({ points: 140 });
    expect(props.onKeep).not.toHaveBeenCalled();
  });

  it("take away one rule and leave the others", async () => {
    const props = hand();
    themed(<LadderRules {...props} />);
    await userEvent.click(screen.getByRole("button", { name: "Remove the rule weekly" }));
    const [changed, what] = props.onKeep.mock.lastCall as [Ladder, string];
    expect(changed.rungs.map((rung) => rung.name)).toEqual(["legal"]);
    expect(what).toBe("removed weekly");
  });

  it("add a rung for the next period that has none", async () => {
    const props = hand();
    themed(<LadderRules {...props} />);
    await userEvent.click(screen.getByRole("button", { name: "Add a rung" }));
    expect(lastLadder(props.onKeep).rungs.at(-1)).toMatchObject({
      name: "monthly",
      every: "month",
    });
  });

  it("show a viewer no way to change them", () => {
    themed(<LadderRules {...hand(false)} />);
    expect(screen.getByLabelText("Number of recent")).toBeDisabled();
    expect(screen.queryByRole("button", { name: /Remove/ })).not.toBeInTheDocument();
  });
});
