import { Choice, Figure, Tick, Words, YesNo } from "./fields";

/** What of a thing has values of a sort, by its name. */
type Of<S, V> = { [K in keyof S]-?: [NonNullable<S[K]>] extends [V] ? K : never }[keyof S] & string;

interface Called {
  name: string;
  caption?: string;
  width: string;
  placeholder?: string;
  /** Whether it is asked at all. */
  when?: boolean;
}

/** A field as data: what of the thing it shows and sets, how it is called, and how wide it is. */
export type FieldOf<S> =
  | (Called & { figure: Of<S, number>; unit: string; required?: boolean })
  | (Called & { words: Of<S, string>; maxLength?: number; capitals?: boolean })
  | (Called & { answer: Of<S, boolean> })
  // `none` is the option that stands for nothing said.
  | (Called & { choice: Of<S, string>; options: readonly (readonly [string, string])[]; blank?: string; none?: string })
  | { tick: Of<S, boolean>; name: string; when?: boolean };

interface GroupProps<S> {
  of: { readonly [K in keyof S]?: unknown };
  fields: readonly FieldOf<S>[];
  onSet: (changes: S) => void;
}

/** Fields of one thing in a row: each shows what it says of itself, and sets that alone. */
export function FieldGroup<S>({ of, fields, onSet }: GroupProps<S>) {
  return fields
    .filter((field) => field.when !== false)
    .map((field) => <One key={field.name} of={of} field={field} onSet={onSet} />);
}

function One<S>({ of, field, onSet }: { of: GroupProps<S>["of"]; field: FieldOf<S>; onSet: (changes: S) => void }) {
  const said = of as Record<string, unknown>;
  const set = (key: string, value: unknown) => onSet({ [key]: value } as S);
  if ("tick" in field) {
    return (
      <span className="pb-1">
        <Tick words={field.name} checked={said[field.tick] === true} onChange={(checked) => set(field.tick, checked)} />
      </span>
    );
  }
  const { name, caption, placeholder, width } = field;
  const captioned = caption === undefined ? { name } : { name, caption };
  const called = placeholder === undefined ? captioned : { ...captioned, placeholder };
  if ("figure" in field) {
    return (
      <Figure
        {...called}
        className={`input-sm ${width}`}
        unit={field.unit}
        required={field.required === true}
        value={said[field.figure] as number | null | undefined}
        onCommit={(value) => set(field.figure, value)}
      />
    );
  }
  if ("words" in field) {
    return (
      <Words
        {...called}
        className={`input-sm ${width}`}
        maxLength={field.maxLength ?? 80}
        value={(said[field.words] as string | undefined) ?? ""}
        onCommit={(text) => set(field.words, field.capitals ? text.toUpperCase() : text)}
      />
    );
  }
  if ("answer" in field) {
    return (
      <YesNo
        {...captioned}
        className={`select-sm ${width}`}
        value={said[field.answer] as boolean | null | undefined}
        onCommit={(answer) => set(field.answer, answer)}
      />
    );
  }
  return (
    <Choice
      {...captioned}
      {...(field.blank === undefined ? {} : { blank: field.blank })}
      className={`select-sm ${width}`}
      value={(said[field.choice] as string | null | undefined) ?? field.none ?? ""}
      options={field.options}
      onCommit={(chosen) => set(field.choice, chosen === field.none ? null : chosen)}
    />
  );
}
