import type { KeyboardEvent, ReactNode } from "react";
import type { Face, Proof } from "../../api/client";
import {
  coreKey,
  lampKey,
  switchKey,
  type BenchLayout,
  type BoxSpot,
  type CoreSpot,
  type PadSpot,
  type Shown,
  type Stands,
} from "./bench";
import { fillOf, lettersOf } from "./cores";

export interface PickedCore {
  circuit: number;
  place: string;
  leg: string;
  core: string;
}

interface Props {
  layout: BenchLayout;
  proof: Proof;
  parts: ReadonlyMap<string, number>;
  shown: Shown;
  stands: Stands;
  picked: PickedCore | undefined;
  /** A part of the copper shown alone. */
  alone: number | undefined;
  /** The box that a hazard is in, and the one that is being looked at. */
  marked: string | undefined;
  looked: string | undefined;
  onSwitch: (key: string) => void;
  onPick: (core: PickedCore | undefined) => void;
  onPad: (box: BoxSpot, pad: PadSpot) => void;
  onBox: (face: Face) => void;
}

/** The boxes as one stands before them, opened: what is live in this state is lit, the rest is quiet. */
export function BenchDrawing(props: Props) {
  const { layout } = props;
  return (
    <svg
      className="bench"
      viewBox={`0 0 ${layout.width} ${layout.height}`}
      style={{ width: "100%", maxWidth: layout.width * 1.1 }}
      role="group"
      aria-label="The boxes, opened"
      data-bench
    >
      {layout.links.map((link) => (
        <path key={link.leg} className={`sheath ${link.found ? "found" : ""}`} d={link.d} />
      ))}
      {layout.boxes.map((box) => (
        <Box key={`${box.face.circuit}/${box.face.place}`} box={box} {...props} />
      ))}
    </svg>
  );
}

function pressed(act: () => void) {
  return {
    role: "button",
    tabIndex: 0,
    onClick: act,
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key === "Enter" || event.key === " ") {
        event.preventDefault();
        event.stopPropagation();
        act();
      }
    },
  };
}

function Box({ box, ...props }: Props & { box: BoxSpot }) {
  const { face } = box;
  const { picked, proof } = props;
  const several = proof.circuits.length > 1;
  const wanted = picked?.circuit === face.circuit && picked.place === face.place;
  const beside = several ? `circuit ${face.circuit}` : face.room;
  return (
    <g transform={`translate(${box.x},${box.y})`} data-box={face.place}>
      <rect
        className={`box ${face.state === "as-found" ? "found" : ""} ${props.marked === face.place ? "marked" : ""} ${props.looked === face.place ? "looked" : ""}`}
        width={box.width}
        height={box.height}
        rx="6"
      />
      <g
        {...pressed(() => props.onBox(face))}
        aria-label={`${face.title} ${beside}`.trim() + ": what sits here"}
        className="title"
      >
        <rect width={box.width} height="26" rx="6" className="bar" />
        <text x="10" y="18" className="name">
          {`${face.title} `}
        </text>
        <text x={box.width - 10} y="18" textAnchor="end" className="quietly">
          {beside}
        </text>
      </g>
      <Plate box={box} {...props} />
      {box.cables.map((cable) => (
        <g key={cable.leg}>
          <rect
            className={`jacket ${cable.found ? "found" : ""}`}
            x={cable.x - cable.width / 2}
            y={box.stubY + 14}
            width={cable.width}
            height={box.height - box.stubY - 14}
            rx="4"
          />
          {cable.beyond === null && (
            <text x={cable.x} y={box.height - 3} textAnchor="middle" className="unknown">
              ?
            </text>
          )}
          {(cable.beyond === "board" || cable.beyond?.startsWith("circuit-")) && (
            <text x={cable.x} y={box.height + 28} textAnchor="middle" className="quietly">
              {cable.to.replace("the ", "")}
            </text>
          )}
        </g>
      ))}
      {box.cores.map((core) => (
        <Core key={`${core.leg}/${core.core}`} box={box} spot={core} {...props} />
      ))}
      {box.pads.map((pad, index) => (
        <Pad key={`${pad.name}${index}`} box={box} pad={pad} wanted={wanted} onPad={props.onPad} />
      ))}
    </g>
  );
}

/** What is worked and what burns: rockers of the gangs, lamps of a light. */
function Plate({ box, shown, stands, proof, onSwitch }: Props & { box: BoxSpot }) {
  const { face } = box;
  const wide = 76;
  const count = face.gangs.length + face.lamps.length;
  const left = (box.width - count * wide) / 2;
  const every = proof.tables.flatMap((table) => table.switches);
  const parts: ReactNode[] = face.gangs.map((gang, index) => {
    const key = switchKey({ circuit: face.circuit, point: face.place, switch: String(gang.gang) });
    const number = every.findIndex((each) => switchKey(each) === key) + 1;
    const up = (stands[key] ?? 0) === 0;
    const x = left + index * wide;
    const words = gang.words;
    const digit = number > 0 && number < 10 ? String(number) : "";
    return (
      <g
        key={key}
        transform={`translate(${x},${box.plateY})`}
        className="rocker"
        data-switch={key}
        data-at={stands[key] ?? 0}
        {...pressed(() => onSwitch(key))}
        aria-label={`${digit} ${words}`.trim() + `: switch at ${face.title}, gang ${gang.gang}`}
      >
        <rect x="18" width="40" height="40" rx="4" className="plate" />
        <path d={up ? "M23 5h30v15h-30z" : "M23 20h30v15h-30z"} className="down" />
        <text x="38" y="24" textAnchor="middle" className="digit">
          {digit && `${digit} `}
        </text>
        <text x="38" y="54" textAnchor="middle" className="quietly">
          {words}
        </text>
      </g>
    );
  });
  face.lamps.forEach((line, index) => {
    const state = shown.lamps.get(lampKey(face.circuit, face.place, line)) ?? "0";
    const isLamp = face.kind === "light";
    const words = state === "1" ? "lit" : state === "-" ? "dim" : "dark";
    // A motor or an appliance runs or stands: nothing of it burns.
    const said = isLamp ? words : state === "1" ? "has line" : state === "-" ? "weak" : "off";
    const x = left + (face.gangs.length + index) * wide + 38;
    parts.push(
      <g
        key={line}
        transform={`translate(${x},${box.plateY + 20})`}
        data-lamp={`${face.place}/${line}`}
        data-lit={state}
      >
        {isLamp ? (
          <>
            {state === "1" && <circle r="24" className="glow" />}
            <circle r="15" className={`lamp ${words}`} />
            <path d="m-10-10 20 20m0-20-20 20" className={`lamp-cross ${words}`} />
          </>
        ) : (
          <>
            <rect x="-17" y="-14" width="34" height="28" rx="3" className={state === "1" ? "load running" : "load"} />
            <path d="M2-10l-7 11h6l-3 9 8-12h-6z" className={state === "1" ? "load-bolt running" : "load-bolt"} />
          </>
        )}
        <text y="34" textAnchor="middle" className={state === "1" ? "name" : "quietly"}>
          {said}
        </text>
      </g>,
    );
  });
  return <>{parts}</>;
}

function Pad({ box, pad, wanted, onPad }: { box: BoxSpot; pad: PadSpot; wanted: boolean; onPad: Props["onPad"] }) {
  const words = pad.words;
  const label = pad.off ? "left off" : pad.name === "" ? "connector" : `terminal ${words}`;
  return (
    <g
      className={`pad ${wanted ? "target" : ""} ${pad.off ? "off" : ""} ${pad.name === "" ? "joint" : ""}`}
      data-pad={pad.name || (pad.off ? "off" : "joint")}
      {...pressed(() => onPad(box, pad))}
      aria-label={`${label} at ${box.face.title}`}
    >
      <text x={pad.x} y={pad.y - 7} textAnchor="middle" className="terminal">
        {words}
      </text>
      {pad.name === "" && !pad.off ? (
        <rect x={pad.x - 15} y={pad.y - 2} width="30" height="16" rx="8" />
      ) : (
        <rect
          x={pad.x - 14}
          y={pad.y - 2}
          width="28"
          height="16"
          rx="2"
          strokeDasharray={pad.off ? "3 3" : undefined}
        />
      )}
    </g>
  );
}

function Core({ box, spot, parts, shown, picked, alone, onPick }: Props & { box: BoxSpot; spot: CoreSpot }) {
  const { face } = box;
  // What belongs to another circuit is what the terminal is that it is in.
  const part =
    parts.get(coreKey(face.circuit, face.place, spot.leg, spot.core)) ??
    parts.get(coreKey(face.circuit, face.place, "", spot.pad.name));
  const kind = part === undefined ? "." : (shown.live.get(part) ?? ".");
  const top = spot.pad.y + 14;
  const bottom = box.stubY + 14;
  const d = `M${spot.x},${bottom}C${spot.x},${bottom - 46} ${spot.padX},${top + 46} ${spot.padX},${top}`;
  const mine =
    picked?.circuit === face.circuit &&
    picked.place === face.place &&
    picked.leg === spot.leg &&
    picked.core === spot.core;
  const hidden = alone !== undefined && part !== alone;
  const { colour, sleeve } = spot.face;
  const fill = fillOf(colour);
  const words =
    kind === "L"
      ? "live"
      : kind === "F"
        ? "live through a lamp"
        : kind === "N"
          ? "neutral"
          : kind === "E"
            ? "earth"
            : "dead";
  const state = kind === "L" || kind === "F" ? "live" : kind === "." ? "dead" : "";
  return (
    <g
      className={`core ${state} ${mine ? "picked" : ""} ${hidden ? "hidden" : ""}`}
      data-core={`${spot.leg}/${spot.core}`}
      data-live={kind}
      {...pressed(() =>
        onPick(mine ? undefined : { circuit: face.circuit, place: face.place, leg: spot.leg, core: spot.core }),
      )}
      aria-label={`${sleeve ? `${lettersOf(sleeve)} ` : ""}${lettersOf(colour)}: ${colour}${sleeve ? `, ${sleeve} sleeve` : ""}, cable to ${spot.face.to}, ${words}`}
    >
      {state === "live" && <path d={d} className="halo" />}
      <path d={d} className="casing" />
      <path d={d} className="copper" stroke={fill} />
      {colour === "green-yellow" && <path d={d} className="copper" stroke="#f4d03f" strokeDasharray="6 7" />}
      {state === "dead" && <path d={d} className="hatch" />}
      {sleeve && (
        <>
          <rect x={spot.padX - 5.5} y={top} width="11" height="21" rx="2" className="sleeve" fill={fillOf(sleeve)} />
          {sleeve === "green-yellow" && (
            <path d={`M${spot.padX},${top + 1}v18`} stroke="#f4d03f" strokeWidth="3.5" strokeDasharray="4 4" />
          )}
          <text
            aria-hidden="true"
            transform={`translate(${spot.padX + 3},${top + 17.5}) rotate(-90)`}
            className="sleeve-letters"
          >
            {`${lettersOf(sleeve)} `}
          </text>
        </>
      )}
      <path d={d} className="grip" />
      <text x={spot.x} y={bottom + 12} textAnchor="middle" className="letters">
        {lettersOf(colour)}
      </text>
    </g>
  );
}
