import type { Outline, PlanView, Storey } from "../../api/client";
import { Photos } from "../../app/Photos";
import type { PlanWork } from "../../data/usePlan";
import { Choice, Figure } from "../../parts/fields";

const CEILINGS = [
  ["board", "board"],
  ["lath-and-plaster", "lath and plaster"],
  ["boarded-over", "to be boarded over"],
  ["concrete", "concrete"],
  ["timber", "timber"],
] as const;
const INSULATED = [
  ["yes", "insulated"],
  ["no", "bare"],
] as const;
const REACHED = [
  ["yes", "from above"],
  ["no", "not from above"],
] as const;

interface Props {
  view: PlanView;
  roomId: string;
  outline: Outline;
  work: PlanWork;
}

/** What a room is like over its ceiling, where it lies in the house, its storey's floor, and photos of it. */
export function RoomPanel({ view, roomId, outline, work }: Props) {
  const room = view.places.rooms.find((each) => each.id === roomId);
  if (!room) return null;
  const storey = view.places.storeys.find((each) => each.id === room.storey);
  const others = view.places.rooms.filter((each) => each.id !== roomId && each.outline);
  const seat = room.seat ?? undefined;
  const ceiling = (more: object) => void work.command({ op: "ceiling", room: roomId, ...more });
  const lies = (more: { of?: string; east_mm?: number; north_mm?: number }) => {
    void work.command(({ places }) => {
      const now = places.rooms.find((each) => each.id === roomId)?.seat;
      const of = more.of ?? now?.of;
      if (!of) return [];
      const put = { of, east_mm: now?.east_mm ?? 0, north_mm: now?.north_mm ?? 0, ...more };
      return [{ op: "seat", room: roomId, seat: put }];
    });
  };
  return (
    <details className="mt-3 border border-base-300 p-2" data-room-panel>
      <summary className="cursor-pointer font-semibold">Ceiling, storey, where it lies, photos</summary>
      <div className="grid grid-cols-2 gap-2 pt-2 md:grid-cols-4">
        <Figure
          name="Height of the room"
          caption="Height"
          unit="mm"
          required
          value={outline.height_mm}
          onCommit={(mm) => mm !== null && ceiling({ height_mm: mm })}
        />
        <Choice
          name="Ceiling"
          caption="Ceiling"
          blank="of what?"
          value={outline.ceiling ?? ""}
          options={CEILINGS}
          onCommit={(said) => ceiling({ ceiling: said })}
        />
        <Figure
          name="Void over the ceiling"
          caption="Void over it"
          unit="mm"
          value={outline.void_mm ?? null}
          onCommit={(mm) => ceiling({ void_mm: mm })}
        />
        <Choice
          name="Insulated"
          caption="On it"
          blank="insulation?"
          value={outline.is_insulated == null ? "" : outline.is_insulated ? "yes" : "no"}
          options={INSULATED}
          onCommit={(said) => ceiling({ is_insulated: said === "yes" })}
        />
        {others.length > 0 && (
          <>
            <Choice
              name="Lies from"
              caption="Lies from the corner of"
              blank="which room?"
              value={seat?.of ?? ""}
              options={others.map((each) => [each.id, each.name] as const)}
              onCommit={(of) => lies({ of })}
            />
            <Figure
              name="Lies east"
              caption="South-west corner east"
              unit="mm"
              value={seat?.east_mm ?? null}
              onCommit={(mm) => mm !== null && lies({ east_mm: mm })}
            />
            <Figure
              name="Lies north"
              caption="and north"
              unit="mm"
              value={seat?.north_mm ?? null}
              onCommit={(mm) => mm !== null && lies({ north_mm: mm })}
            />
          </>
        )}
      </div>
      {storey && <FloorFields storey={storey} work={work} />}
      {outline.above.map((each) => (
        <p key={each.id} className="flex items-center gap-2">
          {each.id}: runs {each.runs}, {each.at_mm} mm in, {each.width_mm} mm wide
          <button
            className="btn btn-ghost btn-sm"
            onClick={() => void work.command({ op: "drop-part", room: roomId, part: each.id })}
          >
            Take it away
          </button>
        </p>
      ))}
      <Photos jobId={view.job_id} shown={{ shows: "room", of: roomId }} of={room.name} />
    </details>
  );
}

/** What is between this storey and the next one up. */
function FloorFields({ storey, work }: { storey: Storey; work: PlanWork }) {
  const floor = storey.floor;
  const put = (more: Partial<Storey["floor"]>) =>
    void work.command(({ places }) =>
      places.storeys
        .filter((each) => each.id === storey.id)
        .map((now) => ({ op: "floor", storey: now.id, floor: { ...now.floor, ...more } })),
    );
  const figures = [
    ["height_mm", "Storey, floor to ceiling"],
    ["joist_depth_mm", "Joists, deep"],
    ["build_up_mm", "Floor above, all of it"],
    ["void_mm", "Void in it"],
    ["screed_mm", "Screed on it"],
  ] as const;
  return (
    <fieldset className="pt-3">
      <legend className="font-semibold">{storey.name}, and the floor above it</legend>
      <div className="grid grid-cols-2 gap-2 md:grid-cols-4">
        {figures.map(([key, caption]) => (
          <Figure
            key={key}
            name={caption}
            caption={caption}
            unit="mm"
            value={floor[key] ?? null}
            onCommit={(mm) => put({ [key]: mm })}
          />
        ))}
        <Choice
          name="Floor above reached"
          caption="The floor above is reached"
          blank="how?"
          value={floor.reached_from_above == null ? "" : floor.reached_from_above ? "yes" : "no"}
          options={REACHED}
          onCommit={(said) => put({ reached_from_above: said === "yes" })}
        />
      </div>
    </fieldset>
  );
}
