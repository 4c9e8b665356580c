import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { SIGNED_IN } from "../api/waiting";

/** Who is signed in: undefined while that is being asked, null for nobody. */
export function useSession() {
  const cache = useQueryClient();
  const who = useQuery({ queryKey: keys.session, queryFn: () => unwrap(client.GET("/api/session")) });
  const signIn = useMutation({
    mutationFn: (body: { username: string; password: string }) =>
      unwrap(client.POST("/api/session", { body })),
    onSuccess: async (session) => {
      cache.setQueryData(keys.session, session);
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
  return { username: who.data?.username, error: who.error, signIn, signOut };
}
