import { NavLink } from "react-router-dom";
import { VerdictMark, type State } from "./verdict";

/** A circuit in the strip: how it stands, and what is told beside its name. */
export interface StripLine {
  id: string;
  number: number;
  name: string;
  state: State;
  aside?: string;
}

/** Circuits with how each stands, down the side at a desk; on a phone they are a list to pick from. */
export function CircuitStrip({
  base,
  lines,
  chosen,
  name = "Circuits",
}: {
  base: string;
  lines: readonly StripLine[];
  chosen: string | undefined;
  name?: string;
}) {
  return (
    <nav aria-label={name} className="flex flex-col">
      {lines.map((line) => (
        <NavLink
          key={line.id}
          to={`${base}/${line.id}`}
          className={`flex items-center gap-2 border-b border-l-4 border-b-base-300 px-2 py-2 hover:bg-base-200 ${
            line.id === chosen ? "border-l-accent bg-base-200 font-semibold" : "border-l-transparent"
          }`}
        >
          <VerdictMark state={line.state} size={18} />
          <span className="w-5 text-right">{line.number}</span>
          <span className="min-w-0 grow leading-tight break-words">{line.name}</span>
          {line.aside && <span className="quiet text-sm">{line.aside}</span>}
        </NavLink>
      ))}
    </nav>
  );
}
