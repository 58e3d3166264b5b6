import { useState } from "react";
import { useParams } from "react-router-dom";
import { asRefused, type Refused, type VerifyAnswer } from "../api/client";
import { hashOf, useVerify } from "../data/useVerify";
import { Labelled } from "../parts/fields";
import { RefusalNote } from "../parts/RefusalNote";
import { VerdictMark } from "../parts/verdict";
import { Wordmark } from "../parts/Wordmark";

/** For whoever has a paper, signed in or not: whether the file is as it was issued. The file stays on the device. */
export function VerifyPage() {
  const { code = "" } = useParams();
  const [typed, setTyped] = useState(code);
  const [answer, setAnswer] = useState<VerifyAnswer>();
  const [refused, setRefused] = useState<Refused>();
  const verify = useVerify();
  const ask = (sha256: string) => {
    setRefused(undefined);
    verify(sha256, typed.trim())
      .then(setAnswer)
      .catch((error: unknown) => setRefused(asRefused(error)));
  };
  return (
    <main className="mx-auto max-w-2xl p-4">
      <Wordmark className="text-2xl" />
      <h1 className="pt-4 text-2xl font-bold">Is this paper as it was issued?</h1>
      <p className="py-2">Choose the PDF file. It stays on your device: only a fingerprint of it is asked for.</p>
      <input
        type="file"
        className="file-input w-full"
        aria-label="The paper, PDF"
        accept="application/pdf"
        onClick={(event) => {
          // The same file chosen again is looked at again.
          event.currentTarget.value = "";
        }}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void hashOf(file).then(ask);
        }}
      />
      <form
        className="flex flex-wrap items-end gap-2 pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          ask("");
        }}
      >
        <Labelled label="Or the code on its last page">
          <input
            className="input w-72 max-w-full font-mono"
            name="Code"
            value={typed}
            maxLength={64}
            onChange={(event) => setTyped(event.target.value)}
          />
        </Labelled>
        <button className="btn" disabled={!/^[A-Za-z0-9_-]{6,64}$/.test(typed.trim())}>
          Ask by code
        </button>
      </form>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      {answer && <Answer answer={answer} />}
    </main>
  );
}

function Answer({ answer }: { answer: VerifyAnswer }) {
  const issued = `${answer.title}, number ${String(answer.number ?? "")}, issued by ${answer.firm} on ${answer.day}`;
  const corrected = answer.corrected_by !== null && (
    <p className="pt-2 text-lg font-bold text-error">
      Number {answer.corrected_by} of {answer.corrected_on} stands instead of it.
    </p>
  );
  const [state, title, words] = {
    unaltered: ["pass", "Unaltered", issued],
    known: [
      "mind",
      "A paper with this code was issued",
      `${issued}. Choose the file: only it shows whether yours is the same.`,
    ],
    altered: ["fail", "ALTERED", `The paper with this code is: ${issued}. Your file is not that one, byte for byte.`],
    unknown: ["fail", "Altered or unknown", "It is not, byte for byte, a paper that was issued here."],
  }[answer.word] as ["pass" | "mind" | "fail", string, string];
  return (
    <section className="mt-5 border-l-6 border-accent bg-base-200 p-4" data-verified={answer.word} aria-live="polite">
      <h2 className="flex items-center gap-2 text-2xl font-bold">
        <VerdictMark state={state} size={30} /> {title}
      </h2>
      <p className="pt-1">{words}</p>
      {corrected}
    </section>
  );
}
