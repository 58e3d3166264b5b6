interface Props {
  words: string;
  /** What is to be said beside the question. */
  beside?: string;
  value: "yes" | "no" | undefined;
  onAnswer: (answer: "yes" | "no") => void;
}

/** A question of an inspection, with one press for each answer. */
export function YesNoAsk({ words, beside, value, onAnswer }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-2" role="radiogroup" aria-label={words}>
      <span className="grow">
        <b className="font-semibold">{words}</b> {beside && <span className="quiet">{beside}</span>}
      </span>
      {(["yes", "no"] as const).map((answer) => (
        <button
          key={answer}
          type="button"
          role="radio"
          aria-checked={value === answer}
          className={`btn w-20 ${value === answer ? "btn-primary" : "border border-base-content/60 bg-base-100"}`}
          onClick={() => onAnswer(answer)}
        >
          {answer}
        </button>
      ))}
    </div>
  );
}
