import "@testing-library/jest-dom/vitest";
import { ThemeProvider } from "@mui/material/styles";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import type { DesignOut, ShelfOfCopy, Spine } from "../src/api/types";
import { DesignContext, type EditedDesign } from "../src/design/context";
import { Shelf } from "../src/shared/Shelf";
import { shelfTheme } from "../src/theme/theme";
import { withoutObserver } from "./house";

beforeAll(withoutObserver);
afterEach(cleanup);

function spine(change: Partial<Spine>): Spine {
  const base = {
    age_days: 7,
    height: 3,
    state: "kept",
    kind: "full",
    count: 2,
    claims: ["weekly"],
    parent: null,
  };
  return {
    ...base,
    taken: "Saturday 12 June 2027, 22:00",
    why: "Kept by weekly until 24 July 2027.",
    ...change,
  } as Spine;
}

const shelf: ShelfOfCopy = {
  route: "files",
  copy: "house",
  target: "disk",
  workloads: 2,
  spines: [
    spine({ age_days: 400, height: 6 }),
    spine({ age_days: 30, state: "locked", height: 0 }),
    spine({ age_days: 20, state: "needed", height: 0 }),
    spine({ age_days: 2, state: "due", height: 0 }),
    spine({ age_days: 1, kind: "log", height: 1 }),
  ],
};

function shown(shelves: ShelfOfCopy[]) {
  const design = { document: { routes: [{ id: "files", name: "Files and mail" }] } } as unknown as DesignOut;
  const { container } = render(
    <ThemeProvider theme={shelfTheme("light")}>
      <DesignContext.Provider value={{ design } as unknown as EditedDesign}>
        <Shelf shelves={shelves} height={200} />
      </DesignContext.Provider>
    </ThemeProvider>,
  );
  return [...container.querySelectorAll<SVGRectElement>("g[transform] g > rect")];
}

describe("points as spines on a shelf", () => {
  it("stands the younger further right and the longer kept taller", () => {
    const rects = shown([shelf]);
    const at = rects.map((rect) => Number(rect.getAttribute("x")));
    expect(at).toEqual([...at].sort((a, b) => a - b));
    const tall = rects.map((rect) => Number(rect.getAttribute("height")));
    expect(Math.max(...tall)).toBe(tall[0]);
  });

  it("tells states apart by more than colour", () => {
    const fills = shown([shelf]).map((rect) => rect.getAttribute("fill") ?? "");
    expect(fills[1]).toMatch(/^url/);
    expect(fills[2]).toMatch(/^url/);
    expect(fills[1]).not.toBe(fills[2]);
    expect(fills[3]).toBe("none");
  });

  it("counts points by state and logs apart", () => {
    shown([shelf]);
    expect(
      screen.getByText("On the shelf: 2 kept, 2 locked, 2 needed, 2 due, and 2 logs"),
    ).toBeInTheDocument();
    expect(screen.getByText("Files and mail: house")).toBeInTheDocument();
  });

  it("says why a point is there when it is pointed at", () => {
    const [oldest] = shown([shelf]);
    if (oldest?.parentElement) fireEvent.pointerEnter(oldest.parentElement);
    expect(screen.getByText(/Saturday 12 June 2027, 22:00, full. Kept by weekly/)).toBeInTheDocument();
  });

  it("says what a spine rests on, and joins its chain with a line", () => {
    const links = [null, 0, 1].map((parent, at) =>
      spine({ age_days: 9 - at, taken: `day ${at}`, parent, kind: parent === null ? "full" : "incremental" }),
    );
    const rects = shown([{ ...shelf, spines: links }]);
    const newest = rects.at(-1)?.parentElement;
    if (newest) fireEvent.pointerEnter(newest);
    expect(
      screen.getByText(/^day 2, incremental\..*It rests on 2 older, back to day 0\.$/),
    ).toBeInTheDocument();
    expect(screen.getByTestId("chain").getAttribute("d")?.split("L")).toHaveLength(3);
  });

  it("bundles thousands of spines and opens a bundle", () => {
    const many = Array.from({ length: 4000 }, (_, at) =>
      spine({ age_days: 1 + at / 10, height: 1, taken: `point ${at}` }),
    );
    const rects = shown([{ ...shelf, spines: many }]);
    expect(rects.length).toBeLessThan(200);
    const bundles = [...document.querySelectorAll<SVGGElement>("[data-bundle]")];
    const inside = bundles.map((one) => Number(one.dataset.bundle));
    const loose = rects.length - bundles.length;
    expect(inside.reduce((sum, one) => sum + one, loose)).toBe(4000);
    const fullest = bundles.find((one) => Number(one.dataset.bundle) === Math.max(...inside));
    if (fullest) fireEvent.click(fullest);
    expect(screen.getByRole("button", { name: "The whole shelf" })).toBeInTheDocument();
    const within = [...document.querySelectorAll<SVGGElement>("[data-bundle]")];
    const fullestWithin = Math.max(1, ...within.map((one) => Number(one.dataset.bundle)));
    expect(fullestWithin).toBeLessThan(Math.max(...inside) / 10);
    fireEvent.click(screen.getByRole("button", { name: "The whole shelf" }));
    expect(document.querySelectorAll("g[transform] g > rect")).toHaveLength(rects.length);
  });

  it("draws another date anew, also where two groups have alike points", () => {
    const alike = { ...shelf, spines: [spine({}), spine({ age_days: 14 })] };
    const frame = (shelves: ShelfOfCopy[]) => (
      <ThemeProvider theme={shelfTheme("light")}>
        <DesignContext.Provider value={{ design: { document: { routes: [] } } } as unknown as EditedDesign}>
          <Shelf shelves={shelves} height={200} />
        </DesignContext.Provider>
      </ThemeProvider>
    );
    const { container, rerender } = render(frame([alike, alike]));
    expect(container.querySelectorAll("g[transform] g > rect")).toHaveLength(4);
    rerender(frame([{ ...alike, spines: [spine({ age_days: 3 })] }, alike]));
    expect(container.querySelectorAll("g[transform] g > rect")).toHaveLength(3);
  });

  it("has a word for an empty shelf", () => {
    shown([]);
    expect(screen.getByText("Nothing on the shelf on this date")).toBeInTheDocument();
  });
});
