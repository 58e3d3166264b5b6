import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { asRefused } from "../api/client";
import { RefusalNote } from "./RefusalNote";

/** What is asked for, once it is there; until then that it is being opened, or why it cannot be. */
export function Opened<T>({
  query,
  waiting = "Opening…",
  children,
}: {
  query: UseQueryResult<T>;
  waiting?: string;
  children: (data: T) => ReactNode;
}) {
  if (query.isError)
    return (
      <div className="p-6">
        <RefusalNote refused={asRefused(query.error)} />
      </div>
    );
  if (query.data === undefined) return <p className="p-6">{waiting}</p>;
  return <>{children(query.data)}</>;
}
