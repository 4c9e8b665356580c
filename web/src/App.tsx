import CssBaseline from "@mui/material/CssBaseline";
import { ThemeProvider } from "@mui/material/styles";
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { BrowserRouter } from "react-router";
import { client, unwrap } from "./api/client";
import { DesignProvider } from "./design/DesignProvider";
import { Frame } from "./frame/Frame";
import { SignIn } from "./session/SignIn";
import { useSession } from "./session/useSession";
import { Notice } from "./shared/Notice";
import { shelfTheme } from "./theme/theme";
import { useMode } from "./theme/useMode";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

/** The application: theme, session, then the design of the person. */
export function App() {
  const { mode, toggle } = useMode();
  const theme = useMemo(() => shelfTheme(mode), [mode]);
  return (
    <QueryClientProvider client={queries}>
      <ThemeProvider theme={theme}>
        <CssBaseline />
        <BrowserRouter>
          <Session onToggleMode={toggle} />
        </BrowserRouter>
      </ThemeProvider>
    </QueryClientProvider>
  );
}

function Session({ onToggleMode }: { onToggleMode: () => void }) {
  const { username, error, signIn, signOut } = useSession();
  if (error) return <Notice title="The server does not answer" error={error} />;
  if (username === undefined) return null;
  if (username === null) return <SignIn signIn={signIn} />;
  return <FirstDesign username={username} onToggleMode={onToggleMode} onSignOut={() => signOut.mutate()} />;
}

interface Person {
  username: string;
  onToggleMode: () => void;
  onSignOut: () => void;
}

function FirstDesign(person: Person) {
  const designs = useQuery({ queryKey: ["designs"], queryFn: () => unwrap(client.GET("/api/designs")) });
  const first = designs.data?.[0];
  if (designs.error) return <Notice title="Your designs cannot be fetched" error={designs.error} />;
  if (!designs.data) return null;
  if (!first)
    return (
      <Notice title="No design belongs to you yet">
        Somebody who owns one can make you its viewer or editor.
      </Notice>
    );
  return (
    <DesignProvider id={first.id}>
      <Frame {...person} />
    </DesignProvider>
  );
}
