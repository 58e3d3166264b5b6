import { useState } from "react";
import type { Board, BoardCommand, BoardsView, CircuitLine, GroupView, Way, WayView } from "../../api/client";
import { boardKeyOf } from "../../data/useBoards";
import { useJob } from "../../data/useJob";
import { plain } from "../../numbers";
import { VerdictMark } from "../../parts/verdict";
import type { Picked, Showing } from "./picking";

interface Props {
  board: Board;
  view: BoardsView;
  showing: Showing;
  picked: Picked;
  dark: Set<string> | undefined;
  tripped: string | undefined;
  onPick: (picked: Picked) => void;
  onCommand: (...commands: BoardCommand[]) => void;
}

/** One board: its main switch, its groups as brackets over their ways, its ways in their order. */
export function BoardFaces({ board, view, showing, picked, dark, tripped, onPick, onCommand }: Props) {
  const shown = view.result.boards.find((each) => each.id === board.id);
  const [dragged, setDragged] = useState<string>();
  if (!shown) return null;
  const isPicked = picked.kind === "board" && picked.id === board.id;
  const main = board.main && board.main !== "unknown" ? board.main : undefined;
  return (
    <section className="mb-4" data-board={board.id} aria-label={board.name}>
      <div className="flex flex-wrap items-baseline gap-x-3 pb-1.5">
        <button
          className={`cursor-pointer text-left text-lg font-bold underline-offset-4 hover:underline ${isPicked ? "underline decoration-accent decoration-3" : ""}`}
          onClick={() => onPick({ kind: "board", id: board.id })}
        >
          {board.name}
        </button>
        <span className="quiet">
          {[shown.where, `fed from ${shown.fed_from}`, shown.fault_ka && `${shown.fault_ka} kA`]
            .filter(Boolean)
            .join(" · ")}
        </span>
        <span className="grow" />
        {shown.lines.map((line) => (
          <span key={line.line} className={line.share > 1 ? "font-bold text-error" : ""} data-line={line.line}>
            {shown.lines.length > 1 ? `${line.line} ` : ""}
            <b className="text-lg">{line.demand_a} A</b>
          </span>
        ))}
        {shown.by_ratings && <span className="quiet text-sm">by ratings, where no loads are stated</span>}
      </div>
      <div className="flex items-stretch gap-2 rounded-box border-2 border-base-content/80 bg-base-200 p-2.5 max-md:flex-col">
        <button
          className={`flex w-18 shrink-0 cursor-pointer flex-col items-center justify-center rounded-field border-2 bg-base-100 px-1 py-2 max-md:w-full max-md:flex-row max-md:gap-3 ${isPicked ? "border-accent" : "border-base-content/70"}`}
          onClick={() => onPick({ kind: "board", id: board.id })}
        >
          <span className="text-sm font-semibold">Main</span>
          <span className="text-2xl leading-tight font-bold">{main ? plain(main.rating_a) : "?"}</span>
          <span className="quiet text-xs">
            {main
              ? board.main_poles
                ? `${board.main_poles}-pole`
                : "poles?"
              : board.main === null
                ? "no switch"
                : "not said"}
          </span>
        </button>
        <div className="flex min-w-0 grow flex-wrap gap-x-2 gap-y-3">
          {board.groups.map((group) => {
            const groupView = shown.groups.find((each) => each.id === group.id);
            return (
              groupView && (
                <div key={group.id} className="flex min-w-0 flex-col" data-group={group.id}>
                  <GroupHead
                    group={groupView}
                    guarded={group.rcd !== null}
                    picked={picked.kind === "group" && picked.id === group.id}
                    off={tripped === group.id}
                    showing={showing}
                    onPick={() => onPick({ kind: "group", id: group.id })}
                  />
                  <div
                    className="flex grow flex-wrap gap-1 max-md:flex-col"
                    onDragOver={(event) => dragged && event.preventDefault()}
                    onDrop={() => dragged && onCommand({ op: "move-way", way: dragged, group: group.id })}
                  >
                    {group.ways.map((way, index) => {
                      const wayView = groupView.ways.find((each) => each.id === way.id);
                      return (
                        wayView && (
                          <WayFace
                            key={way.id}
                            way={way}
                            shown={wayView}
                            showing={showing}
                            picked={picked.kind === "way" && picked.id === way.id}
                            dark={dark !== undefined && way.circuits.some((key) => dark.has(key))}
                            off={tripped === way.id}
                            onPick={() => onPick({ kind: "way", id: way.id })}
                            onDrag={setDragged}
                            onDropHere={() =>
                              dragged &&
                              dragged !== way.id &&
                              onCommand({ op: "move-way", way: dragged, group: group.id, index })
                            }
                          />
                        )
                      );
                    })}
                    {group.ways.length === 0 && <p className="quiet px-2 py-6 text-sm">No ways yet</p>}
                  </div>
                </div>
              )
            );
          })}
        </div>
      </div>
    </section>
  );
}

interface GroupProps {
  group: GroupView;
  guarded: boolean;
  picked: boolean;
  off: boolean;
  showing: Showing;
  onPick: () => void;
}

/** The bracket over a group's ways, with its RCD and what it bears. */
function GroupHead({ group, guarded, picked, off, showing, onPick }: GroupProps) {
  const share = group.leakage_share ?? 0;
  const words = guarded ? group.rcd : "no RCD for the group";
  return (
    <button
      className={`mb-1 flex min-h-9 cursor-pointer items-center gap-2 border-t-3 border-r-3 border-l-3 px-2 pt-0.5 text-left text-sm leading-tight ${
        picked ? "border-accent" : guarded ? "border-base-content/80" : "border-dashed border-base-content/40"
      } ${off ? "bg-error/15" : ""}`}
      onClick={onPick}
    >
      <span className={guarded ? "font-semibold" : "quiet"}>
        {guarded ? `${group.title}: ` : ""}
        {words}
      </span>
      {off && <b className="text-error">OFF</b>}
      {showing === "leakage" && guarded && (
        <span className={`ml-auto text-base font-bold whitespace-nowrap ${share > 1 ? "text-error" : ""}`}>
          {group.leakage_ma} mA{group.leakage_percent && `, ${group.leakage_percent}`}
        </span>
      )}
      {showing === "demand" && (
        <span className="ml-auto text-base font-bold whitespace-nowrap">{group.demand_a} A</span>
      )}
    </button>
  );
}

interface WayProps {
  way: Way;
  shown: WayView;
  showing: Showing;
  picked: boolean;
  dark: boolean;
  off: boolean;
  onPick: () => void;
  onDrag: (way: string | undefined) => void;
  onDropHere: () => void;
}

function WayFace({ way, shown, showing, picked, dark, off, onPick, onDrag, onDropHere }: WayProps) {
  const job = useJob();
  const lines = way.circuits
    .map((key) => job.circuits.find((line) => boardKeyOf(line.id) === key))
    .filter((line): line is CircuitLine => line !== undefined);
  const empty = lines.length === 0;
  const rating = /(\d+(?:\.\d+)?) A$/.exec(shown.label.device)?.[1];
  return (
    <button
      draggable
      onDragStart={(event) => {
        event.dataTransfer.setData("text/plain", way.id);
        onDrag(way.id);
      }}
      onDragEnd={() => onDrag(undefined)}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.stopPropagation();
        onDropHere();
      }}
      className={`flex w-[5.05rem] cursor-pointer flex-col items-center rounded-field border-2 px-1 py-1 text-center max-md:w-full max-md:flex-row max-md:gap-3 max-md:px-3 ${
        picked
          ? "border-accent outline-2 outline-accent"
          : empty
            ? "border-dashed border-base-content/50"
            : "border-base-content/70"
      } ${dark ? "bg-neutral text-neutral-content" : empty ? "bg-transparent" : "bg-base-100"}`}
      data-way={way.id}
      data-dark={dark}
      aria-pressed={picked}
      onClick={onPick}
    >
      <span className="flex w-full items-center justify-between gap-1 text-xs max-md:w-auto">
        <span className={dark ? "" : "quiet"} title="Place on the board, and its neutral">
          {shown.label.place}
        </span>
        {!dark && lines.map((line) => <VerdictMark key={line.id} state={line.verdict} size={16} />)}
      </span>
      {empty ? (
        <span className={`grow py-4 max-md:py-1 ${dark ? "" : "quiet"}`}>
          {way.blank ? "blank" : way.device ? `${plain(way.device.rating_a)} A unused` : "open"}
        </span>
      ) : (
        <>
          <span className="text-2xl leading-none font-bold max-md:order-3 max-md:ml-auto max-md:whitespace-nowrap">
            {rating ?? (way.direct ? "–" : "?")}
            <span className="text-sm font-semibold"> A</span>
          </span>
          <span className={`text-xs max-md:order-4 ${dark ? "" : "quiet"}`}>
            {shown.label.device.replace(/,? ?\d+(\.\d+)? A$/, "").replace("type ", "") || "linked"}
          </span>
          <span className="mt-0.5 w-full text-[0.8rem] leading-tight font-semibold break-words hyphens-auto max-md:mt-0 max-md:w-auto max-md:text-left max-md:text-base">
            {shown.label.numbers} {shown.label.feeds}
          </span>
        </>
      )}
      <span className="mt-auto flex w-full flex-col items-center pt-0.5 max-md:order-5 max-md:mt-0 max-md:w-auto">
        {off ? <b className="text-sm">OFF</b> : <Fact shown={shown} showing={showing} empty={empty} />}
      </span>
    </button>
  );
}

/** What a way shows under its name, by what is looked at. */
function Fact({ shown, showing, empty }: { shown: WayView; showing: Showing; empty: boolean }) {
  if (empty) return null;
  if (showing === "demand")
    return (
      <>
        <b>{shown.ib_a} A</b>
        <Bar share={shown.fullness} />
      </>
    );
  if (showing === "leakage") return <b>{shown.leakage_ma} mA</b>;
  if (showing === "lines") return <b>{shown.label.line || "one line"}</b>;
  if (showing === "heat")
    return (
      <>
        <b className={shown.is_warm ? "text-warning" : ""}>{shown.is_warm ? "warm" : shown.fullness_percent}</b>
        <Bar share={shown.fullness} />
      </>
    );
  return <span className="quiet text-xs">{shown.label.own_rcd || shown.label.neutral}</span>;
}

function Bar({ share }: { share: number }) {
  return (
    <span className="mt-0.5 block h-1.5 w-14 border border-current" aria-hidden="true">
      <span className="block h-full bg-current" style={{ width: `${Math.min(share, 1) * 100}%` }} />
    </span>
  );
}
