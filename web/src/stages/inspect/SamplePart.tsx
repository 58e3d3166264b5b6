import type { PartProps } from "./part";

/** Accessories that were opened, what that proves of those that were not, and which to open next. */
export function SamplePart({ inspection, view }: PartProps) {
  const { samples } = view.whole;
  if (samples.length === 0)
    return <p className="quiet">Nothing that existed before is drawn: there is nothing to open.</p>;
  return (
    <div className="grid gap-5">
      {samples.map((sample) => (
        <section key={sample.kind} data-sample={sample.kind}>
          <h2 className="text-xl font-bold">
            {sample.title}: {sample.opened} of {sample.total} opened
          </h2>
          <p className={sample.faulty > 0 ? "font-semibold text-error" : ""}>{sample.proves}.</p>
          <p className="quiet">
            {sample.read} read.{" "}
            {sample.opened < sample.wanted ? `Open ${String(sample.wanted)} of them.` : "Enough were opened."}
          </p>
          <ul>
            {sample.next.map((point) => (
              <li
                key={`${point.circuit} ${point.point}`}
                className="grid grid-cols-2 items-center gap-2 border-b border-base-300 py-1.5 sm:grid-cols-[1fr_auto_auto]"
              >
                <span className="col-span-2 sm:col-span-1">
                  <b>{point.title}</b> <span className="quiet">circuit {point.number}</span>
                </span>
                {([true, false] as const).map((sound) => (
                  <button
                    key={String(sound)}
                    className={`btn ${sound ? "btn-success" : "border-2 border-error"}`}
                    aria-label={`${point.title}: ${sound ? "sound" : "faulty"}`}
                    onClick={() =>
                      inspection.say({ record: "opened", circuit: point.circuit, point: point.point, sound, note: "" })
                    }
                  >
                    {sound ? "Sound" : "Faulty"}
                  </button>
                ))}
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}
