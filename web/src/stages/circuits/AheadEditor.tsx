import type { Ahead, Choices, Circuit, Command } from "../../api/client";
import { clip } from "../../numbers";
import { Choice, Figure, Words } from "../../parts/fields";
import { CableFields, CpcFields, type Cable } from "./CableFields";
import { DeviceFields } from "./DeviceFields";
import type { Sets } from "./inspecting";

interface Props {
  circuit: Circuit;
  choices: Choices;
  onCommand: (command: Command) => void;
}

/** What stands between the origin and the circuit's own device: switch-fuses, sub-board devices, feeds. */
export function AheadEditor({ circuit, choices, onCommand }: Props) {
  return (
    <div className="flex w-full flex-col gap-1.5" data-ahead>
      {circuit.ahead.map((item, index) => (
        <div key={index} className="flex flex-wrap items-center gap-2">
          <Words
            name={`Ahead ${index + 1} name`}
            className="input-sm w-36"
            placeholder={item.feed ? "feed" : "device"}
            value={item.name}
            onCommit={(name) => onCommand({ op: "ahead", index, name })}
          />
          {item.device && (
            <DeviceFields
              of={`Ahead ${index + 1}`}
              device={item.device}
              choices={choices}
              onSet={(changes) => onCommand({ op: "device", ahead: index, ...changes })}
            />
          )}
          {item.feed && <AheadFeed index={index} item={item} feed={item.feed} choices={choices} onCommand={onCommand} />}
          <button className="btn btn-ghost btn-xs" onClick={() => onCommand({ op: "drop-ahead", index })}>
            Drop
          </button>
        </div>
      ))}
      <div className="flex gap-2">
        <button className="btn btn-sm" onClick={() => onCommand({ op: "add-ahead", what: "device" })}>
          A device ahead
        </button>
        <button className="btn btn-sm" onClick={() => onCommand({ op: "add-ahead", what: "feed" })}>
          A feed ahead
        </button>
      </div>
    </div>
  );
}

interface FeedProps {
  index: number;
  item: Ahead;
  feed: Cable;
  choices: Choices;
  onCommand: (command: Command) => void;
}

function AheadFeed({ index, item, feed, choices, onCommand }: FeedProps) {
  const of = `Ahead ${index + 1}`;
  const methods = choices.cables.find((each) => each.id === feed.type)?.methods ?? [];
  const set = (changes: Sets<"ahead", "index">) => onCommand({ op: "ahead", index, ...changes });
  const setFeed = (changes: Sets<"cable", "leg" | "ahead">) => onCommand({ op: "cable", ahead: index, ...changes });
  return (
    <>
      <CableFields of={of} cable={feed} choices={choices} onSet={setFeed} />
      <Choice
        name={`${of} method`}
        className="select-sm w-52"
        value={item.method}
        options={methods.map((method) => [method.id, clip(`${method.id}: ${method.name}`, 28)] as const)}
        onCommit={(method) => set({ method })}
      />
      <Figure
        name={`${of} length`}
        unit="m"
        required
        className="input-sm w-24"
        value={item.length_m}
        onCommit={(length_m) => set({ length_m })}
      />
      <Figure
        name={`${of} current`}
        unit="A in all"
        placeholder="Ib"
        className="input-sm w-32"
        value={item.current_a}
        onCommit={(current_a) => set({ current_a })}
      />
      <CpcFields of={of} cable={feed} onSet={setFeed} />
    </>
  );
}
