import createClient from "openapi-fetch";
import { restyled } from "../shared/style";
import type { paths } from "./generated/schema";
import type { StaleProblem } from "./types";

/** What the server refuses, in its own words (RFC 9457). */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail?: string;
  faults?: { path: string; message: string }[];
}

/** A request that was refused, or that did not get through (status 0). */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }

  /** The problem in one sentence for a message: its faults if it names any. */
  get words(): string {
    const faults = this.problem.faults ?? [];
    // Many places may have the same fault; said once it is enough.
    if (faults.length > 0) return [...new Set(faults.map((fault) => fault.message))].slice(0, 3).join("; ");
    return this.problem.detail ? `${this.problem.title}: ${this.problem.detail}` : this.problem.title;
  }
}

/** A refusal because somebody else changed the entry. */
export function staleProblem(error: unknown): StaleProblem | null {
  const isStale = error instanceof ProblemError && error.problem.type.endsWith(":stale");
  return isStale ? (error.problem as unknown as StaleProblem) : null;
}

function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

export const client = createClient<paths>({
  baseUrl: typeof window === "undefined" ? "http://localhost/" : window.location.origin,
  fetch: (request: Request) => globalThis.fetch(request),
});

client.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
});

/**
 * Posts within this very call: the request is on its way before anything is drawn. For what is asked at every key; the typed
 * client takes a few turns more. Throws ProblemError for anything but an answer.
 */
export function postAtOnce<T>(path: string, body: unknown): Promise<T> {
  const sent = globalThis.fetch(path, {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-CSRFToken": csrfToken() },
    body: JSON.stringify(body),
  });
  return unwrap<T>(sent.then(asAnswer<T>));
}

async function asAnswer<T>(response: Response): Promise<{ data?: T; error?: unknown; response: Response }> {
  const said = await response.json().catch(() => undefined);
  return response.ok ? { data: said as T, response } : { error: said, response };
}

/** Said on the window when a request was refused because the session is over. */
export const SIGNED_OUT = "shelf-signed-out";

const OFFLINE: Problem = {
  type: "offline",
  title: "The server cannot be reached",
  status: 0,
};

/** The data of an answer; throws ProblemError for anything else. */
export async function unwrap<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await answer.catch(() => {
    throw new ProblemError(OFFLINE);
  });
  if (response.ok) return restyled(data as T);
  const problem = restyled(error) as Partial<Problem> | undefined;
  if (response.status === 401 && problem?.type?.endsWith(":signed-out"))
    window.dispatchEvent(new Event(SIGNED_OUT));
  if (problem?.title) throw new ProblemError({ ...OFFLINE, ...problem });
  throw new ProblemError({ type: "server", title: "The server failed to answer", status: response.status });
}
