import { Button } from "@mui/material";
import { type ReactNode, useRef } from "react";

interface Props {
  accept: string;
  loading?: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
}

/** A button that asks for a file. The same file, mended meanwhile, can be chosen again. */
export function FileButton({ accept, loading = false, onFile, children }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button loading={loading} sx={{ whiteSpace: "nowrap" }} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        hidden
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
    </>
  );
}
