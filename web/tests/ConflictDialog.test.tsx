import "@testing-library/jest-dom/vitest";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Ladder } from "../src/api/types";
import { ConflictDialog } from "../src/design/ConflictDialog";
import type { Conflict } from "../src/design/editing";

afterEach(cleanup);

const mine: Ladder = { id: "house", name: "House", floor: 1, recent: [{ keep: { points: 9 } }], rungs: [] };

function conflict(now: object | null): Conflict {
  const problem = {
    type: "urn:stale",
    title: "nils has changed this since you saw it",
    status: 409,
    detail: "",
    faults: [],
  };
  return {
    again: vi.fn(),
    what: "recent set to 9",
    problem: {
      ...problem,
      entries: [
        {
          part: "ladders",
          key: "house",
          who: "nils",
          version: 4,
          seen: null,
          now: now as Record<string, never> | null,
          wanted: mine as unknown as Record<string, never>,
          fields: [{ field: "recent, 1, keep", before: "9 days", after: "points 9" }],
        },
      ],
    },
  };
}

describe("two people at one entry", () => {
  it("shows what differs in words, both ways", () => {
    render(<ConflictDialog conflict={conflict({ ...mine, recent: [{ keep: "P9D" }] })} onSettle={vi.fn()} />);
    expect(screen.getByText("recent, 1, keep")).toBeInTheDocument();
    expect(screen.getByText("theirs: 9 days")).toBeInTheDocument();
    expect(screen.getByText("yours: points 9")).toBeInTheDocument();
  });

  it("asks which stays", async () => {
    const onSettle = vi.fn();
    render(<ConflictDialog conflict={conflict({ ...mine, name: "Other" })} onSettle={onSettle} />);
    await userEvent.click(screen.getByRole("button", { name: "Put mine in its place" }));
    await userEvent.click(screen.getByRole("button", { name: "Keep theirs" }));
    expect(onSettle.mock.calls).toEqual([[true], [false]]);
  });
});
