import { Divider, Menu, MenuItem } from "@mui/material";
import { useDesign } from "../../design/context";
import type { Column } from "./columns";
import { type Filter, type Order, turned } from "./rows";
import type { GridColumns } from "./useGridColumns";

const STEP = 20;

interface Props {
  column: Column;
  columns: GridColumns;
  /** What the cell under the hand says in this column; null where none is. */
  value: string | null;
  orders: readonly Order[];
  onOrders: (orders: Order[]) => void;
  filter: Filter;
  onFilter: (filter: Filter) => void;
  anchor: Element | null;
  onClose: () => void;
}

/** What can be done with a column: its order, what it must say, its width and place. */
export function ColumnMenu(props: Props) {
  const { column, columns, value, orders, onOrders, filter, onFilter, anchor, onClose } = props;
  const { field } = column;
  const { design } = useDesign();
  const called = (value: string) =>
    (field === "site" && design.document.sites.find((one) => one.id === value)?.name) || value;
  const isSorted = orders.some((one) => one.field === field);
  const others = orders.filter((one) => one.field !== field);
  const { [field]: wanted, ...further } = filter.values;
  const closing = (act: () => void) => () => {
    act();
    onClose();
  };
  const first = (down: boolean) => closing(() => onOrders([{ field, down }]));
  const next = (down: boolean) => closing(() => onOrders([...others, { field, down }]));
  return (
    <Menu
      open
      anchorEl={anchor}
      onClose={onClose}
      slotProps={{ list: { "aria-label": `The column ${column.name}`, dense: true } }}
    >
      {column.reads && <MenuItem onClick={first(false)}>Sort by it, going up</MenuItem>}
      {column.reads && <MenuItem onClick={first(true)}>Sort by it, going down</MenuItem>}
      {column.reads && others.length > 0 && <MenuItem onClick={next(false)}>Then by it, going up</MenuItem>}
      {column.reads && others.length > 0 && <MenuItem onClick={next(true)}>Then by it, going down</MenuItem>}
      {isSorted && (
        <MenuItem onClick={closing(() => onOrders(turned([{ field, down: true }, ...others], field, true)))}>
          Do not sort by it
        </MenuItem>
      )}
      <Divider />
      {value !== null && (
        <MenuItem
          onClick={closing(() => onFilter({ ...filter, values: { ...filter.values, [field]: value } }))}
        >
          {value === "" ? "Only rows where it is empty" : `Only rows with “${called(value)}”`}
        </MenuItem>
      )}
      {wanted !== undefined && (
        <MenuItem onClick={closing(() => onFilter({ ...filter, values: further }))}>
          Rows with anything
        </MenuItem>
      )}
      <Divider />
      <MenuItem onClick={() => columns.widen(field, STEP)}>Wider</MenuItem>
      <MenuItem onClick={() => columns.widen(field, -STEP)}>Narrower</MenuItem>
      <MenuItem onClick={() => columns.move(field, -1)}>Further left</MenuItem>
      <MenuItem onClick={() => columns.move(field, 1)}>Further right</MenuItem>
      {columns.shown.length > 1 && (
        <MenuItem onClick={closing(() => columns.show(field, false))}>Hide it</MenuItem>
      )}
    </Menu>
  );
}
