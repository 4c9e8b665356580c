import CheckIcon from "@mui/icons-material/Check";
import { Button, Divider, Menu, MenuItem } from "@mui/material";
import { useRef, useState } from "react";
import type { GridColumns } from "./useGridColumns";

/** Which columns are in sight. */
export function ColumnsButton({ columns }: { columns: GridColumns }) {
  const here = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const close = () => setOpen(false);
  return (
    <>
      <Button ref={here} onClick={() => setOpen(true)} aria-haspopup="menu">
        Columns
      </Button>
      <Menu
        open={open}
        anchorEl={() => here.current}
        onClose={close}
        slotProps={{ list: { "aria-label": "Columns in sight", dense: true } }}
      >
        {columns.all.map(([column, isShown]) => (
          <MenuItem
            key={column.field}
            role="menuitemcheckbox"
            aria-checked={isShown}
            disabled={isShown && columns.shown.length === 1}
            onClick={() => columns.show(column.field, !isShown)}
          >
            <CheckIcon fontSize="small" sx={{ mr: 1, visibility: isShown ? "visible" : "hidden" }} />
            {column.name}
          </MenuItem>
        ))}
        <Divider />
        <MenuItem
          onClick={() => {
            columns.reset();
            close();
          }}
        >
          All as at first
        </MenuItem>
      </Menu>
    </>
  );
}
