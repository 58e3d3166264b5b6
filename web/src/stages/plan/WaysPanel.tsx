import { useState } from "react";
import type { PlanView, RouteRules } from "../../api/client";
import type { PlanWork } from "../../data/usePlan";
import { withOrWithout } from "../../lists";
import { Choice, Figure } from "../../parts/fields";
import { changingWays, isFace } from "./changing";
import { wallWords } from "./seated";

const WEIGHTS = [
  ["bend", "A bend"],
  ["joist_hole", "A hole through a joist"],
  ["through", "Through a ceiling or floor"],
  ["floor_opened", "A floor opened"],
  ["chase_masonry", "A metre let into brick"],
  ["chase_hollow", "A metre in a hollow wall"],
  ["chase_tiled", "A metre behind tiles, more"],
  ["outside", "A metre outside, more"],
] as const;
const KINDS = [
  ["buried", "buried"],
  ["duct", "in a duct"],
  ["clipped", "clipped outside"],
] as const;

/** What things cost a way, which floors stay shut, which walls uncut, and the ways outside. */
export function WaysPanel({ view, work }: { view: PlanView; work: PlanWork }) {
  const ways = view.places.ways;
  const put = (change: (now: RouteRules) => Partial<RouteRules>) => void work.command(changingWays(change));
  const rooms = view.places.rooms.filter((room) => room.outline);
  return (
    <details className="border border-base-300 p-2" data-ways>
      <summary className="cursor-pointer font-semibold">What ways cost, what is barred, ways outside</summary>
      <p className="quiet py-2 text-sm">In mm of cable that lies free: a hole of 250 is worth 250 mm of going round.</p>
      <div className="grid grid-cols-2 gap-2 md:grid-cols-4">
        {WEIGHTS.map(([key, caption]) => (
          <Figure
            key={key}
            name={caption}
            caption={caption}
            unit="mm"
            required
            value={ways.weights[key]}
            onCommit={(mm) => mm !== null && put(({ weights }) => ({ weights: { ...weights, [key]: mm } }))}
          />
        ))}
        <Figure
          name="Left at each end"
          caption="Left at each end"
          unit="mm"
          required
          value={ways.slack_mm}
          onCommit={(mm) => mm !== null && put(() => ({ slack_mm: mm }))}
        />
        <Figure
          name="Left at a board"
          caption="Left at a board"
          unit="mm"
          required
          value={ways.board_slack_mm}
          onCommit={(mm) => mm !== null && put(() => ({ board_slack_mm: mm }))}
        />
      </div>
      <fieldset className="pt-3">
        <legend className="font-semibold">Floors that stay shut: fixed carpet, tiles, another trade</legend>
        <div className="flex flex-wrap gap-x-4">
          {rooms.map((room) => (
            <label key={room.id} className="flex min-h-9 items-center gap-2">
              <input
                type="checkbox"
                className="checkbox"
                name={`shut ${room.id}`}
                checked={ways.closed.includes(room.id)}
                onChange={({ target: { checked } }) =>
                  put(({ closed }) => ({ closed: withOrWithout(closed, room.id, checked) }))
                }
              />
              {room.name}
            </label>
          ))}
        </div>
      </fieldset>
      <fieldset className="pt-3">
        <legend className="font-semibold">Walls that are not cut</legend>
        <div className="flex flex-wrap items-center gap-2">
          {ways.barred.map((face) => (
            <button
              key={`${face.room}:${face.wall}`}
              className="btn btn-sm"
              onClick={() => put(({ barred }) => ({ barred: barred.filter((each) => !isFace(each, face)) }))}
            >
              {wallWords(view, face)} ✕
            </button>
          ))}
          <Choice
            name="Bar a wall"
            blank="one more…"
            value=""
            options={faces(view)}
            onCommit={(said) => put(({ barred }) => ({ barred: [...barred, faceOf(said)] }))}
          />
        </div>
      </fieldset>
      <fieldset className="pt-3">
        <legend className="font-semibold">Ways outside</legend>
        {ways.outside.map((way) => (
          <p key={way.id} className="flex flex-wrap items-center gap-2">
            {way.name || way.id}: {way.kind}, {wallWords(view, way.one)} {way.one_mm} mm to {wallWords(view, way.other)}{" "}
            {way.other_mm} mm
            {way.depth_mm != null && `, ${String(way.depth_mm)} mm deep`}
            <button
              className="btn btn-ghost btn-sm"
              onClick={() => put(({ outside }) => ({ outside: outside.filter((each) => each.id !== way.id) }))}
            >
              Take it away
            </button>
          </p>
        ))}
        <NewWay
          view={view}
          onMade={(way) => put(({ outside }) => ({ outside: [...outside, way] }))}
          taken={ways.outside}
        />
      </fieldset>
    </details>
  );
}

type Outside = RouteRules["outside"][number];

function NewWay({
  view,
  onMade,
  taken,
}: {
  view: PlanView;
  onMade: (way: Outside) => void;
  taken: readonly Outside[];
}) {
  const [one, setOne] = useState("");
  const [other, setOther] = useState("");
  const [mm, setMm] = useState<readonly [number, number]>([500, 500]);
  const [kind, setKind] = useState<Outside["kind"]>("buried");
  const [depth, setDepth] = useState<number | null>(600);
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Choice name="From wall" caption="From" blank="wall?" value={one} options={faces(view)} onCommit={setOne} />
      <Figure
        name="From its left"
        caption="from its left"
        unit="mm"
        value={mm[0]}
        onCommit={(said) => setMm([said ?? 0, mm[1]])}
      />
      <Choice name="To wall" caption="to" blank="wall?" value={other} options={faces(view)} onCommit={setOther} />
      <Figure
        name="To its left"
        caption="from its left"
        unit="mm"
        value={mm[1]}
        onCommit={(said) => setMm([mm[0], said ?? 0])}
      />
      <Choice name="How it lies" caption="It lies" value={kind} options={KINDS} onCommit={setKind} />
      <Figure name="How deep it lies" caption="deep" unit="mm" value={depth} onCommit={setDepth} />
      <button
        className="btn"
        disabled={!one || !other || one === other}
        onClick={() => {
          let count = taken.length + 1;
          while (taken.some((each) => each.id === `way-${String(count)}`)) count += 1;
          onMade({
            id: `way-${String(count)}`,
            name: "",
            one: faceOf(one),
            one_mm: mm[0],
            other: faceOf(other),
            other_mm: mm[1],
            kind,
            length_mm: null,
            depth_mm: kind === "clipped" ? null : depth,
          });
        }}
      >
        Add the way
      </button>
    </div>
  );
}

function faceOf(said: string): { room: string; wall: string } {
  const [room = "", wall = ""] = said.split(":");
  return { room, wall };
}

function faces(view: PlanView): (readonly [string, string])[] {
  return view.answer.rooms.flatMap((room) =>
    Object.entries(room.walls).map(
      ([wall]) => [`${room.room}:${wall}`, wallWords(view, { room: room.room, wall })] as const,
    ),
  );
}
