import { ProblemError } from "./client";

const TRIES_EACH_MS = 2000;

/** Said on the window when a session begins anew in the same page. */
export const SIGNED_IN = "shelf-signed-in";

/** Whether a request failed for a reason that passes: nobody there, the server starting again, the session over. */
export function isWorthWaitingFor(error: unknown): boolean {
  if (!(error instanceof ProblemError)) return false;
  const { status, type } = error.problem;
  return [0, 429, 502, 503].includes(status) || (status === 401 && type.endsWith(":signed-out"));
}

/** Comes back when it is worth trying again: after a while, when the network is back, or when somebody has signed in. */
export function nextTry(): Promise<void> {
  return new Promise((resolve) => {
    const done = () => {
      clearTimeout(timer);
      window.removeEventListener("online", done);
      window.removeEventListener(SIGNED_IN, done);
      resolve();
    };
    const timer = setTimeout(done, TRIES_EACH_MS);
    window.addEventListener("online", done);
    window.addEventListener(SIGNED_IN, done);
  });
}
