import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Notice } from "./Notice";

interface Props {
  answer: UseQueryResult<unknown>;
  title: string;
  children: ReactNode;
}

/**
 * What says how fields stand beside each other is waited for: they would move under the hand once it is there. Where it fails,
 * fields are shown without it.
 */
export function OnceRead({ answer, title, children }: Props) {
  return answer.isPending && answer.failureCount === 0 ? <Notice title={title} /> : children;
}
