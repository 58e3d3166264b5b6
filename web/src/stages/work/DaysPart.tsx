import { useState } from "react";
import type { WorkStep, WorkView } from "../../api/client";
import { useMe } from "../../data/me";
import { spell, type Work } from "../../data/useWork";
import { Labelled, Line } from "../../parts/fields";

interface Props {
  view: WorkView;
  steps: readonly WorkStep[];
  work: Work;
  name: (room: string) => string;
}

/** The days as they are planned, what the van brings on each; what was done on which day, and hours. */
export function DaysPart({ view, steps, work, name }: Props) {
  const { days, done, hours } = view.work;
  const named = new Map(steps.map((each) => [each.key, each]));
  return (
    <div className="grid gap-6 md:grid-cols-2">
      <section>
        <h2 className="text-lg font-bold">Planned</h2>
        {days.map((day) => {
          const undone = day.steps.filter((key) => named.get(key)?.stands.status !== "done").length;
          return (
            <details key={day.number} className="border-b border-base-300 py-1" data-day={day.number}>
              <summary className="flex min-h-11 cursor-pointer items-center gap-3">
                <b>Day {day.number}</b>
                <span className="grow">
                  {spell(Number(day.minutes))}, {undone === 0 ? "all done" : `${String(undone)} steps`}
                </span>
              </summary>
              <h3 className="font-semibold">In the van</h3>
              {day.van.length === 0 && <p className="quiet">nothing new</p>}
              <ul>
                {day.van.map((item) => (
                  <li key={item.key} className="flex gap-3">
                    <span className="w-20 text-right font-bold tabular-nums">
                      {item.unit === "m" ? `${(item.count / 1000).toFixed(1)} m` : item.count}
                    </span>
                    {item.what}
                  </li>
                ))}
              </ul>
              {day.tools.length > 0 && (
                <>
                  <h3 className="pt-2 font-semibold">Tools</h3>
                  <ul className="list-disc pl-6 text-sm">
                    {day.tools.map((tool) => (
                      <li key={tool}>{tool}</li>
                    ))}
                  </ul>
                </>
              )}
              <h3 className="pt-2 font-semibold">To do</h3>
              <ul className="list-disc pl-6 pb-2 text-sm">
                {day.steps.map((key) => (
                  <li key={key}>
                    {name(named.get(key)?.room ?? "")}: {named.get(key)?.what}
                  </li>
                ))}
              </ul>
            </details>
          );
        })}
      </section>
      <section>
        <h2 className="text-lg font-bold">So far</h2>
        {done.length === 0 && <p className="quiet">Nothing is ticked yet.</p>}
        {done.map((day) => (
          <div key={day.day} className="border-b border-base-300 py-2" data-done-on={day.day}>
            <p>
              <b>{day.day}</b>: {day.done.length} done
              {day.left.length > 0 && `, ${String(day.left.length)} left`}
              {day.missing.length > 0 && `, ${String(day.missing.length)} missing`}
            </p>
            <ul className="text-sm">
              {[...day.missing, ...day.left].map((key) => (
                <li key={key}>
                  {name(named.get(key)?.room ?? "")}, {named.get(key)?.what}: <b>{named.get(key)?.stands.note}</b>
                </li>
              ))}
            </ul>
          </div>
        ))}
        <h2 className="pt-4 text-lg font-bold">Hours</h2>
        <ul>
          {hours.map((each) => (
            <li key={`${each.day}/${each.who}`} className="flex gap-3" data-hours={each.day}>
              <span className="tabular-nums">{each.day}</span>
              <span className="grow">{each.who}</span>
              <b className="tabular-nums">{spell(each.minutes)}</b>
            </li>
          ))}
        </ul>
        <HoursForm work={work} />
      </section>
    </div>
  );
}

function HoursForm({ work }: { work: Work }) {
  const me = useMe();
  const [day, setDay] = useState(() => new Date().toISOString().slice(0, 10));
  const [who, setWho] = useState(me.name);
  const [hours, setHours] = useState("");
  const minutes = Math.round(Number(hours.replace(",", ".")) * 60);
  const good = day !== "" && who.trim() !== "" && minutes > 0 && minutes <= 1440;
  return (
    <form
      className="flex flex-wrap items-end gap-2 pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!good) return;
        work.say({ record: "worked", day, who: who.trim(), minutes, note: "" });
        setHours("");
      }}
    >
      <Line label="Day" name="Day worked" type="date" value={day} onValue={setDay} />
      <Line label="Who" value={who} onValue={setWho} />
      <Labelled label="Hours">
        <input
          className="input w-20"
          name="Hours"
          inputMode="decimal"
          value={hours}
          onChange={(event) => setHours(event.target.value)}
        />
      </Labelled>
      <button className="btn btn-primary" disabled={!good}>
        Keep
      </button>
    </form>
  );
}
