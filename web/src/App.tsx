import CssBaseline from "@mui/material/CssBaseline";
import { ThemeProvider } from "@mui/material/styles";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useMemo } from "react";
import { BrowserRouter } from "react-router";
import { isWorthWaitingFor } from "./api/waiting";
import { DesignProvider } from "./design/DesignProvider";
import { NewDesign } from "./designs/NewDesign";
import { OpenDesign } from "./designs/openDesign";
import { useOpenDesign } from "./designs/useOpenDesign";
import { Frame } from "./frame/Frame";
import { SignIn, SignInAgain } from "./session/SignIn";
import { useSession } from "./session/useSession";
import { useSessionIsOver } from "./session/useSessionIsOver";
import { Notice } from "./shared/Notice";
import { shelfTheme } from "./theme/theme";
import { useMode } from "./theme/useMode";

const TRIES = 5;

// What passes is asked for again by itself; what is refused is not.
const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (failures, error) => failures < (isWorthWaitingFor(error) ? TRIES : 1),
      retryDelay: (failures) => Math.min(500 * 2 ** failures, 4000),
      refetchOnWindowFocus: false,
    },
  },
});

/** The application: theme, session, then the design of the person. */
export function App() {
  const { mode, toggle } = useMode();
  const theme = useMemo(() => shelfTheme(mode), [mode]);
  return (
    <QueryClientProvider client={queries}>
      <ThemeProvider theme={theme}>
        <CssBaseline />
        <Session onToggleMode={toggle} />
      </ThemeProvider>
    </QueryClientProvider>
  );
}

function Session({ onToggleMode }: { onToggleMode: () => void }) {
  const { username, style, error, signIn, signOut } = useSession();
  const isOver = useSessionIsOver();
  if (error && username === undefined) return <Notice title="The server does not answer" error={error} />;
  if (username === undefined) return null;
  if (username === null) return <SignIn signIn={signIn} />;
  return (
    <>
      {/* Written in another way, all of it is written anew. */}
      <Opened
        key={`${style?.digits} ${style?.dates}`}
        username={username}
        onToggleMode={onToggleMode}
        onSignOut={() => signOut.mutate()}
      />
      {isOver && <SignInAgain signIn={signIn} username={username} />}
    </>
  );
}

interface Person {
  username: string;
  onToggleMode: () => void;
  onSignOut: () => void;
}

function Opened(person: Person) {
  const { designs, error, id, open } = useOpenDesign();
  const value = useMemo(() => ({ designs: designs ?? [], open }), [designs, open]);
  if (error) return <Notice title="Your designs cannot be fetched" error={error} />;
  if (designs === undefined) return null;
  if (id === null)
    return (
      <Notice
        title={designs.length === 0 ? "No design belongs to you yet" : "This design is not among yours"}
      >
        <NewDesign onMade={(made) => open(made)} />
      </Notice>
    );
  // A design of its own keeps its own undo, trials and places: nothing of one shows in another.
  return (
    <OpenDesign.Provider value={value}>
      <BrowserRouter key={id} basename={`/designs/${id}`}>
        <DesignProvider id={id} username={person.username}>
          <Frame {...person} />
        </DesignProvider>
      </BrowserRouter>
    </OpenDesign.Provider>
  );
}
