import { Box, Button, Dialog, DialogContent, DialogTitle, Stack, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { ProblemError } from "../api/client";
import { Mark } from "../frame/Mark";
import type { useSession } from "./useSession";

type SignInAct = ReturnType<typeof useSession>["signIn"];

/** The page of somebody who is not signed in. */
export function SignIn({ signIn }: { signIn: SignInAct }) {
  return (
    <Box component="main" sx={{ minHeight: "100vh", display: "grid", placeItems: "center" }}>
      <Box
        sx={{
          width: 380,
          p: 4,
          border: 1,
          borderColor: "divider",
          borderRadius: 1,
          bgcolor: "background.paper",
        }}
      >
        <SignInForm signIn={signIn} again={null} />
      </Box>
    </Box>
  );
}

/** Signing in again where one is: the session has ended, and what was typed waits on the page behind. */
export function SignInAgain({ signIn, username }: { signIn: SignInAct; username: string }) {
  return (
    <Dialog open aria-labelledby="again-title" maxWidth="xs" fullWidth>
      <DialogTitle id="again-title">Your session has ended</DialogTitle>
      <DialogContent>
        <SignInForm signIn={signIn} again={username} />
      </DialogContent>
    </Dialog>
  );
}

function SignInForm({ signIn, again }: { signIn: SignInAct; again: string | null }) {
  const [username, setUsername] = useState(again ?? "");
  const [password, setPassword] = useState("");
  const problem = signIn.error;
  return (
    <Stack
      component="form"
      spacing={2}
      sx={{ pt: again === null ? 0 : 1 }}
      onSubmit={(event) => {
        event.preventDefault();
        signIn.mutate({ username, password });
      }}
    >
      {again === null ? (
        <>
          <Stack direction="row" spacing={1.5} sx={{ alignItems: "center" }}>
            <Mark size={34} />
            <Typography variant="h1">Rested Shelf</Typography>
          </Stack>
          <Typography color="textSecondary">
            Design how long restore points stay, and see what every target will hold, years ahead.
          </Typography>
        </>
      ) : (
        <Typography>What you typed is kept here, and saved as soon as you have signed in again.</Typography>
      )}
      <TextField
        label="Name"
        value={username}
        onChange={(event) => setUsername(event.target.value)}
        autoFocus={again === null}
        disabled={again !== null}
        autoComplete="username"
      />
      <TextField
        label="Password"
        type="password"
        autoFocus={again !== null}
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
      {again === null && (
        <Typography variant="body2" color="textSecondary">
          The demo account is <b>mara</b> with the password <b>lindmoor-demo</b>. It owns the design of an
          invented botanic trust; whatever you change there is kept, and can be undone.
        </Typography>
      )}
    </Stack>
  );
}
