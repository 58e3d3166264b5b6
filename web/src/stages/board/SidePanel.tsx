import * as Tabs from "@radix-ui/react-tabs";
import { useState } from "react";
import { asRefused, type BoardCommand, type BoardsView, type Check, type Trip } from "../../api/client";
import { useBoardProposals, useLabels } from "../../data/useBoards";
import { plain } from "../../numbers";
import { CheckList } from "../../parts/CheckRow";
import { Choice } from "../../parts/fields";
import { onlyOn, type ToDo } from "../../data/useWriting";
import { RefusalNote } from "../../parts/RefusalNote";
import { MakePdf } from "../../parts/MakePdf";
import type { Picked } from "./picking";
import { RoomsPanel } from "./RoomsPanel";

interface Props {
  view: BoardsView;
  trip: Trip | undefined;
  onPick: (picked: Picked) => void;
  onTrip: (id: string | undefined) => void;
  onCommand: (...commands: ToDo<BoardsView, BoardCommand>[]) => void;
}

const TABS = [
  ["checks", "Checks"],
  ["dark", "Rooms"],
  ["room", "Demand"],
  ["propose", "Propose"],
  ["labels", "Labels"],
] as const;
type Tab = (typeof TABS)[number][0];

/** What is asked of the boards, what a trip puts out, what may still be added, what they could be, what is written on them. */
export function SidePanel(props: Props) {
  const [tab, setTab] = useState<Tab>("checks");
  const [seen, setSeen] = useState<string>();
  if (props.trip?.id !== seen) {
    setSeen(props.trip?.id);
    // What has gone dark is what one wants to see when something trips.
    if (props.trip) setTab("dark");
  }
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(value) => setTab(value as Tab)}
      className="flex min-h-0 flex-col border-l-2 border-base-content/80 max-lg:border-t-2 max-lg:border-l-0"
    >
      <Tabs.List aria-label="About the boards" className="flex border-b border-base-300">
        {TABS.map(([id, words]) => (
          <Tabs.Trigger
            key={id}
            value={id}
            data-tab={id}
            className={`grow cursor-pointer px-1 py-2 text-sm font-semibold ${tab === id ? "border-b-4 border-accent" : "quiet border-b-4 border-transparent"}`}
          >
            {words}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={tab} className="min-h-0 grow overflow-y-auto">
        {tab === "checks" && <Checks {...props} />}
        {tab === "dark" && <RoomsPanel {...props} />}
        {tab === "room" && <Demand view={props.view} onCommand={props.onCommand} />}
        {tab === "propose" && <Proposals view={props.view} onCommand={props.onCommand} />}
        {tab === "labels" && <Labels view={props.view} />}
      </Tabs.Content>
    </Tabs.Root>
  );
}

function Checks({ view, onPick }: Props) {
  const onPlace = ({ place }: Check) => {
    if (place?.kind === "board" || place?.kind === "group" || place?.kind === "way")
      onPick({ kind: place.kind, id: place.id });
  };
  return <CheckList checks={view.result.checks} onPlace={onPlace} />;
}

function Demand({ view, onCommand }: Pick<Props, "view" | "onCommand">) {
  const room = view.result.headroom;
  const lines = view.result.lines;
  return (
    <div className="flex flex-col gap-4 px-3 py-3" data-demand>
      <section>
        <p className="text-3xl font-bold">
          {room.shown_demand} A
          <span className="quiet text-base font-normal">
            {" "}
            {room.limit_a === null ? "; no limit known" : `of ${plain(room.limit_a)} A, ${room.limit_is}`}
          </span>
        </p>
        {room.limit_a !== null && (
          <svg
            viewBox="0 0 300 34"
            className="mt-1 w-full"
            role="img"
            aria-label={`${room.shown_demand} A of what ${room.limit_is} carries`}
          >
            <rect x="1" y="6" width="298" height="20" fill="none" stroke="currentColor" strokeWidth="2" />
            <rect
              x="1"
              y="6"
              width={298 * Math.min(room.share, 1)}
              height="20"
              fill="currentColor"
              className={room.share > 1 ? "text-error" : "text-accent"}
            />
            {[0.25, 0.5, 0.75].map((part) => (
              <path key={part} d={`M${1 + 298 * part} 26v6`} stroke="currentColor" strokeWidth="1.5" />
            ))}
          </svg>
        )}
        <p>{room.shown_left}</p>
        <p className="quiet text-sm">Connected: {room.shown_connected} A, with no diversity.</p>
      </section>
      <section>
        <h3 className="font-bold">May be added</h3>
        <ul>
          {room.may_add.map((each) => (
            <li key={each.what} className="flex justify-between gap-2 border-b border-base-300 py-1">
              <span>{each.what}</span>
              <span className={`font-semibold whitespace-nowrap ${each.fits ? "text-success" : "text-error"}`}>
                {each.fits ? "yes" : "no"}: {each.then_a} A
              </span>
            </li>
          ))}
        </ul>
      </section>
      {lines && (
        <section data-lines>
          <h3 className="font-bold">The three lines</h3>
          <p>
            Now <b>{lines.now_a.join(" / ")} A</b>
            {lines.now_neutral_a && `, neutral ${lines.now_neutral_a} A`}
          </p>
          <p>
            Best <b>{lines.best_a.join(" / ")} A</b>, neutral {lines.best_neutral_a} A
          </p>
          <p className="quiet text-sm">
            Proved: no sharing has a lesser fullest line.
            {lines.runner_up_a && ` The next best has ${lines.runner_up_a} A.`}
          </p>
          {lines.moves.length > 0 && (
            <button
              className="btn btn-sm mt-2"
              onClick={() =>
                onCommand(...lines.moves.map((move) => ({ op: "way" as const, way: move.way, line: move.line })))
              }
            >
              Put {lines.moves.length} circuits so
            </button>
          )}
        </section>
      )}
    </div>
  );
}

const ORDERS = [
  ["heavy-first", "heavy next the main switch"],
  ["by-storey", "by storey"],
  ["by-number", "by number"],
] as const;

function Proposals({ view, onCommand }: Pick<Props, "view" | "onCommand">) {
  const [order, setOrder] = useState<(typeof ORDERS)[number][0]>("heavy-first");
  const query = useBoardProposals(view, order);
  if (query.isError) return <RefusalNote refused={asRefused(query.error)} />;
  if (!query.data) return <p className="px-3 py-3">Trying everything…</p>;
  const { layouts, mends, splits } = query.data;
  return (
    <div className="flex flex-col gap-4 px-3 py-3" data-board-proposals>
      {mends.length > 0 && (
        <section>
          <h3 className="font-bold">The least that puts it right</h3>
          {mends.map((mend) => (
            <div key={mend.steps.join()} className="border-b border-base-300 py-2">
              <p className="font-semibold">{mend.steps.join("; ")}</p>
              <p className="quiet text-sm">settles: {mend.settles.join(", ")}</p>
              <button
                className="btn btn-sm mt-1"
                onClick={() => onCommand(onlyOn(view.version, { op: "house", boards: mend.boards }))}
              >
                Do it
              </button>
            </div>
          ))}
        </section>
      )}
      <section>
        <h3 className="font-bold">From scratch</h3>
        <Choice
          name="Order of the ways"
          className="select-sm my-1 w-full"
          value={order}
          options={ORDERS}
          onCommit={setOrder}
        />
        {layouts.map((layout) => (
          <div key={layout.title} className="border-b border-base-300 py-2">
            <p className="text-lg font-bold">{layout.title}</p>
            <p>
              <b>{layout.count.ways}</b> ways wide:{" "}
              {[
                layout.count.rcbos && `${layout.count.rcbos} RCBOs`,
                layout.count.breakers && `${layout.count.breakers} breakers`,
                layout.count.rccbs && `${layout.count.rccbs} RCCBs`,
              ]
                .filter(Boolean)
                .join(", ")}
            </p>
            <p className="quiet text-sm">{layout.gives_up}</p>
            {layout.change.length > 0 && <p className="text-sm">Another device for: {layout.change.join(", ")}</p>}
            {layout.reach && <p className="text-sm text-warning">{layout.reach}</p>}
            {layout.fails.map((each) => (
              <p key={each} className="text-sm font-semibold text-error">
                {each}
              </p>
            ))}
            <button
              className="btn btn-sm mt-1"
              onClick={() => onCommand(onlyOn(view.version, { op: "house", boards: layout.boards }))}
            >
              Lay it out so
            </button>
          </div>
        ))}
      </section>
      {splits.map((split) => (
        <section key={split.circuit + split.room}>
          <h3 className="font-bold">
            People at work in {split.room}: two circuits instead of {split.circuit}
          </h3>
          <p className="text-sm">One: {split.first.join(", ")}</p>
          <p className="text-sm">Other: {split.second.join(", ")}</p>
        </section>
      ))}
    </div>
  );
}

function Labels({ view }: { view: BoardsView }) {
  const query = useLabels(view);
  const base = `/api/jobs/${view.job_id}`;
  return (
    <div className="flex flex-col gap-4 px-3 py-3" data-labels>
      <div className="flex flex-wrap gap-2">
        <MakePdf
          className="btn-primary btn-sm"
          href={`${base}/papers/labels.pdf`}
          words="Labels, chart, notices: PDF"
          name="labels"
        />
        {view.boards.map((board, index) => (
          <span key={board.id} className="join">
            <a className="btn join-item btn-sm" href={`${base}/labels.svg?board=${index + 1}`} download>
              {board.name}: strip, SVG
            </a>
            <a className="btn join-item btn-sm" href={`${base}/chart.svg?board=${index + 1}`} download>
              chart, SVG
            </a>
          </span>
        ))}
      </div>
      {(query.data ?? []).map((sheet, index) => (
        <section key={index}>
          <h3 className="font-bold">{sheet.board}</h3>
          <ul className="text-sm">
            {sheet.notices.map((notice) => (
              <li key={notice.title} className="mt-1 border-2 border-base-content/70 px-2 py-1">
                <b>{notice.title}.</b> {notice.text}
                <span className="quiet block">{notice.why}</span>
              </li>
            ))}
          </ul>
          <details className="mt-2 text-sm">
            <summary className="cursor-pointer font-semibold">For who lives here</summary>
            {sheet.note.map((line) => (
              <p key={line} className="py-0.5">
                {line}
              </p>
            ))}
          </details>
        </section>
      ))}
    </div>
  );
}
