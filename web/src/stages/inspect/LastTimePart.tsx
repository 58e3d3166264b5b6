import { useState } from "react";
import { Labelled, Line } from "../../parts/fields";
import { readLines } from "./lastTime";
import type { PartProps } from "./part";

/** This time beside last time: readings of an earlier paper, and what moved by more than two testers differ. */
export function LastTimePart({ inspection, view }: PartProps) {
  const { compared, last } = view.whole;
  const moved = compared.filter((each) => each.moved);
  return (
    <div className="grid gap-5">
      {compared.length > 0 && (
        <section data-moved={moved.length}>
          <h2 className={`text-xl font-bold ${moved.length ? "text-error" : "text-success"}`}>
            {moved.length === 0
              ? "Nothing moved by more than two testers differ"
              : `${String(moved.length)} moved for the worse`}
          </h2>
          <div className="overflow-x-auto">
            <table className="w-full text-left">
              <thead>
                <tr className="border-b-2 border-base-content/70">
                  {["Circuit", "Place", "Reading", "Then", "Now", ""].map((each, at) => (
                    <th key={at} className="pr-3">
                      {each}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {compared.map((each, at) => (
                  <tr key={at} className={`border-b border-base-300 ${each.moved ? "font-semibold" : ""}`}>
                    <td className="py-1">{each.circuit ?? "house"}</td>
                    <td>{each.place || "worst"}</td>
                    <td>{each.quantity}</td>
                    <td>
                      {each.then} <span className="quiet text-sm">{each.then_day}</span>
                    </td>
                    <td>
                      {each.now} <span className="quiet text-sm">{each.now_day}</span>
                    </td>
                    <td className="text-error">{each.words}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      )}
      {last.length > 0 && (
        <p>On record: {last.map((each) => `${each.paper.what} ${each.paper.day ?? ""}`.trim()).join(", ")}.</p>
      )}
      <TypeIn onKeep={inspection.say} />
    </div>
  );
}

function TypeIn({ onKeep }: { onKeep: PartProps["inspection"]["say"] }) {
  const [what, setWhat] = useState("Condition report");
  const [day, setDay] = useState("");
  const [text, setText] = useState("");
  const { readings, trouble } = readLines(text);
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (readings.length === 0 || trouble) return;
        onKeep({ record: "last", paper: { what, number: "", day: day || null }, readings });
        setText("");
      }}
    >
      <h2 className="text-xl font-bold">Readings of another paper</h2>
      <div className="grid gap-3 md:grid-cols-2">
        <Line label="Which paper" required value={what} onValue={setWhat} />
        <Line label="Of" name="Paper of" type="date" value={day} onValue={setDay} />
      </div>
      <Labelled
        label="A line a reading: circuit, reading, value, place"
        hint="1, zs, 0.64, Sink or -, ze, 0.21; a file of such lines (CSV) may be pasted whole"
      >
        <textarea
          className="textarea w-full font-mono"
          name="Readings"
          rows={6}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Labelled>
      {trouble && <p className="font-semibold text-error">{trouble}</p>}
      <button className="btn btn-primary justify-self-start" disabled={readings.length === 0 || trouble !== ""}>
        Keep {readings.length} readings
      </button>
    </form>
  );
}
