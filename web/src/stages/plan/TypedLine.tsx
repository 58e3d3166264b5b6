import { useId, useState } from "react";

interface Props {
  name: string;
  placeholder: string;
  offered?: readonly string[];
  /** Whether what was typed was kept: then the next is typed; else it stays, to be put right. */
  onTyped: (typed: string) => Promise<boolean>;
}

/** One line typed as one says it; Enter keeps it and waits for the next. */
export function TypedLine({ name, placeholder, offered = [], onTyped }: Props) {
  const [text, setText] = useState("");
  const [busy, setBusy] = useState(false);
  const list = useId();
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!text.trim() || busy) return;
        setBusy(true);
        void onTyped(text.trim())
          .then((kept) => kept && setText(""))
          .finally(() => setBusy(false));
      }}
    >
      <input
        className="input w-full min-w-0 font-semibold"
        name={name}
        aria-label={name}
        placeholder={placeholder}
        list={offered.length ? list : undefined}
        autoComplete="off"
        maxLength={400}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {offered.length > 0 && (
        <datalist id={list}>
          {offered.map((each) => (
            <option key={each} value={each} />
          ))}
        </datalist>
      )}
      <button className="btn btn-primary" disabled={!text.trim()}>
        Add
      </button>
    </form>
  );
}
