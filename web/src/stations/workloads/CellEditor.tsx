import { type KeyboardEvent, useLayoutEffect, useRef, useState } from "react";
import { useDesign } from "../../design/context";
import { type Column, flexOf } from "./columns";
import type { GoesOn } from "./useGridKeys";

interface Props {
  column: Column;
  start: string;
  /** Whether `start` is the key that opened the cell. */
  typed: boolean;
  label: string;
  onKeep: (text: string, goesOn: GoesOn) => void;
  onLeave: () => void;
}

/** A cell under the hand: Enter keeps and goes down, Tab to the right, either back with Shift; Escape leaves it as it was. */
export function CellEditor({ column, start, typed, label, onKeep, onLeave }: Props) {
  const { design } = useDesign();
  const [text, setText] = useState(start);
  const settled = useRef(false);
  const field = useRef<HTMLInputElement & HTMLSelectElement>(null);
  // What is there already is chosen as a whole; the key that opened the cell is the first of what is typed.
  useLayoutEffect(() => {
    field.current?.focus();
    if (typed) field.current?.setSelectionRange?.(start.length, start.length);
    else field.current?.select?.();
  }, [typed, start]);
  const settle = (act: () => void) => {
    if (settled.current) return;
    settled.current = true;
    act();
  };
  const press = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === "Enter" || event.key === "Tab") {
      event.preventDefault();
      settle(() => onKeep(text, goesOn(event)));
    }
    if (event.key === "Escape") settle(onLeave);
  };
  const common = {
    "aria-label": label,
    className: "cell-editor",
    value: text,
    ref: field,
    onKeyDown: press,
    onBlur: () => settle(() => onKeep(text, "stays")),
  };
  const options: [string, string][] =
    column.field === "site"
      ? design.document.sites.map((site) => [site.id, site.name || site.id])
      : [
          ["scattered", "scattered"],
          ["fresh", "fresh"],
        ];
  return (
    <div role="gridcell" tabIndex={-1} className="cell active" style={{ flex: flexOf(column), padding: 0 }}>
      {column.kind === "choice" ? (
        <select {...common} onChange={(event) => setText(event.target.value)}>
          {options.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      ) : (
        <input {...common} onChange={(event) => setText(event.target.value)} />
      )}
    </div>
  );
}

function goesOn(event: KeyboardEvent): GoesOn {
  if (event.key === "Tab") return event.shiftKey ? "left" : "right";
  return event.shiftKey ? "up" : "down";
}
