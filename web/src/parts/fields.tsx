import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import { parseFigure, plain } from "../numbers";

/** Move to the next entry of the walk when Enter is pressed. */
function focusNext(from: HTMLElement): void {
  const all = [...document.querySelectorAll<HTMLElement>("[data-walk]")].filter((each) => each.offsetParent !== null);
  all[all.indexOf(from) + 1]?.focus();
}

/** The keys of an entry: Enter keeps what is typed and moves on, Escape puts back what was. */
export function entryKeys(event: KeyboardEvent<HTMLElement>, commit: () => void, putBack: () => void) {
  if (event.key === "Enter") {
    event.preventDefault();
    commit();
    focusNext(event.currentTarget);
  }
  if (event.key === "Escape") putBack();
}

export function Labelled({ label, hint, children }: { label: string; hint?: string | undefined; children: ReactNode }) {
  return (
    <label className="flex min-w-0 flex-col gap-0.5">
      <span className="text-sm font-semibold">{label}</span>
      {children}
      {hint && <span className="quiet text-sm">{hint}</span>}
    </label>
  );
}

interface LineProps {
  label: string;
  value: string;
  onValue: (value: string) => void;
  /** What it is known by, where that is not its label. */
  name?: string;
  most?: number;
  type?: "text" | "date";
  required?: boolean;
}

/** A line of a form that is kept as a whole: what is typed is said at once, where `Words` waits for Enter. */
export function Line({ label, value, onValue, name = label, most = 80, type = "text", required = false }: LineProps) {
  return (
    <Labelled label={label}>
      <input
        className="input w-full"
        type={type}
        name={name}
        value={value}
        required={required}
        maxLength={type === "date" ? undefined : most}
        onChange={(event) => onValue(event.target.value)}
      />
    </Labelled>
  );
}

/** A field with its caption over it, where a row of fields would not say what each is. */
function Captioned({ caption, children }: { caption: string | undefined; children: ReactNode }) {
  return (
    <span className="flex min-w-0 flex-col gap-0.5">
      {caption && (
        <span aria-hidden="true" className="quiet text-xs leading-none font-semibold">
          {caption}
        </span>
      )}
      {children}
    </span>
  );
}

/** The same for what stands by itself, in a row of joined fields, where it has none. */
function Maybe({ caption, children }: { caption: string | undefined; children: ReactNode }) {
  return caption ? <Captioned caption={caption}>{children}</Captioned> : children;
}

interface FigureProps {
  value: number | null | undefined;
  unit: string;
  onCommit: (value: number | null) => void;
  /** Called while typing with each figure that can be read. */
  onTyping?: (value: number | null) => void;
  name: string;
  /** Shown over the field. */
  caption?: string;
  className?: string;
  autoFocus?: boolean;
  placeholder?: string;
  required?: boolean;
}

/** A figure with its unit: saved on Enter or on leaving, Escape puts back what was. */
export function Figure({
  value,
  unit,
  onCommit,
  onTyping,
  name,
  caption,
  className = "",
  autoFocus,
  placeholder,
  required,
}: FigureProps) {
  const [text, setText] = useState(plain(value));
  const [wrong, setWrong] = useState("");
  const editing = useRef(false);
  // What was handed on already: Enter does so, and leaving the field after it is no second time.
  const handedOn = useRef<number | null>(undefined);
  useEffect(() => {
    handedOn.current = undefined;
    if (!editing.current) setText(plain(value));
  }, [value]);

  function commit() {
    editing.current = false;
    const figure = parseFigure(text);
    if (figure === undefined) return setWrong("a number, please");
    if (figure === null && required) return setWrong("a number is needed");
    setWrong("");
    if (figure === (value ?? null) || figure === handedOn.current) return;
    handedOn.current = figure;
    onCommit(figure);
  }

  return (
    <Captioned caption={caption}>
      <span className={`input flex items-center gap-1 ${wrong ? "input-error" : ""} ${className}`}>
        <input
          data-walk
          name={name}
          aria-label={name}
          aria-invalid={wrong !== ""}
          data-changed={text !== plain(value)}
          inputMode="decimal"
          autoComplete="off"
          autoFocus={autoFocus}
          placeholder={placeholder}
          className="min-w-0 grow font-semibold"
          value={text}
          onFocus={(event) => event.target.select()}
          onChange={(event) => {
            editing.current = true;
            handedOn.current = undefined;
            setText(event.target.value);
            const figure = parseFigure(event.target.value);
            setWrong(figure === undefined ? "a number, please" : "");
            if (figure !== undefined) onTyping?.(figure);
          }}
          onBlur={commit}
          onKeyDown={(event) =>
            entryKeys(event, commit, () => {
              editing.current = false;
              setText(plain(value));
              setWrong("");
            })
          }
        />
        <span className="quiet">{unit}</span>
      </span>
      {wrong && (
        <span role="alert" className="text-sm font-semibold text-error">
          {wrong}
        </span>
      )}
    </Captioned>
  );
}

interface WordsProps {
  value: string;
  onCommit: (value: string) => void;
  name: string;
  caption?: string;
  className?: string;
  placeholder?: string;
  maxLength?: number;
  /** What it may well be: offered while typing, and anything else is as good. */
  offered?: readonly string[];
}

/** A line of text, saved on Enter or on leaving. */
export function Words({
  value,
  onCommit,
  name,
  caption,
  className = "",
  placeholder,
  maxLength = 80,
  offered = [],
}: WordsProps) {
  const list = useId();
  const [text, setText] = useState(value);
  const [held, setHeld] = useState(value);
  const handedOn = useRef<string>(undefined);
  if (held !== value) {
    setHeld(value);
    setText(value);
  }
  const commit = () => {
    const words = text.trim();
    if (words === value || words === handedOn.current) return;
    handedOn.current = words;
    onCommit(words);
  };
  return (
    <Maybe caption={caption}>
      <input
        data-walk
        name={name}
        aria-label={name}
        autoComplete="off"
        className={`input ${className}`}
        value={text}
        placeholder={placeholder}
        list={offered.length > 0 ? list : undefined}
        maxLength={maxLength}
        onChange={(event) => {
          handedOn.current = undefined;
          setText(event.target.value);
        }}
        onBlur={commit}
        onKeyDown={(event) => entryKeys(event, commit, () => setText(value))}
      />
      {offered.length > 0 && (
        <datalist id={list}>
          {offered.map((each) => (
            <option key={each} value={each} />
          ))}
        </datalist>
      )}
    </Maybe>
  );
}

export interface ChoiceProps<T extends string> {
  value: T | "";
  options: readonly (readonly [T, string])[];
  onCommit: (value: T) => void;
  name: string;
  caption?: string;
  className?: string;
  blank?: string;
}

export function Choice<T extends string>({
  value,
  options,
  onCommit,
  name,
  caption,
  className = "",
  blank,
}: ChoiceProps<T>) {
  return (
    <Maybe caption={caption}>
      <select
        data-walk
        name={name}
        aria-label={name}
        className={`select ${className}`}
        value={value}
        onChange={(event) => {
          const chosen = options.find(([id]) => id === event.target.value);
          if (chosen) onCommit(chosen[0]);
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") {
            event.preventDefault();
            focusNext(event.currentTarget);
          }
        }}
      >
        {blank !== undefined && (
          <option value="" disabled>
            {blank}
          </option>
        )}
        {options.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </Maybe>
  );
}

const ANSWERS = [
  ["unsaid", "not said"],
  ["yes", "yes"],
  ["no", "no"],
] as const;

/** A question that is answered yes or no, or has not been: what nobody has said is not taken for granted. */
export function YesNo({
  value,
  onCommit,
  ...rest
}: Omit<ChoiceProps<string>, "value" | "options" | "blank" | "onCommit"> & {
  value: boolean | null | undefined;
  onCommit: (value: boolean | null) => void;
}) {
  return (
    <Choice
      {...rest}
      value={value === true ? "yes" : value === false ? "no" : "unsaid"}
      options={ANSWERS}
      onCommit={(answer) => onCommit(answer === "unsaid" ? null : answer === "yes")}
    />
  );
}

export function Tick({
  words,
  checked,
  onChange,
}: {
  words: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="mr-4 flex items-center gap-2 text-sm">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {words}
    </label>
  );
}

/** The listed figures, with the one in force even where it is not listed. */
export function listed(figures: readonly number[] | undefined, inForce: number, unit: string) {
  return [...new Set([...(figures ?? []), inForce])]
    .sort((a, b) => a - b)
    .map((each) => [String(each), `${plain(each)} ${unit}`] as const);
}
