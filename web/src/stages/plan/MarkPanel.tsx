import type { Mark, PlanView, RoomPlan } from "../../api/client";
import type { PlanWork } from "../../data/usePlan";
import { Choice, Figure, Words } from "../../parts/fields";
import { changingMark } from "./changing";
import { kindWords, ruleWords } from "./marks";

const IPS = ["IP20", "IP44", "IPX4", "IPX5", "IP65", "IPX7"].map((each) => [each, each] as const);
const ENTRIES = (["top", "bottom", "left", "right", "back"] as const).map((each) => [each, each] as const);
const GANGS = [1, 2, 3, 4].map((each) => [String(each), `${String(each)} gang`] as const);

interface Props {
  points: PlanView["points"];
  title: string;
  mark: Mark;
  room: RoomPlan;
  work: PlanWork;
  onClose: () => void;
}

/** One mark: by which rule it is there, and what of it a person sets. */
export function MarkPanel({ points, title, mark, room, work, onClose }: Props) {
  const placed = room.marks.find((each) => each.mark === mark.id);
  // What is in this room first; a point that nobody has put anywhere may be this one as well.
  const mine = points
    .filter((each) => each.room === mark.room || each.room === null)
    .sort(
      (one, other) => Number(other.room === mark.room) - Number(one.room === mark.room) || one.number - other.number,
    );
  const put = (more: Partial<Mark>) => void work.command(changingMark(mark.id, () => more));
  const putBox = (more: Partial<Mark["box"]>) =>
    void work.command(changingMark(mark.id, ({ box }) => ({ box: { ...box, ...more } })));
  return (
    <section className="mb-3 border-2 border-accent bg-base-200 p-3" data-picked={mark.id}>
      <h2 className="flex items-center gap-2 text-lg font-bold">
        <span className="grow">{title}</span>
        <button className="btn btn-ghost btn-sm" aria-label="Close" onClick={onClose}>
          ✕
        </button>
      </h2>
      <p className="pb-2 text-sm">
        {kindWords(mark.kind)} {ruleWords(mark.rule, room.walls)}
      </p>
      <div className="grid grid-cols-2 gap-2">
        <Words name="Name of the mark" caption="Called" value={mark.name} onCommit={(name) => put({ name })} />
        <Figure
          name="Height of the mark"
          caption="To its middle"
          unit="mm"
          value={placed?.height_mm ?? null}
          onCommit={(mm) => put({ height: mm === null ? { height: "use" } : { height: "at", mm } })}
        />
        <Choice
          name="Gangs"
          caption="Plate"
          value={String(mark.box.gangs)}
          options={GANGS}
          onCommit={(gangs) => putBox({ gangs: Number(gangs) })}
        />
        <Figure
          name="Depth of the box"
          caption="Box"
          unit="mm deep"
          value={mark.box.depth_mm}
          required
          onCommit={(depth) => putBox({ depth_mm: depth ?? 35 })}
        />
        <Choice
          name="Cable comes in"
          caption="Cable in at"
          blank="where?"
          value={mark.box.entry ?? ""}
          options={ENTRIES}
          onCommit={(entry) => putBox({ entry })}
        />
        <Choice
          name="How tight"
          caption="Marked"
          blank="IP?"
          value={mark.ip}
          options={IPS}
          onCommit={(ip) => put({ ip })}
        />
        <Choice
          name="Its point"
          caption="Point of a circuit"
          className="w-full"
          blank="which?"
          value={mark.point ? `${mark.point.circuit}:${mark.point.point}` : ""}
          options={mine.map(
            (each) => [`${each.circuit}:${each.point}`, `${String(each.number)}: ${each.title}`] as const,
          )}
          onCommit={(said) => {
            const [circuit = "", point = ""] = said.split(":");
            put({ point: circuit ? { circuit, point } : null });
          }}
        />
        <label className="flex items-center gap-2 self-end pb-2">
          <input
            type="checkbox"
            className="checkbox"
            checked={mark.is_existing}
            onChange={(event) => put({ is_existing: event.target.checked })}
          />
          is there already
        </label>
      </div>
      {placed?.departs && (
        <button
          className="btn btn-sm mt-2"
          onClick={() =>
            void work.command({
              op: "agree",
              mark: mark.id,
              agreed: { by: "the householder", on: new Date().toISOString().slice(0, 10), why: "" },
            })
          }
        >
          Agreed with the householder
        </button>
      )}
      <button
        className="btn btn-ghost btn-sm mt-2 text-error"
        onClick={() => void work.command({ op: "drop-mark", mark: mark.id }).then((kept) => kept && onClose())}
      >
        Take it away
      </button>
    </section>
  );
}
