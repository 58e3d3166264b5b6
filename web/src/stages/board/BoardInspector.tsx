import { useState } from "react";
import { Link } from "react-router-dom";
import type { Board, BoardCommand, BoardsView, Way } from "../../api/client";
import { Photos } from "../../app/Photos";
import { SpotFields } from "../../app/SpotFields";
import { boardKeyOf } from "../../data/useBoards";
import { useJob } from "../../data/useJob";
import type { ToDo } from "../../data/useWriting";
import { withOrWithout } from "../../lists";
import { FieldGroup, type FieldOf } from "../../parts/FieldGroup";
import { Choice, Figure, Labelled, Tick, Words } from "../../parts/fields";
import { moveBy, type Picked } from "./picking";

type Of<Op extends BoardCommand["op"]> = Extract<BoardCommand, { op: Op }>;
type Sets<Op extends BoardCommand["op"], About extends string> = Omit<Of<Op>, "op" | About>;

interface Props {
  view: BoardsView;
  picked: Picked;
  tripped: string | undefined;
  onPick: (picked: Picked) => void;
  onTrip: (id: string | undefined) => void;
  onCommand: (...commands: ToDo<BoardsView, BoardCommand>[]) => Promise<BoardsView | undefined>;
}

const MATERIALS = [
  ["unknown", "not said"],
  ["metal", "metal"],
  ["plastic", "plastic"],
  ["timber", "timber"],
] as const;
const MAINS = [
  ["unknown", "not said"],
  ["switch", "switch"],
  ["rccb", "RCCB"],
  ["switch-fuse", "switch-fuse"],
  ["breaker", "breaker"],
  ["none", "none"],
] as const;
const SURGES = [
  ["unknown", "not said"],
  ["none", "none"],
  ["2", "type 2"],
  ["1+2", "type 1+2"],
  ["1", "type 1"],
  ["3", "type 3"],
] as const;
const SIDES = [
  ["unknown", "not said"],
  ["left", "left of the line"],
  ["right", "right of the line"],
] as const;
const POLES = [
  ["1", "1 pole"],
  ["2", "2 poles"],
  ["3", "3 poles"],
  ["4", "4 poles"],
] as const;
const STATES = [
  ["new", "new"],
  ["altered", "altered"],
  ["as-found", "as found"],
] as const;
const NEEDS = [
  ["freezer", "freezer"],
  ["heating", "heating"],
  ["alarms", "alarms"],
  ["medical", "medical"],
  ["business", "people at work"],
] as const;
const LINES = [
  ["L1", "L1"],
  ["L2", "L2"],
  ["L3", "L3"],
] as const;
const RCDS = [
  ["none", "no RCD"],
  ["rcd", "an RCD"],
  ["unknown", "not known"],
] as const;
const TYPES = [
  ["AC", "type AC"],
  ["A", "type A"],
  ["F", "type F"],
  ["B", "type B"],
] as const;

const OF_RCD: readonly FieldOf<Sets<"group", "group">>[] = [
  { figure: "rated_ma", name: "Group residual current", caption: "IΔn", width: "w-24", unit: "mA", placeholder: "?" },
  { figure: "rating_a", name: "Group rating", caption: "Rated", width: "w-20", unit: "A", placeholder: "?" },
  { choice: "type", name: "Group RCD type", caption: "Type", width: "w-28", blank: "not said", options: TYPES },
  { tick: "delayed", name: "time-delayed (S)" },
];

function ofEnclosure(board: Board): readonly FieldOf<Sets<"board", "board">>[] {
  return [
    { choice: "state", name: "Board state", caption: "Work", width: "w-28", options: STATES },
    {
      figure: "year",
      name: "Year of the board",
      caption: "Put in",
      width: "w-24",
      unit: "",
      placeholder: "year?",
      when: board.state !== "new",
    },
    { choice: "material", name: "Enclosure", caption: "Made of", width: "w-28", options: MATERIALS },
    { words: "ip", name: "IP code", caption: "IP", width: "w-20", placeholder: "IP4X", capitals: true },
  ];
}

/** What is picked on the boards, to be described and worked on. */
export function BoardInspector(props: Props) {
  const { view, picked } = props;
  const board = view.boards.find(
    (each) =>
      each.id === picked.id ||
      each.groups.some((group) => group.id === picked.id || group.ways.some((way) => way.id === picked.id)),
  );
  const way = board?.groups.flatMap((group) => group.ways).find((each) => each.id === picked.id);
  return (
    <div className="border-t-2 border-base-content/80 bg-base-100 px-4 py-2">
      {board && picked.kind === "board" && <BoardFields {...props} board={board} />}
      {board && picked.kind === "group" && <GroupFields {...props} board={board} />}
      {board && way && <WayFields {...props} board={board} way={way} />}
    </div>
  );
}

function Row({ children }: { children: React.ReactNode }) {
  return <div className="flex flex-wrap items-end gap-x-3 gap-y-1.5">{children}</div>;
}

function BoardFields({ view, board, onCommand }: Props & { board: Board }) {
  const job = useJob();
  const [adding, setAdding] = useState(false);
  const set = (changes: Sets<"board", "board">) => void onCommand({ op: "board", board: board.id, ...changes });
  const main = board.main && board.main !== "unknown" ? board.main : undefined;
  const kind =
    board.main === "unknown"
      ? "unknown"
      : !main
        ? "none"
        : main.standard === "bs-en-61008"
          ? "rccb"
          : main.standard === "switch"
            ? "switch"
            : main.standard.startsWith("bs-en")
              ? "breaker"
              : "switch-fuse";
  const surge = board.surge && board.surge !== "unknown" ? board.surge : undefined;
  const feeders = job.circuits.filter(
    (line) =>
      line.kind === "Feed of another board" &&
      !view.boards.some((each) => each.fed_by === boardKeyOf(line.id) && each.id !== board.id),
  );
  return (
    <div className="flex flex-col gap-1.5">
      <Row>
        <Words
          name="Board name"
          caption="Board"
          className="input-sm w-44 font-semibold"
          value={board.name}
          onCommit={(name) => set({ name: name || "Board" })}
        />
        <SpotFields jobId={job.id} of="board" at={board.at} onCommit={(at) => set({ at })} />
        <FieldGroup
          of={{ ...board.enclosure, state: board.state, year: board.year }}
          fields={ofEnclosure(board)}
          onSet={set}
        />
        <Choice
          name="Main switch"
          caption="Main switch"
          className="select-sm w-32"
          value={kind}
          options={MAINS}
          onCommit={(main) => set({ main })}
        />
        {main && (
          <Figure
            name="Main rating"
            caption="Rated"
            unit="A"
            className="input-sm w-20"
            value={main.rating_a}
            onCommit={(value) => value && set({ main_rating_a: value })}
          />
        )}
        {main && kind === "rccb" && (
          <Figure
            name="Main residual current"
            caption="IΔn"
            unit="mA"
            className="input-sm w-24"
            value={main.rcd && main.rcd !== "unknown" ? main.rcd.rated_ma : null}
            onCommit={(main_rated_ma) => set({ main_rated_ma })}
          />
        )}
        {main && (
          <Choice
            name="Main poles"
            caption="Poles"
            className="select-sm w-28"
            value={board.main_poles ? String(board.main_poles) : ""}
            blank="not said"
            options={POLES}
            onCommit={(poles) => set({ main_poles: Number(poles) as 1 | 2 | 3 | 4 })}
          />
        )}
        <Choice
          name="Surge device"
          caption="Surge device"
          className="select-sm w-28"
          value={board.surge === "unknown" ? "unknown" : surge ? (surge.type ?? "") : "none"}
          blank="type?"
          options={SURGES}
          onCommit={(chosen) => set({ surge: chosen })}
        />
        {surge && (
          <Figure
            name="Surge leads"
            caption="Its leads"
            unit="m"
            className="input-sm w-20"
            value={surge.lead_m}
            onCommit={(surge_lead_m) => set({ surge_lead_m })}
          />
        )}
        <Choice
          name="Neutral side"
          caption="Neutral bar"
          className="select-sm w-36"
          value={board.neutral_side}
          options={SIDES}
          onCommit={(neutral_side) => set({ neutral_side })}
        />
      </Row>
      {board.neutral_side === "right" && board.state === "as-found" && (
        <p className="text-sm text-warning">
          Most boards of today have their neutral bar on the left: before you order a replacement, see that neutrals and
          cpcs reach across.
        </p>
      )}
      <Row>
        {(board.fed_by || view.boards.length > 1) && feeders.length > 0 && (
          <Choice
            name="Fed by"
            caption="Fed by"
            className="select-sm w-56"
            value={board.fed_by ?? ""}
            blank="the origin"
            options={feeders.map((line) => [boardKeyOf(line.id), `${line.number} ${line.name}`] as const)}
            onCommit={(fed_by) => set({ fed_by })}
          />
        )}
        <button className="btn btn-sm" onClick={() => void onCommand({ op: "add-group", board: board.id })}>
          Add an RCD and its group
        </button>
        <button
          className="btn btn-sm"
          onClick={() => {
            const group = board.groups.at(-1);
            if (group) void onCommand({ op: "add-way", group: group.id });
          }}
        >
          Add a way
        </button>
        <button className="btn btn-sm" onClick={() => void onCommand({ op: "number-by-way" })}>
          Number by way
        </button>
        <Photos jobId={view.job_id} shown={{ shows: "board", of: board.id }} of={board.name} small />
        <button className="btn btn-sm" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          Add a sub-board
        </button>
        {(board.fed_by ?? board.beside) && (
          <button
            className="btn btn-ghost btn-sm"
            onClick={() => void onCommand({ op: "drop-board", board: board.id })}
          >
            Take this board away
          </button>
        )}
      </Row>
      {adding && <AddBoard view={view} board={board} onCommand={onCommand} onDone={() => setAdding(false)} />}
    </div>
  );
}

function AddBoard({
  view,
  board,
  onCommand,
  onDone,
}: Pick<Props, "view" | "onCommand"> & { board: Board; onDone: () => void }) {
  const job = useJob();
  const free = job.circuits.filter((line) => !view.boards.some((each) => each.fed_by === boardKeyOf(line.id)));
  const [by, setBy] = useState("");
  const [name, setName] = useState("Sub-board");
  return (
    <Row>
      <Words name="New board" caption="Its name" className="input-sm w-44" value={name} onCommit={setName} />
      <Choice
        name="New board fed by"
        caption="Fed by the circuit"
        className="select-sm w-64"
        value={by}
        blank="beside this one, linked"
        options={free.map((line) => [boardKeyOf(line.id), `${line.number} ${line.name}`] as const)}
        onCommit={setBy}
      />
      <button
        className="btn btn-sm btn-primary"
        onClick={() => {
          void onCommand(
            by
              ? { op: "add-board", name: name || "Sub-board", fed_by: by }
              : { op: "add-board", name: name || "Sub-board", beside: board.id },
          );
          onDone();
        }}
      >
        Add it
      </button>
      <p className="quiet text-sm">
        A feed is a circuit of the kind “Feed of another board”: start one under Circuits.
      </p>
    </Row>
  );
}

function GroupFields({ view, board, picked, tripped, onTrip, onCommand }: Props & { board: Board }) {
  const group = board.groups.find((each) => each.id === picked.id);
  if (!group) return null;
  const set = (changes: Sets<"group", "group">) => void onCommand({ op: "group", group: group.id, ...changes });
  const rcd = group.rcd && group.rcd !== "unknown" ? group.rcd : undefined;
  const shown = view.result.boards.flatMap((each) => each.groups).find((each) => each.id === group.id);
  return (
    <Row>
      <span className="pb-1 text-lg font-bold">{shown?.title}</span>
      <Words
        name="Group name"
        caption="Called"
        className="input-sm w-32"
        value={group.name}
        onCommit={(name) => set({ name })}
      />
      <Choice
        name="Group RCD"
        caption="RCD"
        className="select-sm w-28"
        value={group.rcd === null ? "none" : group.rcd === "unknown" ? "unknown" : "rcd"}
        options={RCDS}
        onCommit={(chosen) => set({ rcd: chosen })}
      />
      {rcd && (
        <>
          <FieldGroup of={{ ...rcd, rating_a: group.rating_a }} fields={OF_RCD} onSet={set} />
        </>
      )}
      {group.unsure && (
        <button className="btn btn-sm btn-primary" onClick={() => set({ unsure: false })}>
          All of these are behind this one RCD
        </button>
      )}
      <button className="btn btn-sm" onClick={() => void onCommand({ op: "add-way", group: group.id })}>
        Add a way
      </button>
      {group.rcd !== null && (
        <button className="btn btn-sm" onClick={() => onTrip(tripped === group.id ? undefined : group.id)}>
          {tripped === group.id ? "On again" : "As if it tripped"} <kbd>T</kbd>
        </button>
      )}
      {board.groups.length > 1 && (
        <button className="btn btn-ghost btn-sm" onClick={() => void onCommand({ op: "drop-group", group: group.id })}>
          Take the group away
        </button>
      )}
    </Row>
  );
}

function WayFields({ view, board, way, tripped, onPick, onTrip, onCommand }: Props & { board: Board; way: Way }) {
  const job = useJob();
  const set = (changes: Sets<"way", "way">) => void onCommand({ op: "way", way: way.id, ...changes });
  const groups = view.boards.flatMap((each) => each.groups.map((group) => ({ group, board: each })));
  const own = groups.find(({ group }) => group.ways.some((each) => each.id === way.id));
  const titles = new Map(
    view.result.boards.flatMap((each) => each.groups.map((group) => [group.id, group.title] as const)),
  );
  const lines = way.circuits
    .map((key) => job.circuits.find((line) => boardKeyOf(line.id) === key))
    .filter((line) => line !== undefined);
  const move = async (step: -1 | 1) => {
    const command = moveBy(view.boards, way.id, step);
    if (command) await onCommand(command);
  };
  return (
    <div className="flex flex-col gap-1.5">
      <Row>
        <span className="pb-1 text-lg font-bold">
          {lines.length > 0
            ? lines.map((line) => (
                <Link
                  key={line.id}
                  to={`/jobs/${job.id}/circuits/${line.id}`}
                  className="mr-3 underline underline-offset-4"
                >
                  {line.number} {line.name}
                </Link>
              ))
            : "An open way"}
        </span>
        {lines.map((line) => (
          <Figure
            key={line.id}
            name={`Number of ${line.name}`}
            caption="No."
            unit=""
            className="input-sm w-14"
            required
            value={line.number}
            onCommit={(number) => number && void onCommand({ op: "number", circuit: boardKeyOf(line.id), number })}
          />
        ))}
        <button className="btn btn-sm" onClick={() => void move(-1)} title="Shift and arrow left">
          ◀ Move
        </button>
        <button className="btn btn-sm" onClick={() => void move(1)} title="Shift and arrow right">
          Move ▶
        </button>
        <Choice
          name="Group of the way"
          caption="In the group"
          className="select-sm w-60"
          value={own?.group.id ?? ""}
          options={groups.map(
            ({ group, board: of }) =>
              [group.id, `${of.name}: ${group.rcd === null ? "no RCD" : (titles.get(group.id) ?? "")}`] as const,
          )}
          onCommit={(group) => void onCommand({ op: "move-way", way: way.id, group })}
        />
        {lines.length > 0 && (
          <button className="btn btn-sm" onClick={() => onTrip(tripped === way.id ? undefined : way.id)}>
            {tripped === way.id ? "On again" : "As if it tripped"} <kbd>T</kbd>
          </button>
        )}
        <Choice
          name="Put a circuit here"
          caption="Circuit"
          className="select-sm w-52"
          value=""
          blank={lines.length > 0 ? "put another here" : "put one here"}
          options={job.circuits
            .filter((line) => !way.circuits.includes(boardKeyOf(line.id)))
            .map((line) => [boardKeyOf(line.id), `${line.number} ${line.name}`] as const)}
          onCommit={(circuit) => void onCommand({ op: "seat", circuit, way: way.id })}
        />
        {board.state === "as-found" && (
          <Choice
            name="Found here too"
            caption="Found in this way too"
            className="select-sm w-52"
            value=""
            blank="a borrowed way?"
            options={job.circuits
              .filter((line) => !way.circuits.includes(boardKeyOf(line.id)))
              .map((line) => [boardKeyOf(line.id), `${line.number} ${line.name}`] as const)}
            onCommit={(circuit) => void onCommand({ op: "seat", circuit, way: way.id, also: true })}
          />
        )}
      </Row>
      <Row>
        <Choice
          name="Way poles"
          caption="Poles"
          className="select-sm w-28"
          value={way.poles ? String(way.poles) : ""}
          blank="not said"
          options={POLES}
          onCommit={(poles) => set({ poles: Number(poles) as 1 | 2 | 3 | 4 })}
        />
        {job.supply.phases === 3 && (
          <>
            <Choice
              name="Line of the way"
              caption="Line"
              className="select-sm w-24"
              value={way.line ?? ""}
              blank="line?"
              options={LINES}
              onCommit={(line) => set({ line })}
            />
            <span className="pb-1">
              <Tick words="keep it on this line" checked={way.stays} onChange={(stays) => set({ stays })} />
            </span>
          </>
        )}
        {board.groups.length > 1 && lines.length > 0 && (
          <Choice
            name="Neutral at"
            caption="Its neutral is at the bar of"
            className="select-sm w-52"
            value={way.neutral_at ?? own?.group.id ?? ""}
            options={board.groups.map((group) => [group.id, titles.get(group.id) ?? group.id] as const)}
            onCommit={(chosen) => set({ neutral_at: chosen === own?.group.id ? null : chosen })}
          />
        )}
        {way.circuits.some((key) => view.boards.some((each) => each.fed_by === key)) && (
          <span className="pb-1">
            <Tick
              words="linked straight to the bars, no device"
              checked={way.direct}
              onChange={(direct) => set({ direct })}
            />
          </span>
        )}
        {lines.length > 0 && (
          <Labelled label="Somebody would miss">
            <span className="flex flex-wrap">
              {NEEDS.map(([need, words]) => (
                <Tick
                  key={need}
                  words={words}
                  checked={way.needs.includes(need)}
                  onChange={(on) =>
                    void onCommand(({ boards }) =>
                      boards
                        .flatMap((each) => each.groups.flatMap((group) => group.ways))
                        .filter((each) => each.id === way.id)
                        .map(({ needs }) => ({ op: "way", way: way.id, needs: withOrWithout(needs, need, on) })),
                    )
                  }
                />
              ))}
            </span>
          </Labelled>
        )}
        {lines.length === 0 && (
          <>
            <span className="pb-1">
              <Tick words="closed by a blank" checked={way.blank} onChange={(blank) => set({ blank })} />
            </span>
            <Figure
              name="Unused breaker"
              caption="Breaker fitted, unused"
              unit="A"
              placeholder="none"
              className="input-sm w-28"
              value={way.device?.rating_a}
              onCommit={(unused_a) => set({ unused_a })}
            />
            <button
              className="btn btn-ghost btn-sm"
              onClick={() => {
                onPick({ kind: "board", id: board.id });
                void onCommand({ op: "drop-way", way: way.id });
              }}
            >
              Take the way out
            </button>
          </>
        )}
      </Row>
    </div>
  );
}
