import { useState } from "react";
import { asRefused, type Issued, type Refused } from "../../api/client";
import { useHandOver } from "../../data/useDocuments";
import { Labelled } from "../../parts/fields";
import { RefusalNote } from "../../parts/RefusalNote";

/** Sending a paper to whoever it is for, by a link that ends; where no mail goes out, the link is handed on by hand. */
export function HandOver({ issued }: { issued: Issued }) {
  const handOver = useHandOver(issued.id);
  const [open, setOpen] = useState(false);
  const [email, setEmail] = useState("");
  const [sent, setSent] = useState<Awaited<ReturnType<typeof handOver>>>();
  const [refused, setRefused] = useState<Refused>();
  if (sent)
    return (
      <p className="max-w-96 text-left text-sm whitespace-normal" data-handed={sent.mailed}>
        {sent.mailed ? `Sent to ${email}. ` : "No mail server took it: hand this link on. "}
        <span className="font-mono break-all">
          {location.origin}
          {sent.path}
        </span>{" "}
        Good until {sent.until}.
      </p>
    );
  if (!open)
    return (
      <button
        className="btn"
        aria-label={`Send ${issued.title}, number ${String(issued.firm_number)}`}
        onClick={() => setOpen(true)}
      >
        Send
      </button>
    );
  return (
    <form
      className="flex flex-wrap items-end justify-end gap-2 pt-1"
      onSubmit={(event) => {
        event.preventDefault();
        setRefused(undefined);
        handOver(email)
          .then(setSent)
          .catch((error: unknown) => setRefused(asRefused(error)));
      }}
    >
      <Labelled label="To, e-mail">
        <input
          className="input w-60"
          type="email"
          name="Hand over to"
          autoFocus
          required
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
      </Labelled>
      <button className="btn btn-primary">Send the link</button>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
    </form>
  );
}
