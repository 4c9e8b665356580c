import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { ProblemError } from "../api/client";
import { Mark } from "../frame/Mark";
import type { useSession } from "./useSession";

/** The page of somebody who is not signed in. */
export function SignIn({ signIn }: { signIn: ReturnType<typeof useSession>["signIn"] }) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const problem = signIn.error;
  return (
    <Box component="main" sx={{ minHeight: "100vh", display: "grid", placeItems: "center" }}>
      <Stack
        component="form"
        spacing={2}
        sx={{
          width: 380,
          p: 4,
          border: 1,
          borderColor: "divider",
          borderRadius: 1,
          bgcolor: "background.paper",
        }}
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate({ username, password });
        }}
      >
        <Stack direction="row" spacing={1.5} sx={{ alignItems: "center" }}>
          <Mark size={34} />
          <Typography variant="h1">Rested Shelf</Typography>
        </Stack>
        <Typography color="textSecondary">
          Design how long restore points stay, and see what every target will hold, years ahead.
        </Typography>
        <TextField
          label="Name"
          value={username}
          onChange={(event) => setUsername(event.target.value)}
          autoFocus
          autoComplete="username"
        />
        <TextField
          label="Password"
          type="password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          autoComplete="current-password"
        />
        {problem && (
          <Typography role="alert" color="error">
            {problem instanceof ProblemError ? problem.words : "Signing in failed"}
          </Typography>
        )}
        <Button type="submit" variant="contained" size="large" loading={signIn.isPending}>
          Sign in
        </Button>
        <Typography variant="body2" color="textSecondary">
          The demo account is <b>mara</b> with the password <b>lindmoor-demo</b>. It owns the design of an
          invented botanic trust; whatever you change there is kept, and can be undone.
        </Typography>
      </Stack>
    </Box>
  );
}
