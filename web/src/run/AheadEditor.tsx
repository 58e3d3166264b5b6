import type { Ahead, Choices, Circuit } from "../api/client";
import { clip } from "../numbers";
import { Choice, Figure, Words } from "../parts/fields";
import { CableFields, CpcFields, type Cable } from "./CableFields";
import { DeviceFields, type Device } from "./DeviceFields";

interface Props {
  circuit: Circuit;
  choices: Choices;
  onChange: (make: (design: Circuit) => Circuit) => void;
}

const SWITCH_FUSE: Ahead = {
  name: "",
  method: "C",
  device: { standard: "bs88-3", curve: null, rating_a: 63, breaking_capacity_ka: 16, rcd: null, afdd: false },
};

/** What stands between the origin and the circuit's own device: switch-fuses, sub-board devices, feeds. */
export function AheadEditor({ circuit, choices, onChange }: Props) {
  const set = (ahead: Ahead[]) => onChange((design) => ({ ...design, ahead }));
  const change = (index: number, changes: Partial<Ahead>) =>
    set(circuit.ahead.map((each, place) => (place === index ? { ...each, ...changes } : each)));
  // A feed is begun as the usual cable of an outdoor feed.
  const outdoor = choices.kinds.find((each) => each.id === "outdoor");
  return (
    <div className="flex w-full flex-col gap-1.5" data-ahead>
      {circuit.ahead.map((item, index) => (
        <div key={index} className="flex flex-wrap items-center gap-2">
          <Words
            name={`Ahead ${index + 1} name`}
            className="input-sm w-36"
            placeholder={item.feed ? "feed" : "device"}
            value={item.name}
            onCommit={(name) => change(index, { name })}
          />
          {item.device && <AheadDevice index={index} device={item.device} choices={choices} onChange={change} />}
          {item.feed && <AheadFeed index={index} item={item} feed={item.feed} choices={choices} onChange={change} />}
          <button className="btn btn-ghost btn-xs" onClick={() => set(circuit.ahead.filter((_, place) => place !== index))}>
            Drop
          </button>
        </div>
      ))}
      <div className="flex gap-2">
        <button className="btn btn-sm" onClick={() => set([...circuit.ahead, SWITCH_FUSE])}>
          A device ahead
        </button>
        {outdoor && (
          <button
            className="btn btn-sm"
            onClick={() =>
              set([...circuit.ahead, { name: "", method: outdoor.method, length_m: 10, feed: { ...outdoor.cable, csa_mm2: 10 } }])
            }
          >
            A feed ahead
          </button>
        )}
      </div>
    </div>
  );
}

type Change = (index: number, changes: Partial<Ahead>) => void;

function AheadDevice({ index, device, choices, onChange }: { index: number; device: Device; choices: Choices; onChange: Change }) {
  return (
    <DeviceFields
      of={`Ahead ${index + 1}`}
      device={device}
      choices={choices}
      onChange={(changes) => onChange(index, { device: { ...device, ...changes } })}
    />
  );
}

interface FeedProps {
  index: number;
  item: Ahead;
  feed: Cable;
  choices: Choices;
  onChange: Change;
}

function AheadFeed({ index, item, feed, choices, onChange }: FeedProps) {
  const of = `Ahead ${index + 1}`;
  const methods = choices.cables.find((each) => each.id === feed.type)?.methods ?? [];
  const setFeed = (changes: Partial<Cable>, method?: string) =>
    onChange(index, { feed: { ...feed, ...changes }, ...(method === undefined ? {} : { method }) });
  return (
    <>
      <CableFields of={of} cable={feed} choices={choices} onChange={setFeed} />
      <Choice
        name={`${of} method`}
        className="select-sm w-52"
        value={item.method}
        options={methods.map((method) => [method.id, clip(`${method.id}: ${method.name}`, 28)] as const)}
        onCommit={(method) => onChange(index, { method })}
      />
      <Figure
        name={`${of} length`}
        unit="m"
        required
        className="input-sm w-24"
        value={item.length_m}
        onCommit={(length_m) => onChange(index, { length_m })}
      />
      <Figure
        name={`${of} current`}
        unit="A in all"
        placeholder="Ib"
        className="input-sm w-32"
        value={item.current_a}
        onCommit={(current_a) => onChange(index, { current_a })}
      />
      <CpcFields of={of} cable={feed} onChange={setFeed} />
    </>
  );
}
