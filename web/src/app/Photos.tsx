import { useState } from "react";
import { asRefused, type Shown } from "../api/client";
import { useAttachments, useWaitingPicture } from "../data/useAttachments";
import type { PhotoRecord, Waiting } from "../data/outbox";
import { Refused } from "./Refused";

interface Props {
  jobId: string;
  shown: Shown;
  /** What it is of, in words: "the intake". */
  of: string;
  small?: boolean;
}

/** Photos of one thing, and taking another: kept on this device at once, and sent when there is a signal. */
export function Photos({ jobId, shown, of, small = false }: Props) {
  const { lines, waiting, add } = useAttachments(jobId, shown);
  const [trouble, setTrouble] = useState("");
  return (
    <div
      className={`flex flex-wrap items-center gap-2 ${small ? "" : "py-1"}`}
      data-photos={lines.length}
      data-photos-waiting={waiting.length}
    >
      {lines.map((line) => (
        <a
          key={line.id}
          href={`/api/attachments/${line.id}`}
          target="_blank"
          rel="noreferrer"
          title={`${line.by}, ${line.taken_at.slice(0, 16).replace("T", " ")}`}
        >
          {line.kind === "application/pdf" ? (
            <span className="btn h-20">PDF of {of}</span>
          ) : (
            <img
              className={`border border-base-300 object-cover ${small ? "h-9 w-9" : "h-20 w-20"}`}
              src={`/api/attachments/${line.id}`}
              alt={`Of ${of}, by ${line.by}`}
            />
          )}
        </a>
      ))}
      {waiting.map((each) => (
        <NotSent key={each.id} photo={each} of={of} />
      ))}
      <label className={`btn focus-within:outline-2 ${small ? "btn-sm" : "min-h-11"}`}>
        Add photo
        <input
          className="sr-only"
          type="file"
          name="photo"
          aria-label={`Add a photo of ${of}`}
          accept="image/jpeg,image/png,application/pdf"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (!file) return;
            add(file)
              .then(() => setTrouble(""))
              .catch((error: unknown) =>
                setTrouble(error instanceof Error ? error.message : asRefused(error).body.message),
              );
          }}
        />
      </label>
      {trouble && (
        <p role="alert" className="font-semibold text-error">
          Not kept: {trouble}
        </p>
      )}
    </div>
  );
}

function NotSent({ photo, of }: { photo: Waiting<PhotoRecord>; of: string }) {
  const address = useWaitingPicture(photo.id);
  return (
    <figure className={`border-2 border-dashed ${photo.trouble === undefined ? "border-warning" : "border-error"}`}>
      {address && <img className="h-20 w-20 object-cover" src={address} alt={`Of ${of}, on this device`} />}
      <figcaption className="max-w-40 px-1 text-sm font-semibold">
        {photo.trouble === undefined ? "not sent yet" : <Refused waiting={photo} />}
      </figcaption>
    </figure>
  );
}
