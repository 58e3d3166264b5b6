import { useState } from "react";
import { Link, useParams } from "react-router-dom";
import type { BoxSheet, MakeOff } from "../../api/client";
import { useCircuit } from "../../data/useCircuit";
import { useJob } from "../../data/useJob";
import { useMakeOff } from "../../data/useSwitching";
import { Opened } from "../../parts/Opened";
import { MakePdf } from "../../parts/MakePdf";
import { fillOf, lettersOf } from "./cores";

/** Box by box: which core, which sleeve, which terminal. Ticked off as it is made, on paper or on a phone. */
export function MakeOffPage() {
  const { circuitId } = useParams();
  const work = useCircuit(circuitId);
  return <Opened query={work.query}>{(view) => <Loaded circuitId={view.id} version={view.version} />}</Opened>;
}

function Loaded({ circuitId, version }: { circuitId: string; version: number }) {
  const query = useMakeOff(circuitId, version);
  return <Opened query={query}>{(sheet) => <Sheet circuitId={circuitId} sheet={sheet} />}</Opened>;
}

function Sheet({ circuitId, sheet }: { circuitId: string; sheet: MakeOff }) {
  const job = useJob();
  const kept = `make-off/${circuitId}`;
  const [done, setDone] = useState<ReadonlySet<string>>(
    () => new Set(JSON.parse(localStorage.getItem(kept) ?? "[]") as string[]),
  );
  function tick(key: string) {
    const next = new Set(done);
    if (!next.delete(key)) next.add(key);
    localStorage.setItem(kept, JSON.stringify([...next]));
    setDone(next);
  }
  return (
    <main className="mx-auto w-full max-w-5xl min-w-0 px-3 py-3 md:px-4" data-make-off={sheet.boxes.length}>
      <div className="flex flex-wrap items-center gap-2 pb-2">
        <h1 className="grow text-2xl font-bold">{sheet.title}: make-off</h1>
        <Link className="btn btn-sm no-print" to={`/jobs/${job.id}/switching/${circuitId}`}>
          Boxes
        </Link>
        <MakePdf
          className="btn-sm btn-primary no-print"
          href={`/api/circuits/${circuitId}/papers/make-off.pdf`}
          words="PDF"
          name="pdf"
        />
        <button className="btn btn-sm no-print max-md:hidden" onClick={() => print()}>
          Print
        </button>
      </div>
      <p className="border-l-6 border-warning bg-base-200 px-3 py-2 font-semibold">{sheet.safety}</p>
      {sheet.notices.map((notice) => (
        <p key={notice} className="mt-2 border-2 border-error px-3 py-2 font-bold">
          Put up: {notice}
        </p>
      ))}
      {sheet.boxes.length === 0 && (
        <p className="p-6 text-lg">Nothing is said of its terminals yet: plan it, or draw it as found.</p>
      )}
      <div className="grid gap-3 py-3 md:grid-cols-2">
        {sheet.boxes.map((box, index) => (
          <Box key={box.place} circuitId={circuitId} index={index + 1} box={box} done={done} onTick={tick} />
        ))}
      </div>
      <div className="grid gap-4 md:grid-cols-2">
        <section>
          <h2 className="text-lg font-bold">Cables</h2>
          <ul>
            {sheet.cables.map((cable) => (
              <li key={cable.leg} className="flex flex-wrap justify-between gap-x-3 border-b border-base-300 py-1">
                <span>
                  {cable.words} {cable.found && <span className="quiet">(found)</span>}
                </span>
                <b>{cable.length}</b>
                <span className="quiet w-full text-sm">
                  {cable.cable}: {cable.used.join(", ") || "none used"}
                  {cable.spare.length > 0 && `; spare: ${cable.spare.join(", ")}`}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2 className="text-lg font-bold">Parts</h2>
          <ul>
            {sheet.parts.map((part) => (
              <li key={part.what} className="flex justify-between gap-3 border-b border-base-300 py-1">
                <span>{part.what}</span>
                <b className="text-right">{part.count}</b>
              </li>
            ))}
          </ul>
          <h2 className="pt-3 text-lg font-bold">On the circuit chart</h2>
          <p>{sheet.chart}</p>
        </section>
      </div>
    </main>
  );
}

function Box({
  circuitId,
  index,
  box,
  done,
  onTick,
}: {
  circuitId: string;
  index: number;
  box: BoxSheet;
  done: ReadonlySet<string>;
  onTick: (key: string) => void;
}) {
  return (
    <section className="break-inside-avoid border-2 border-base-content/70" data-sheet={box.place}>
      <header className="flex items-baseline justify-between gap-2 bg-base-200 px-3 py-1.5">
        <h2 className="text-xl font-bold">{box.title}</h2>
        <a
          className="no-print text-sm underline"
          href={`/api/circuits/${circuitId}/make-off.svg?box=${index}`}
          download
        >
          SVG
        </a>
      </header>
      <p className="px-3 pt-1">
        {box.what}
        {box.box && <span className="quiet">, {box.box}</span>}
      </p>
      {box.labels.length > 0 && <p className="px-3 text-sm">Mark: {box.labels.join(" · ")}</p>}
      <ul>
        {box.terminals.map((terminal, at) => {
          const key = `${box.place}/${at}/${terminal.terminal}/${terminal.cores.map((core) => core.leg + core.core).join("+")}`;
          return (
            <li key={key} className="border-t border-base-300">
              <label className={`flex items-start gap-3 px-3 py-2 ${done.has(key) ? "opacity-60" : ""}`}>
                <input type="checkbox" className="checkbox mt-1" checked={done.has(key)} onChange={() => onTick(key)} />
                <b className="w-20 shrink-0 leading-6 md:w-24 md:text-lg">{terminal.terminal}</b>
                <span className="min-w-0 grow">
                  {alike(terminal.cores).map((cores) => {
                    const [core] = cores;
                    return (
                      <span key={core.leg + core.core} className="flex flex-wrap items-center gap-x-2 py-0.5">
                        <Chip colour={core.colour} sleeve={core.sleeve} />
                        <b>
                          {cores.length > 1 && `${cores.length} × `}
                          {core.colour}
                          {core.sleeve && ` + ${core.sleeve} sleeve`}
                        </b>
                        <span className="quiet text-sm">to {cores.map((each) => each.to).join(" · ")}</span>
                      </span>
                    );
                  })}
                  {terminal.note && <span className="block text-sm text-warning">{terminal.note}</span>}
                </span>
              </label>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

type Cores = BoxSheet["terminals"][number]["cores"];

/** Cores that look alike, together: five cpcs are one line. */
function alike(cores: Cores): [Cores[number], ...Cores][] {
  const found = new Map<string, [Cores[number], ...Cores]>();
  for (const core of cores) {
    const key = core.core === "E" ? `${core.colour}/${core.sleeve}` : core.leg + core.core;
    const group = found.get(key);
    if (group) group.push(core);
    else found.set(key, [core]);
  }
  return [...found.values()];
}

/** A core as it looks with its sleeve on; its letters beside it. */
function Chip({ colour, sleeve }: { colour: string; sleeve: string }) {
  return (
    <svg width="62" height="18" viewBox="0 0 62 18" aria-hidden="true" className="shrink-0">
      <rect x="1" y="4" width="34" height="10" rx="2" fill={fillOf(colour)} stroke="currentColor" strokeOpacity="0.6" />
      {colour === "green-yellow" && <path d="M3 9h30" stroke="#f4d03f" strokeWidth="6" strokeDasharray="6 6" />}
      {sleeve && (
        <rect
          x="20"
          y="2"
          width="16"
          height="14"
          rx="2"
          fill={fillOf(sleeve)}
          stroke="currentColor"
          strokeOpacity="0.6"
        />
      )}
      {sleeve === "green-yellow" && <path d="M21 9h14" stroke="#f4d03f" strokeWidth="8" strokeDasharray="4 4" />}
      <text x="39" y="13" fontSize="10" fontWeight="600" fill="currentColor">
        {lettersOf(colour).slice(0, 2)}
      </text>
    </svg>
  );
}
