import { Stack, Typography } from "@mui/material";
import { Children, Fragment, isValidElement, type ReactNode } from "react";

/** One sentence of words that are chosen and typed; bare text in it is set as text. */
export function Line({ children, label }: { children: ReactNode; label?: string }) {
  return (
    <Stack
      direction="row"
      {...(label === undefined ? {} : { role: "group", "aria-label": label })}
      sx={{ gap: 0.75, rowGap: 0.5, alignItems: "center", flexWrap: "wrap" }}
    >
      {asText(children)}
    </Stack>
  );
}

function asText(children: ReactNode): ReactNode {
  return Children.map(children, (child) => {
    if (isValidElement<{ children?: ReactNode }>(child) && child.type === Fragment)
      return asText(child.props.children);
    if (typeof child !== "string") return child;
    // What only ends or parts a sentence stands close to the word before it.
    return <Typography sx={/^[.,;]/.test(child) ? { ml: -0.5 } : {}}>{child}</Typography>;
  });
}
