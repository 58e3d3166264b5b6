import type { JobHead } from "../../api/client";

/** The paper that a job most likely ends in. */
export function usualKind(head: Pick<JobHead, "rulebook" | "extent">): string {
  if (head.rulebook === "iec60364") return "verification";
  if (head.extent.work === "change") return "minor-works";
  return head.extent.state === "as-found" ? "condition" : "certificate";
}

/** Where in a job something is said: the address of a place as a paper names it, circuits by their ids. */
export function placeOf(jobId: string, at: string): string {
  const [stage = "", ...rest] = at.split("/");
  const base = `/jobs/${jobId}`;
  if (stage === "head") return `${base}/survey`;
  if (stage === "inspection") {
    const [part = "", ...about] = rest;
    const parts = ["findings", "offers", "particulars", "sign", "sample", "remedials", "last"];
    if (part === "offers") return `${base}/inspection/findings`;
    if (parts.includes(part)) return [`${base}/inspection`, part, ...about].join("/");
    return `${base}/inspection/walk/${encodeURIComponent(rest.join("/"))}`;
  }
  const id = /^([0-9a-f]{8})([0-9a-f]{4})([0-9a-f]{4})([0-9a-f]{4})([0-9a-f]{12})$/.exec(rest[0] ?? "");
  return id ? `${base}/${stage}/${id.slice(1).join("-")}` : `${base}/${stage}`;
}
