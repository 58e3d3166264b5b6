import type { Ahead, Choices, Circuit } from "../api/client";
import { plain } from "../numbers";
import { Choice, Figure, Words } from "../parts/fields";

interface Props {
  circuit: Circuit;
  choices: Choices;
  onChange: (make: (design: Circuit) => Circuit) => void;
}

/** What stands between the origin and the circuit's own device: switch-fuses, sub-board devices, feeds. */
export function AheadEditor({ circuit, choices, onChange }: Props) {
  const set = (ahead: Ahead[]) => onChange((design) => ({ ...design, ahead }));
  const change = (index: number, changes: Partial<Ahead>) =>
    set(circuit.ahead.map((each, place) => (place === index ? { ...each, ...changes } : each)));
  const standards = choices.devices.filter((each) => each.id !== "bs1362");
  return (
    <div className="flex w-full flex-col gap-1.5" data-ahead>
      {circuit.ahead.map((item, index) => {
        const standard = standards.find((each) => each.id === item.device?.standard);
        return (
          <div key={index} className="flex flex-wrap items-center gap-2">
            <Words
              name={`Ahead ${index + 1} name`}
              className="input-sm w-36"
              placeholder={item.feed ? "feed" : "device"}
              value={item.name}
              onCommit={(name) => change(index, { name })}
            />
            {item.device && (
              <>
                <Choice
                  name={`Ahead ${index + 1} device`}
                  className="select-sm w-40"
                  value={item.device.standard}
                  options={standards.map((each) => [each.id as Circuit["device"]["standard"], each.short] as const)}
                  onCommit={(id) => {
                    const chosen = standards.find((each) => each.id === id);
                    if (chosen && item.device)
                      change(index, {
                        device: {
                          ...item.device,
                          standard: id,
                          curve: chosen.curves.length > 0 ? "B" : null,
                          rating_a: chosen.ratings_a.at(-1) ?? item.device.rating_a,
                          breaking_capacity_ka: chosen.breaking_capacities_ka[0] ?? null,
                        },
                      });
                  }}
                />
                <Choice
                  name={`Ahead ${index + 1} rating`}
                  className="select-sm w-24"
                  value={String(item.device.rating_a)}
                  options={(standard?.ratings_a ?? []).map((rating) => [String(rating), `${plain(rating)} A`] as const)}
                  onCommit={(rating) => item.device && change(index, { device: { ...item.device, rating_a: Number(rating) } })}
                />
              </>
            )}
            {item.feed && (
              <>
                <Choice
                  name={`Ahead ${index + 1} size`}
                  className="select-sm w-28"
                  value={String(item.feed.csa_mm2)}
                  options={[4, 6, 10, 16, 25].map((csa) => [String(csa), `${csa} mm²`] as const)}
                  onCommit={(csa) => item.feed && change(index, { feed: { ...item.feed, csa_mm2: Number(csa), cpc_mm2: null } })}
                />
                <Figure
                  name={`Ahead ${index + 1} length`}
                  unit="m"
                  required
                  className="input-sm w-24"
                  value={item.length_m}
                  onCommit={(length_m) => change(index, { length_m })}
                />
                <Figure
                  name={`Ahead ${index + 1} current`}
                  unit="A"
                  placeholder="Ib"
                  className="input-sm w-24"
                  value={item.current_a}
                  onCommit={(current_a) => change(index, { current_a })}
                />
              </>
            )}
            <button className="btn btn-ghost btn-xs" onClick={() => set(circuit.ahead.filter((_, place) => place !== index))}>
              Drop
            </button>
          </div>
        );
      })}
      <div className="flex gap-2">
        <button
          className="btn btn-sm"
          onClick={() =>
            set([
              ...circuit.ahead,
              {
                name: "",
                method: "C",
                device: { standard: "bs88-3", curve: null, rating_a: 63, breaking_capacity_ka: 16, rcd: null, afdd: false },
              },
            ])
          }
        >
          A device ahead
        </button>
        <button
          className="btn btn-sm"
          onClick={() =>
            set([
              ...circuit.ahead,
              {
                name: "",
                method: "C",
                length_m: 10,
                feed: { type: "multicore", insulation: "pvc70", csa_mm2: 10, cpc_by: "core", cores: 3, colours: "harmonised" },
              },
            ])
          }
        >
          A feed ahead
        </button>
      </div>
    </div>
  );
}
