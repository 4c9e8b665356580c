import { useEffect, useState } from "react";
import { SIGNED_OUT } from "../api/client";
import { SIGNED_IN } from "../api/waiting";

/** Whether a request was refused because the session has ended, and nobody has signed in since. */
export function useSessionIsOver(): boolean {
  const [isOver, setIsOver] = useState(false);
  useEffect(() => {
    const ended = () => setIsOver(true);
    const begun = () => setIsOver(false);
    window.addEventListener(SIGNED_OUT, ended);
    window.addEventListener(SIGNED_IN, begun);
    return () => {
      window.removeEventListener(SIGNED_OUT, ended);
      window.removeEventListener(SIGNED_IN, begun);
    };
  }, []);
  return isOver;
}
