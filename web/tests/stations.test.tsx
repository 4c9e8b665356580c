import "@testing-library/jest-dom/vitest";
import { ThemeProvider } from "@mui/material/styles";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter, useLocation } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { ConsequenceOut, Protection, RoutePart, Target } from "../src/api/types";
import { DesignContext, type EditedDesign, FiguresContext } from "../src/design/context";
import { ConsequencePanel } from "../src/frame/ConsequencePanel";
import { FindDialog } from "../src/frame/FindDialog";
import { RouteLabel } from "../src/stations/routes/RouteLabel";
import { TargetBox } from "../src/stations/targets/TargetBox";
import { shelfTheme } from "../src/theme/theme";

vi.mock("@fontsource-variable/fraunces/index.css", () => ({}));
vi.mock("@fontsource-variable/source-sans-3/index.css", () => ({}));
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const DISK = { id: "disk", name: "Disk", media: "disk", site: "here" } as Target;
const ROUTE = {
  id: "files",
  name: "Files",
  workloads: { ids: [], tags: [] },
  copies: [{ id: "house", name: "", target: "disk" }],
} as unknown as RoutePart;

function editedDesign(): EditedDesign {
  const document = {
    sites: [{ id: "here", name: "Here" }],
    targets: [DISK],
    workloads: [{ id: "mail", name: "Mail store" }],
    cadences: [],
    ladders: [{ id: "rule", name: "House rule" }],
    routes: [ROUTE],
  };
  const design = { id: 1, revision: 2, reference_revision: 1, document };
  const days = { dates: ["2027-01-01", "2036-12-31"], month_begins: [0] };
  return { design, days, canEdit: true, on: "2028-12-31", setReference: vi.fn() } as unknown as EditedDesign;
}

function one(id: string, change: Partial<ConsequenceOut["change"]> | null, now = {}): ConsequenceOut {
  return {
    now: {
      target: id,
      name: id,
      points: 12,
      stored_bytes: 5e12,
      peak_bytes: 7e12,
      peak_on: "2028-01-01",
      room_bytes: 1e13,
      capacity_bytes: 1e13,
      full_on: null,
      ...now,
    },
    change: change && {
      points: 0,
      stored_bytes: 0,
      peak_bytes: 0,
      full_on_before: null,
      full_on_changed: false,
      weight: 0,
      ...change,
    },
  };
}

function Path() {
  return <p data-testid="path">{useLocation().pathname}</p>;
}

function shown(children: ReactNode, targets: ConsequenceOut[] | null = [], tried = false) {
  const consequences = targets === null ? undefined : { on: "2028-12-31", revision: 2, targets };
  return render(
    <ThemeProvider theme={shelfTheme("light")}>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <MemoryRouter>
          <DesignContext.Provider value={editedDesign()}>
            <FiguresContext.Provider value={{ consequences, duties: null, tried }}>
              {children}
            </FiguresContext.Provider>
          </DesignContext.Provider>
          <Path />
        </MemoryRouter>
      </QueryClientProvider>
    </ThemeProvider>,
  );
}

describe("the consequence panel", () => {
  it("puts what changed most first and leaves the others in their order", () => {
    const targets = [one("a", null), one("b", { weight: 0.1 }), one("c", { weight: 2 }), one("d", null)];
    shown(<ConsequencePanel />, targets);
    expect(screen.getAllByRole("heading", { level: 3 }).map((head) => head.textContent)).toEqual([
      "c",
      "b",
      "a",
      "d",
    ]);
  });

  it("signs changes, and says since when a target is full and was before", () => {
    const change = { points: -3, stored_bytes: 2e12, full_on_before: "2030-05-01", full_on_changed: true };
    shown(<ConsequencePanel />, [one("a", change, { full_on: "2029-06-16" })]);
    expect(screen.getByText("−3")).toBeInTheDocument();
    expect(screen.getByText("+2.00 TB")).toBeInTheDocument();
    expect(screen.getByText("full on 16 June 2029 (was 1 May 2030)")).toBeInTheDocument();
  });

  it("says what the month costs once it is known, and its change", async () => {
    const costs = {
      revision: 2,
      on: "2028-12-31",
      currency: "EUR",
      targets: [
        { target: "a", cost: 1234.4, change: -20.5 },
        { target: "b", cost: 0, change: 0 },
      ],
    };
    vi.stubGlobal("fetch", () => Promise.resolve(Response.json(costs)));
    shown(<ConsequencePanel />, [one("a", null), one("b", null)]);
    const figures = () =>
      [...document.querySelectorAll('[data-figure="cost"]')].map((one) => one.textContent);
    const changes = () =>
      [...document.querySelectorAll('[data-change="cost"]')].map((one) => one.textContent);
    expect(figures()).toEqual(["", ""]);
    await waitFor(() => expect(figures()).toEqual(["EUR\u00a01\u202f234", ""]));
    expect(changes()).toEqual(["−EUR\u00a020.50", ""]);
  });

  it("tells what is tried from what is saved, and is designed for nothing", () => {
    shown(<ConsequencePanel />, [], true);
    expect(screen.getByText(/Tried, not yet saved/)).toBeInTheDocument();
    expect(screen.getByText(/No target yet/)).toBeInTheDocument();
  });
});

describe("a target as a box", () => {
  it("says how full it is and when it will be", () => {
    shown(<TargetBox target={DISK} chosen />, [one("disk", null, { full_on: "2029-06-16" })]);
    const box = screen.getByRole("link");
    expect(box).toHaveTextContent("5.00 TB, 50 %");
    expect(box).toHaveTextContent("full 16 June 2029");
    expect(box).toHaveAttribute("aria-current", "page");
  });

  it("has no share where there is no limit", () => {
    shown(<TargetBox target={DISK} chosen={false} />, [one("disk", null, { room_bytes: null })]);
    expect(screen.getByRole("link")).toHaveTextContent("grows with use");
    expect(screen.getByRole("link")).not.toHaveTextContent("%");
  });
});

describe("the row of a route", () => {
  function label(...protection: Protection[]) {
    const workloads = protection.flatMap((group) => group.workloads);
    shown(
      <RouteLabel
        row={0}
        route={ROUTE}
        reading={{ workloads, copies: {}, protection }}
        chosen={false}
        focused={false}
        onFocus={vi.fn()}
      />,
    );
    return screen.getByRole("rowheader");
  }

  const whole: Protection = {
    workloads: ["a"],
    copies: 3,
    media: ["disk", "tape"],
    sites: ["here", "there"],
    locked: true,
    missing: [],
    oldest_days: 2,
    verdict: "3-2-1 holds on 31 December 2028, oldest copy 2 days",
  };

  it("counts copies, media and sites, and says that one is locked", () => {
    const row = label(whole);
    expect(row).toHaveTextContent("1 workload, locked");
    expect(row).toHaveTextContent("3 copies, 2 media, 2 sites");
    expect(row).toHaveTextContent("3-2-1 holds");
  });

  it("speaks for those that are protected worst, and says how many they are", () => {
    const poor = {
      ...whole,
      workloads: ["b", "c"],
      copies: 1,
      sites: ["here"],
      locked: false,
      missing: ["2 more copies"],
      verdict: "3-2-1 lacks 2 more copies on 31 December 2028",
    };
    const row = label(whole, poor);
    expect(row).toHaveTextContent("3 workloads, none locked");
    expect(row).toHaveTextContent("1 copy, 2 media, 1 site");
    expect(row).toHaveTextContent("3-2-1 lacks 2 more copies on 31 December 2028, for 2 of 3");
  });

  it("opens by Enter", async () => {
    label(whole).focus();
    await userEvent.keyboard("{Enter}");
    expect(screen.getByTestId("path")).toHaveTextContent("/routes/files");
  });
});

describe("find", () => {
  async function typed(text: string, act = vi.fn()) {
    const onClose = vi.fn();
    shown(<FindDialog actions={[{ name: "Light or dark", act }]} onClose={onClose} />);
    await userEvent.type(screen.getByRole("combobox"), text);
    return onClose;
  }

  it.each([
    ["mail", "/workloads/mail"],
    ["files house", "/routes/files/house"],
    ["rule ladder", "/rules/ladders/rule"],
    ["disk target", "/targets/disk"],
    ["forecast", "/forecast"],
  ])("%s goes to %s", async (text, path) => {
    const onClose = await typed(`${text}{Enter}`);
    expect(screen.getByTestId("path")).toHaveTextContent(path);
    expect(onClose).toHaveBeenCalled();
  });

  it("does actions by their names", async () => {
    const act = vi.fn();
    await typed("dark{Enter}", act);
    expect(act).toHaveBeenCalledOnce();
  });

  it("says when nothing is called that", async () => {
    await typed("zzz");
    expect(screen.getByText("Nothing in this design is called that")).toBeInTheDocument();
  });
});
