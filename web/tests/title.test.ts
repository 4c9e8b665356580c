import { describe, expect, it } from "vitest";
import { titleOf } from "../src/frame/useTitle";

describe("the title of the page", () => {
  it.each([
    ["/workloads/mail", "Workloads - House - Rested Shelf"],
    ["/rules/ladders/daily", "Ladders, Rules - House - Rested Shelf"],
    ["/forecast", "All targets, Forecast - House - Rested Shelf"],
    ["/forecast/target/disk", "One target, Forecast - House - Rested Shelf"],
    ["/proof/plans", "Plans of recovery, Proof - House - Rested Shelf"],
    ["/", "House - Rested Shelf"],
  ])("of %s names the view, the station and the design", (path, title) => {
    expect(titleOf(path, "House")).toBe(title);
  });
});
