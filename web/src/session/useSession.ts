import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";

/** Who is signed in: undefined while that is being asked, null for nobody. */
export function useSession() {
  const cache = useQueryClient();
  const who = useQuery({ queryKey: ["session"], queryFn: () => unwrap(client.GET("/api/session")) });
  const signIn = useMutation({
    mutationFn: (body: { username: string; password: string }) =>
      unwrap(client.POST("/api/session", { body })),
    onSuccess: (session) => cache.setQueryData(["session"], session),
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
