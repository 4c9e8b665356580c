import { Button, Menu, MenuItem } from "@mui/material";
import { type ReactNode, useRef, useState } from "react";

interface Props {
  label: string;
  /** What can be saved, and how. */
  acts: [string, () => void][];
  children?: ReactNode;
}

/** A button that opens the ways in which what stands beside it can be taken away. */
export function DownloadMenu({ label, acts, children }: Props) {
  const here = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const close = () => setOpen(false);
  return (
    <>
      <Button ref={here} onClick={() => setOpen(true)} aria-haspopup="menu">
        {label}
      </Button>
      <Menu open={open} anchorEl={() => here.current} onClose={close} onClick={close}>
        {acts.map(([name, act]) => (
          <MenuItem key={name} onClick={act}>
            {name}
          </MenuItem>
        ))}
        {children}
      </Menu>
    </>
  );
}
