import { act, renderHook } from "@testing-library/react";
import { scaleLinear } from "d3-scale";
import type { KeyboardEvent } from "react";
import { describe, expect, it, vi } from "vitest";
import { useReading } from "../src/stations/forecast/useReading";

// Four days of a design of a hundred, a hundred pixels wide: a pixel is a day.
const PLACES = [0, 10, 40, 99];
const X = scaleLinear([0, 100], [0, 100]);

function pointed(clientX: number) {
  return { clientX, currentTarget: { getBoundingClientRect: () => ({ left: 0 }) } as Element };
}

function key(name: string) {
  return { key: name, preventDefault: vi.fn() } as unknown as KeyboardEvent;
}

function reading(asOf: number) {
  return renderHook(() => useReading(PLACES, asOf, X)).result;
}

describe("reading a chart", () => {
  it("stands at the first day that is shown from the as-of date on", () => {
    expect(reading(11).current.at).toBe(2);
    expect(reading(10).current.at).toBe(1);
    expect(reading(100).current.at).toBe(3);
    expect(reading(11).current.isReading).toBe(false);
  });

  it("follows the pointer and lets go of it", () => {
    const result = reading(0);
    act(() => result.current.follow(pointed(35)));
    expect([result.current.at, result.current.isReading]).toEqual([2, true]);
    act(() => result.current.leave());
    expect([result.current.at, result.current.isReading]).toEqual([0, false]);
  });

  it("goes by the arrow keys from where it stands, never past the ends", () => {
    const result = reading(10);
    act(() => result.current.press(key("ArrowRight")));
    expect(result.current.at).toBe(2);
    act(() => result.current.press(key("PageDown")));
    expect(result.current.at).toBe(3);
    act(() => result.current.press(key("PageUp")));
    expect(result.current.at).toBe(0);
  });

  it("leaves other keys alone", () => {
    const result = reading(10);
    const other = key("a");
    act(() => result.current.press(other));
    expect(other.preventDefault).not.toHaveBeenCalled();
    expect(result.current.isReading).toBe(false);
  });
});
