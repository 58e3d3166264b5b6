import { useState } from "react";
import type { Outline, PlanView, RoomPlan } from "../../api/client";
import { Photos } from "../../app/Photos";
import type { PlanWork } from "../../data/usePlan";
import { Choice, Figure } from "../../parts/fields";
import { changingBetween, isFace } from "./changing";
import { wallWords } from "./seated";

const BUILDS = (["brick", "block", "stud", "lath-and-plaster", "stone", "timber"] as const).map(
  (each) => [each, each] as const,
);
const TILED = [
  ["yes", "tiled"],
  ["no", "not tiled"],
] as const;

interface Props {
  view: PlanView;
  roomId: string;
  outline: Outline;
  room: RoomPlan;
  wallId: string;
  work: PlanWork;
  onClose: () => void;
}

/** One wall: how long by the tape, moved, how it is built, which room is behind it, and photos of it. */
export function WallPanel({ view, roomId, outline, room, wallId, work, onClose }: Props) {
  const [moves, setMoves] = useState<number | null>(null);
  const [behind, setBehind] = useState("");
  const wall = outline.walls.find((each) => each.id === wallId);
  if (!wall) return null;
  const called = room.walls[wallId] ?? wallId;
  const about = { room: roomId, wall: wallId };
  const shared = view.places.between.find((each) => [each.one, each.other].some((face) => isFace(face, about)));
  const other = shared && (shared.one.room === roomId ? shared.other : shared.one);
  const faces = facesOf(view, roomId, wall.heading);
  return (
    <section className="mb-3 border-2 border-accent bg-base-200 p-3" data-picked-wall={called}>
      <h2 className="flex items-center gap-2 text-lg font-bold">
        <span className="grow">Wall {called}</span>
        <button className="btn btn-ghost btn-sm" aria-label="Close" onClick={onClose}>
          ✕
        </button>
      </h2>
      <div className="grid grid-cols-2 gap-2">
        <Figure
          name="Length of the wall"
          caption="The tape says"
          unit="mm"
          required
          value={wall.length_mm}
          onCommit={(mm) => mm !== null && void work.command({ op: "tape", ...about, length_mm: mm })}
        />
        <Figure
          name="Moves the wall"
          caption="It is moved outwards by"
          unit="mm"
          placeholder="− inwards"
          value={moves}
          onCommit={(mm) => {
            setMoves(mm);
            if (mm !== null && mm !== 0)
              void work.command({ op: "move-wall", ...about, by_mm: mm }).then(() => setMoves(null));
          }}
        />
        <Choice
          name="Build of the wall"
          caption="Built of"
          blank="what?"
          value={wall.build ?? ""}
          options={BUILDS}
          onCommit={(build) => void work.command({ op: "wall", ...about, build })}
        />
        <Choice
          name="Tiled"
          caption="Its face"
          blank="tiled?"
          value={wall.tiled == null ? "" : wall.tiled ? "yes" : "no"}
          options={TILED}
          onCommit={(said) => void work.command({ op: "wall", ...about, tiled: said === "yes" })}
        />
        <Figure
          name="Depth of the wall"
          caption="A box may be"
          unit="mm deep"
          value={wall.depth_mm ?? null}
          onCommit={(mm) => void work.command({ op: "wall", ...about, depth_mm: mm })}
        />
        <Figure
          name="Plaster on the wall"
          caption="Of that plaster"
          unit="mm"
          value={wall.plaster_mm ?? null}
          onCommit={(mm) => void work.command({ op: "wall", ...about, plaster_mm: mm })}
        />
        {(other || faces.length > 0) && (
          <Choice
            name="Behind the wall"
            caption="Behind it"
            className="w-full"
            blank="which room?"
            value={other ? `${other.room}:${other.wall}` : behind}
            options={faces}
            onCommit={(said) => {
              const [otherRoom = "", otherWall = ""] = said.split(":");
              setBehind(said);
              if (otherRoom)
                void work.command({
                  op: "between",
                  between: {
                    one: about,
                    other: { room: otherRoom, wall: otherWall },
                    thickness_mm: shared?.thickness_mm ?? 100,
                    offset_mm: 0,
                  },
                });
            }}
          />
        )}
        {shared && other && (
          <>
            <Figure
              name="Thickness of the wall"
              caption="From face to face"
              unit="mm"
              required
              value={shared.thickness_mm}
              onCommit={(mm) => mm !== null && void work.command(changingBetween(shared, { thickness_mm: mm }))}
            />
            <Figure
              name="Shift of the room behind"
              caption={shared.one.room === roomId ? "Its right end from our left" : "Our right end from its left"}
              unit="mm"
              required
              value={shared.offset_mm}
              onCommit={(mm) => mm !== null && void work.command(changingBetween(shared, { offset_mm: mm }))}
            />
          </>
        )}
      </div>
      <Photos jobId={view.job_id} shown={{ shows: "room", of: `${roomId}/${wallId}` }} of={`wall ${called}`} />
    </section>
  );
}

/** The walls of other measured rooms that may be the other face of one that runs so. */
function facesOf(view: PlanView, roomId: string, heading: number): (readonly [string, string])[] {
  const opposite = (heading + 180) % 360;
  return view.places.rooms.flatMap((room) => {
    if (room.id === roomId || !room.outline) return [];
    return room.outline.walls
      .filter((wall) => wall.heading === opposite)
      .map((wall) => [`${room.id}:${wall.id}`, wallWords(view, { room: room.id, wall: wall.id })] as const);
  });
}
