import "@testing-library/jest-dom/vitest";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { NumberField } from "../src/shared/NumberField";

afterEach(cleanup);

function field() {
  const onTry = vi.fn();
  const onKeep = vi.fn();
  render(<NumberField label="Number" value={14} min={1} disabled={false} onTry={onTry} onKeep={onKeep} />);
  return { onTry, onKeep, input: screen.getByLabelText("Number") };
}

describe("a number that is tried while it is typed", () => {
  it("tries each sound number and keeps the last on Enter", async () => {
    const { onTry, onKeep, input } = field();
    await userEvent.clear(input);
    await userEvent.type(input, "30{Enter}");
    expect(onTry.mock.calls).toEqual([[14], [3], [30]]);
    expect(onKeep.mock.calls).toEqual([[30]]);
  });

  it("keeps nothing that is no number", async () => {
    const { onKeep, input } = field();
    await userEvent.clear(input);
    await userEvent.tab();
    expect(onKeep).not.toHaveBeenCalled();
    expect(input).toHaveValue(14);
  });

  it.each(["2.5", "1e3", "99999999", "-4"])(
    "shows no trial of %s, and goes back to what is saved",
    async (typed) => {
      const { onTry, onKeep, input } = field();
      await userEvent.clear(input);
      await userEvent.type(input, typed);
      expect(onTry.mock.lastCall).toEqual([14]);
      expect(input).toBeInvalid();
      await userEvent.tab();
      expect(onKeep).not.toHaveBeenCalled();
      expect(input).toHaveValue(14);
    },
  );

  it("takes a million, as the rules do", async () => {
    const { onKeep, input } = field();
    await userEvent.clear(input);
    await userEvent.type(input, "1000000{Enter}");
    expect(onKeep).toHaveBeenLastCalledWith(1_000_000);
  });

  it("goes back on Escape", async () => {
    const { onTry, onKeep, input } = field();
    await userEvent.type(input, "0");
    await userEvent.keyboard("{Escape}");
    expect(onTry.mock.lastCall).toEqual([14]);
    await userEvent.tab();
    expect(onKeep).not.toHaveBeenCalled();
  });
});
