import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { TokenLine, TokenMade } from "../api/types";
import { useDesign } from "../design/context";
import { Choice } from "../shared/Choice";
import { Refusal } from "../shared/Refusal";

const ROLES = {
  viewer: "reads designs",
  editor: "reads and edits designs",
  owner: "does all that you may",
  calendar: "subscribes to calendars only",
};
const DAYS = { "7": "a week", "30": "30 days", "90": "90 days", "366": "a year" };

/** Tokens for scripts and calendars: made here, shown once, taken back here. */
export function TokensDialog({ onClose }: { onClose: () => void }) {
  const cache = useQueryClient();
  const [name, setName] = useState("");
  const [role, setRole] = useState<keyof typeof ROLES>("viewer");
  const [days, setDays] = useState<keyof typeof DAYS>("90");
  const tokens = useQuery({ queryKey: keys.tokens, queryFn: () => unwrap(client.GET("/api/tokens")) });
  const refresh = () => cache.invalidateQueries({ queryKey: keys.tokens });
  const make = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/tokens", { body: { name: name.trim(), role, days: Number(days) } })),
    onSuccess: () => {
      setName("");
      return refresh();
    },
  });
  const revoke = useMutation({
    mutationFn: (id: number) => unwrap(client.DELETE("/api/tokens/{id}", { params: { path: { id } } })),
    onSuccess: refresh,
  });
  return (
    <Dialog open onClose={onClose} aria-labelledby="tokens-title" fullWidth maxWidth="md">
      <DialogTitle id="tokens-title">Tokens for scripts and calendars</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary">
          A token lets a program act for you, as far as you say here and no further than you may yourself.
        </Typography>
        <Stack
          component="form"
          direction="row"
          sx={{ gap: 1, alignItems: "center", my: 1.5, flexWrap: "wrap" }}
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim()) make.mutate();
          }}
        >
          A token for
          <TextField
            value={name}
            onChange={(event) => setName(event.target.value)}
            placeholder="nightly check"
            slotProps={{ htmlInput: { "aria-label": "What the token is for", maxLength: 100 } }}
          />
          that
          <Choice
            label="What the token may do"
            value={role}
            options={ROLES}
            disabled={false}
            onChange={setRole}
          />
          for
          <Choice
            label="How long the token counts"
            value={days}
            options={DAYS}
            disabled={false}
            onChange={setDays}
          />
          <Button type="submit" variant="contained" disabled={name.trim() === ""} loading={make.isPending}>
            Make the token
          </Button>
        </Stack>
        <Refusal error={make.error ?? revoke.error ?? tokens.error} />
        {make.data && <ShownOnce made={make.data} />}
        <TokenList tokens={tokens.data ?? []} onRevoke={(id) => revoke.mutate(id)} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

/** A new token, or for a calendar the address to subscribe to. */
function ShownOnce({ made }: { made: TokenMade }) {
  const { design } = useDesign();
  const address = `${window.location.origin}/api/designs/${design.id}/calendar.ics?token=${made.token}`;
  const shown = made.role === "calendar" ? address : made.token;
  return (
    <Box sx={{ border: 1, borderColor: "primary.main", p: 1, mb: 1.5 }} role="status">
      <Typography>
        {made.role === "calendar"
          ? `The address to subscribe to for ${design.document.name}. It is shown this once:`
          : "The token. It is shown this once:"}
      </Typography>
      <Box component="code" data-testid="token" sx={{ overflowWrap: "anywhere" }}>
        {shown}
      </Box>{" "}
      <Button size="small" onClick={() => void navigator.clipboard.writeText(shown)}>
        Copy it
      </Button>
    </Box>
  );
}

function TokenList({ tokens, onRevoke }: { tokens: TokenLine[]; onRevoke: (id: number) => void }) {
  if (tokens.length === 0) return <Typography color="textSecondary">No token yet.</Typography>;
  return (
    <Table size="small" aria-label="Tokens">
      <TableHead>
        <TableRow>
          <TableCell>for</TableCell>
          <TableCell>what it may do</TableCell>
          <TableCell>counts until</TableCell>
          <TableCell>last used</TableCell>
          <TableCell />
        </TableRow>
      </TableHead>
      <TableBody>
        {tokens.map((one) => (
          <TableRow key={one.id}>
            <TableCell component="th" scope="row">
              {one.name}
            </TableCell>
            <TableCell>{ROLES[one.role]}</TableCell>
            <TableCell>
              {one.over ? "over since " : ""}
              {one.expires.slice(0, 10)}
            </TableCell>
            <TableCell>{one.last_used?.slice(0, 10) ?? "not yet"}</TableCell>
            <TableCell align="right">
              <Button
                size="small"
                color="error"
                aria-label={`Revoke ${one.name}`}
                onClick={() => onRevoke(one.id)}
              >
                Revoke
              </Button>
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
