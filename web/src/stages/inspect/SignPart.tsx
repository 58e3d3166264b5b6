import { useState } from "react";
import { Link } from "react-router-dom";
import { asRefused, type Refused } from "../../api/client";
import { useSign } from "../../data/useSign";
import { useMe } from "../../data/me";
import { RefusalNote } from "../../parts/RefusalNote";
import { VerdictMark } from "../../parts/verdict";
import type { PartProps } from "./part";

const ROLES = [
  ["designer", "Designed by", "design"],
  ["constructor", "Built by", "test"],
  ["inspector", "Inspected and tested by", "test"],
  ["authoriser", "Authorised by", "issue"],
] as const;

/** Who answers for which part, each by signing in and giving the password; it stands until anything changes. */
export function SignPart({ job, view }: PartProps) {
  const me = useMe();
  const sign = useSign(job.id);
  const [refused, setRefused] = useState<Refused>();
  return (
    <>
      <p className="pb-2">
        Each signs for their own part, with their own account, and gives the password. When anything of the job changes
        after it, a signature stands no longer.
      </p>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      <ul>
        {ROLES.map(([role, words, right]) => {
          const signed = view.signed.find((each) => each.role === role);
          return (
            <li key={role} className="flex flex-wrap items-center gap-3 border-b border-base-300 py-2" data-role={role}>
              <VerdictMark state={signed?.stands ? "pass" : signed ? "fail" : "cannot-tell"} />
              <span className="grow">
                <b>{words}</b>{" "}
                {signed ? (
                  <>
                    {signed.by}, {signed.at.slice(0, 16).replace("T", " ")}
                    {!signed.stands && <b className="text-error">: the job has changed since</b>}
                  </>
                ) : (
                  <span className="quiet">nobody yet</span>
                )}
              </span>
              {me.rights.includes(right) && !signed?.stands && (
                <button
                  className="btn btn-primary"
                  onClick={() => {
                    setRefused(undefined);
                    sign(role).catch((error: unknown) => setRefused(asRefused(error)));
                  }}
                >
                  Sign as {me.name}
                </button>
              )}
            </li>
          );
        })}
      </ul>
      <p className="pt-3">
        <Link className="link" to={`/jobs/${job.id}/documents`}>
          To the papers
        </Link>
      </p>
    </>
  );
}
