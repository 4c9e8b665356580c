import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import type { components } from "../api/generated/schema";
import { keys } from "../api/keys";
import { SIGNED_IN } from "../api/waiting";
import { AT_FIRST, chooseStyle } from "../shared/style";

type SessionOut = components["schemas"]["SessionOut"];

/** Who is signed in: undefined while that is being asked, null for nobody. */
export function useSession() {
  const cache = useQueryClient();
  const who = useQuery({
    queryKey: keys.session,
    queryFn: async () => styled(await unwrap(client.GET("/api/session"))),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const signIn = useMutation({
    mutationFn: (body: { username: string; password: string }) =>
      unwrap(client.POST("/api/session", { body })),
    onSuccess: async (session) => {
      cache.setQueryData(keys.session, styled(session));
      window.dispatchEvent(new Event(SIGNED_IN));
      await cache.invalidateQueries({ predicate: (query) => query.state.status === "error" });
    },
  });
  const signOut = useMutation({
    mutationFn: () => unwrap(client.DELETE("/api/session")),
    onSuccess: () => {
      cache.clear();
      window.location.assign("/");
    },
  });
  return { username: who.data?.username, style: who.data?.style, error: who.error, signIn, signOut };
}

/** From here on figures are written as the person likes it. */
function styled(session: SessionOut): SessionOut {
  chooseStyle(session.style ?? AT_FIRST);
  return session;
}
