import "@testing-library/jest-dom/vitest";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useLayoutEffect } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import * as typed from "../src/api/typed";
import { AmountWord } from "../src/shared/AmountWord";
import { DurationWord } from "../src/shared/DurationWord";
import { FaultyRows } from "../src/shared/FaultyRows";
import { idFrom } from "../src/shared/ids";
import { SeveralWords } from "../src/shared/SeveralWords";
import { SizeWord } from "../src/shared/SizeWord";
import { TextWord } from "../src/shared/TextWord";

afterEach(cleanup);

function field(label: string): HTMLInputElement {
  return screen.getByLabelText<HTMLInputElement>(label);
}

describe("a typed word", () => {
  it("is kept on Enter, once, and not when nothing was typed", async () => {
    const onKeep = vi.fn().mockResolvedValue(true);
    render(<TextWord label="Capacity" value="10 TB" disabled={false} onKeep={onKeep} />);
    await userEvent.click(field("Capacity"));
    await userEvent.tab();
    expect(onKeep).not.toHaveBeenCalled();
    await userEvent.clear(field("Capacity"));
    await userEvent.type(field("Capacity"), "12 TiB{Enter}");
    expect(onKeep).toHaveBeenCalledExactlyOnceWith("12 TiB");
  });

  it("stays to be mended when it was refused, and Escape takes it back", async () => {
    render(
      <TextWord label="Capacity" value="10 TB" disabled={false} onKeep={vi.fn().mockResolvedValue(false)} />,
    );
    await userEvent.clear(field("Capacity"));
    await userEvent.type(field("Capacity"), "lots{Enter}");
    expect(field("Capacity")).toHaveValue("lots");
    expect(field("Capacity")).toBeInvalid();
    await userEvent.type(field("Capacity"), "{Escape}");
    expect(field("Capacity")).toHaveValue("10 TB");
    expect(field("Capacity")).not.toBeInvalid();
  });

  it("is not pulled from under the hand by a value that arrives meanwhile", async () => {
    const props = { label: "Name", disabled: false, onKeep: vi.fn().mockResolvedValue(true) };
    const { rerender } = render(<TextWord {...props} value="old" />);
    await userEvent.clear(field("Name"));
    await userEvent.type(field("Name"), "half ty");
    rerender(<TextWord {...props} value="somebody else's" />);
    expect(field("Name")).toHaveValue("half ty");
  });
});

describe("a typed word whose value arrives late", () => {
  it("is not kept as what stood there before, when the hand leaves it meanwhile", async () => {
    const onKeep = vi.fn().mockResolvedValue(true);
    // The hand leaves in the moment that the value is drawn, as it does when a router draws it a little later.
    const Left = ({ value }: { value: string }) => {
      useLayoutEffect(() => {
        if (value !== "") field("Taken to").blur();
      }, [value]);
      return <TextWord label="Taken to" value={value} disabled={false} onKeep={onKeep} />;
    };
    const { rerender } = render(<Left value="" />);
    await userEvent.type(field("Taken to"), "2028-06-30{Enter}");
    rerender(<Left value="2028-06-30" />);
    expect(field("Taken to")).toHaveValue("2028-06-30");
    expect(onKeep).toHaveBeenCalledExactlyOnceWith("2028-06-30");
  });

  it("is asked for once when Enter is pressed and the hand leaves before the answer", async () => {
    const props = { label: "Name", disabled: false, onKeep: vi.fn(() => new Promise<boolean>(() => {})) };
    render(<TextWord {...props} value="old" />);
    await userEvent.clear(field("Name"));
    await userEvent.type(field("Name"), "new{Enter}");
    await userEvent.tab();
    expect(props.onKeep).toHaveBeenCalledTimes(1);
    expect(field("Name")).toHaveValue("new");
  });
});

describe("an amount", () => {
  it("is read by the core, and says beside it why it cannot be read", async () => {
    const readTyped = vi.spyOn(typed, "readTyped");
    readTyped.mockResolvedValueOnce({ value: 7.5 }).mockResolvedValueOnce({ why: "expected a number" });
    const onKeep = vi.fn().mockResolvedValue(true);
    render(<AmountWord label="Price" value={3} disabled={false} onKeep={onKeep} />);
    await userEvent.clear(field("Price"));
    await userEvent.type(field("Price"), "7,5{Enter}");
    expect(onKeep).toHaveBeenLastCalledWith(7.5);
    await userEvent.clear(field("Price"));
    await userEvent.type(field("Price"), "cheap{Enter}");
    expect(readTyped.mock.calls).toEqual([
      ["number", "7,5", null],
      ["number", "cheap", null],
    ]);
    expect(onKeep).toHaveBeenCalledTimes(1);
    expect(field("Price")).toBeInvalid();
    expect(screen.getByRole("alert")).toHaveTextContent("expected a number");
    expect(field("Price")).toHaveValue("cheap");
  });
});

describe("a size", () => {
  it("takes the unit that stood there, and is none when it is emptied", async () => {
    const readTyped = vi.spyOn(typed, "readTyped").mockResolvedValueOnce({ value: "34 TB" });
    const onKeep = vi.fn().mockResolvedValue(true);
    render(<SizeWord label="Capacity" value="10 TB" disabled={false} onKeep={onKeep} />);
    await userEvent.clear(field("Capacity"));
    await userEvent.type(field("Capacity"), "34{Enter}");
    expect(readTyped).toHaveBeenLastCalledWith("size", "34", "10 TB");
    expect(onKeep).toHaveBeenLastCalledWith("34 TB");
    await userEvent.clear(field("Capacity"));
    await userEvent.keyboard("{Enter}");
    expect(onKeep).toHaveBeenLastCalledWith(null);
  });
});

describe("a duration", () => {
  it.each([
    ["P14D", "14", "days"],
    ["PT6H", "6", "hours"],
    ["P5W", "5", "weeks"],
    ["P7Y", "7", "years"],
    ["PT0S", "0", "hours"],
  ])("%s is a number and a unit", (value, count, unit) => {
    render(<DurationWord label="Age" value={value} disabled={false} onKeep={vi.fn()} />);
    expect(field("Age")).toHaveValue(Number(count));
    expect(screen.getByLabelText("Unit of Age")).toHaveTextContent(unit);
  });

  it("that mixes units is shown as it is written, with nothing to type", () => {
    render(<DurationWord label="Age" value="P1Y6M" disabled={false} onKeep={vi.fn()} />);
    expect(screen.getByText("P1Y6M")).toBeInTheDocument();
    expect(screen.queryByLabelText("Age")).not.toBeInTheDocument();
  });

  it("is tried while it is typed, and kept in the unit that is chosen", async () => {
    const [onTry, onKeep] = [vi.fn(), vi.fn()];
    render(<DurationWord label="Age" value="P6M" disabled={false} onTry={onTry} onKeep={onKeep} />);
    await userEvent.clear(field("Age"));
    await userEvent.type(field("Age"), "9{Enter}");
    expect(onTry).toHaveBeenLastCalledWith("P9M");
    expect(onKeep).toHaveBeenLastCalledWith("P9M");
    await userEvent.click(screen.getByLabelText("Unit of Age"));
    await userEvent.click(screen.getByRole("option", { name: "hours" }));
    expect(onKeep).toHaveBeenLastCalledWith("PT6H");
  });
});

describe("several words", () => {
  const options = { w: "weekly", m: "monthly" };

  it("are chosen in the order of the list", async () => {
    const onChange = vi.fn();
    render(
      <SeveralWords label="Rungs" values={["m"]} options={options} disabled={false} onChange={onChange} />,
    );
    await userEvent.click(screen.getByLabelText("Rungs"));
    await userEvent.click(screen.getByRole("option", { name: "weekly" }));
    expect(onChange).toHaveBeenLastCalledWith(["w", "m"]);
  });

  it("are never none", async () => {
    const onChange = vi.fn();
    render(
      <SeveralWords label="Rungs" values={["m"]} options={options} disabled={false} onChange={onChange} />,
    );
    await userEvent.click(screen.getByLabelText("Rungs"));
    await userEvent.click(screen.getByRole("option", { name: "monthly" }));
    expect(onChange).not.toHaveBeenCalled();
  });
});

describe("faulty rows", () => {
  const faults = [
    { line: 3, field: "size", message: "expected a size" },
    { line: 3, field: "", message: "no site" },
    { line: 9, field: "count", message: "expected a whole number" },
  ];

  it("are named with line and field, and counted by line", async () => {
    const onLeaveOut = vi.fn();
    render(<FaultyRows faults={faults} leaveOut={false} onLeaveOut={onLeaveOut} />);
    expect(screen.getByText("Line 3, size: expected a size")).toBeInTheDocument();
    expect(screen.getByText("Line 3: no site")).toBeInTheDocument();
    await userEvent.click(screen.getByLabelText("Leave these 2 rows out"));
    expect(onLeaveOut).toHaveBeenCalledWith(true);
  });

  it("are not there when there are none", () => {
    const { container } = render(<FaultyRows faults={[]} leaveOut={false} onLeaveOut={vi.fn()} />);
    expect(container).toBeEmptyDOMElement();
  });
});

it.each([
  ["Fern disk", "fern-disk"],
  ["  Größe & Maß  ", "gro-e-ma"],
  ["***", "entry"],
])("the id of %s is %s", (name, id) => {
  expect(idFrom(name)).toBe(id);
});
