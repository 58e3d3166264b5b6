import { useRef, useState } from "react";
import {
  asRefused,
  type Choices,
  type CircuitView,
  type Command,
  type Control,
  type Planned,
  type Refused,
  type Route,
  type Scheme,
  type SwitchingPlan,
  type SwitchingView,
} from "../../api/client";
import { useSaid } from "../../data/useSaid";
import { planScheme } from "../../data/useSwitching";
import { onlyOn, type ToDo } from "../../data/useWriting";
import { Choice, Figure, Labelled, Tick, Words } from "../../parts/fields";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";

interface Props {
  view: CircuitView;
  bench: SwitchingView;
  choices?: Choices;
  onCommand: (...commands: ToDo<CircuitView, Command>[]) => Promise<CircuitView | undefined>;
}

const EMPTY: Scheme = {
  feed: "board",
  controls: [],
  links: [],
  routes: [],
  wishes: {
    school: "at-switch",
    colours: "harmonised",
    neutral_at_switches: false,
    spare_core: false,
    one_cable: false,
  },
  barred: [],
  apart: [],
};
const NO_SWITCHES = { gangs: [], sensors: [], sensors_behind: false, master: null, holds: [] };
const SCHOOLS = [
  ["at-switch", "at the switch"],
  ["at-light", "at the light"],
  ["at-joint", "at a joint"],
  ["two-plate", "two plates, singles"],
] as const;
const COLOURS = [
  ["harmonised", "harmonised"],
  ["uk-before-2004", "UK before 2004"],
  ["australia-new-zealand", "Australia, New Zealand"],
  ["north-america", "North America"],
] as const;

/** What switches what, where cable may run, and the least of it that does. */
export function SchemePanel({ view, bench, choices, onCommand }: Props) {
  const circuit = view.design;
  const {
    whole: scheme,
    pending,
    say,
  } = useSaid(
    circuit.scheme ?? EMPTY,
    (scheme) => onCommand({ op: "scheme", scheme }),
    bench.circuit.version === view.version,
  );
  const routes = pending.routes ?? bench.routes;
  const [plan, setPlan] = useState<SwitchingPlan & { version: number }>();
  const [refused, setRefused] = useState<Refused>();
  // A plan of what was said before is none of what is said now.
  const asked = useRef(0);
  const noPlan = () => {
    asked.current += 1;
    setPlan(undefined);
  };
  const places = circuit.points.filter((point) => point.kind !== "unknown-end");
  const title = (id: string) => {
    const point = circuit.points.find((each) => each.id === id);
    return id === "board" ? "the board" : point?.name || id;
  };
  const set = (more: Partial<Scheme>) => {
    noPlan();
    return say(more);
  };
  const setControl = (control: Control) =>
    set({ controls: scheme.controls.map((each) => (each.id === control.id ? control : each)) });
  const setRoute = (route: Route) => {
    const others = routes.filter((each) => !sameWay(each, route));
    return set({ routes: [...others, route], barred: scheme.barred.filter((way) => !sameWay(way, route)) });
  };

  async function ask() {
    const mine = (asked.current += 1);
    try {
      // What was said before it is kept first: the plan is of the circuit as it is then, and taken on that alone.
      const now = await onCommand();
      const found = await planScheme(view.id, scheme);
      if (mine !== asked.current || !now) return;
      setPlan({ ...found, version: now.version });
      setRefused(undefined);
    } catch (error) {
      if (mine === asked.current) setRefused(asRefused(error));
    }
  }
  const take = async (planned: Planned) => {
    if (!plan) return;
    await onCommand(onlyOn(plan.version, { op: "take", design: planned.design }));
    setPlan(undefined);
  };
  const lights = places.filter((point) => choices?.point_kinds.find((each) => each.id === point.kind)?.draws);
  const nextId = `S${Math.max(0, ...scheme.controls.map((each) => Number(each.id.slice(1)) || 0)) + 1}`;
  const free = lights.filter(
    (point) => !scheme.controls.some((each) => each.outputs.some((output) => output.point === point.id)),
  );
  const first = free[0];

  return (
    <div className="flex flex-col gap-3 px-3 pb-4">
      <AddPlace onCommand={onCommand} />
      <section>
        <h2 className="text-lg font-bold">What switches what</h2>
        {scheme.controls.map((control) => (
          <ControlEditor
            key={control.id}
            control={control}
            scheme={scheme}
            view={view}
            onChange={(to) => void setControl(to)}
            onDrop={() => void set({ controls: scheme.controls.filter((each) => each.id !== control.id) })}
          />
        ))}
        {first ? (
          <button
            className="btn btn-sm mt-1"
            onClick={() =>
              void set({
                controls: [
                  ...scheme.controls,
                  {
                    id: nextId,
                    ...NO_SWITCHES,
                    name: first.room || first.name,
                    outputs: [{ point: first.id, line: first.loads[0]?.line ?? "L" }],
                  },
                ],
              })
            }
          >
            Switch another light
          </button>
        ) : (
          lights.length === 0 && <p className="quiet">Add a light and the places of its switches first.</p>
        )}
      </section>
      <section className="flex flex-col gap-2">
        <h2 className="text-lg font-bold">How it is wired</h2>
        <Labelled label="The feed arrives at">
          <Choice
            name="The feed arrives at"
            value={scheme.feed}
            options={[["board", "the board"] as const, ...places.map((point) => [point.id, title(point.id)] as const)]}
            onCommit={(feed) => void set({ feed })}
          />
        </Labelled>
        <div>
          <span className="text-sm font-semibold">Looped</span>
          <br />
          <Pick
            small
            name="Where the feed is looped"
            value={scheme.wishes.school}
            options={SCHOOLS}
            onCommit={(school) => {
              noPlan();
              void onCommand({ op: "loop-at", school });
            }}
          />
        </div>
        <Labelled label="New cable in">
          <Choice
            name="Colours of new cable"
            value={scheme.wishes.colours}
            options={COLOURS}
            onCommit={(colours) => void set({ wishes: { ...scheme.wishes, colours } })}
          />
        </Labelled>
        <div className="flex flex-wrap gap-y-1">
          <Tick
            words="neutral at each switch"
            checked={scheme.wishes.neutral_at_switches}
            onChange={(on) => void set({ wishes: { ...scheme.wishes, neutral_at_switches: on } })}
          />
          <Tick
            words="a spare core"
            checked={scheme.wishes.spare_core}
            onChange={(on) => void set({ wishes: { ...scheme.wishes, spare_core: on } })}
          />
          <Tick
            words="one cable each way"
            checked={scheme.wishes.one_cable}
            onChange={(on) => void set({ wishes: { ...scheme.wishes, one_cable: on } })}
          />
        </div>
      </section>
      <Links scheme={scheme} view={view} onLinks={(links) => void set({ links })} />
      <Routes
        choices={choices}
        routes={routes}
        places={[["board", "the board"], ...places.map((point) => [point.id, title(point.id)] as const)]}
        title={title}
        onRoute={(route) => void setRoute(route)}
        onDrop={(route) =>
          void set({
            routes: routes.filter((each) => !sameWay(each, route)),
            barred: [...scheme.barred, { a: route.a, b: route.b }],
          })
        }
      />
      <button className="btn btn-primary text-lg" disabled={scheme.controls.length === 0} onClick={() => void ask()}>
        Find the least cable
      </button>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      {plan && <Found plan={plan} title={title} onTake={(planned) => void take(planned)} />}
    </div>
  );
}

function sameWay(a: { a: string; b: string }, b: { a: string; b: string }): boolean {
  return (a.a === b.a && a.b === b.b) || (a.a === b.b && a.b === b.a);
}

function AddPlace({ onCommand }: { onCommand: Props["onCommand"] }) {
  const [name, setName] = useState("");
  const [what, setWhat] = useState<(typeof PLACES)[number][0]>("switch");
  const chosen = PLACES.find(([id]) => id === what) ?? PLACES[0];
  const add = () => {
    void onCommand({ op: "add-place", kind: chosen[2], fitting: chosen[3], name: name.trim() });
    setName("");
  };
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() !== "") add();
      }}
    >
      <input
        className="input w-32"
        name="place-name"
        aria-label="Name of a new place"
        placeholder="a new place"
        maxLength={80}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Choice
        name="What is there"
        value={what}
        options={PLACES.map(([id, words]) => [id, words] as const)}
        className="w-32"
        onCommit={setWhat}
      />
      <button className="btn btn-sm mb-1" disabled={name.trim() === ""}>
        Add
      </button>
    </form>
  );
}

/** What can be put in a place: its kind, and the terminals of what hangs there. */
const PLACES = [
  ["switch", "switch", "switch", "plain"],
  ["light", "light", "light", "led"],
  ["joint", "joint box", "joint", "plain"],
  ["driver", "strip with driver", "light", "driver"],
  ["timer-fan", "timer fan", "fixed", "timer-fan"],
  ["fan-and-light", "fan with light", "light", "fan-and-light"],
  ["emergency", "emergency light", "light", "emergency"],
  ["alarm", "alarm", "fixed", "alarm"],
] as const;

type Gang = Control["gangs"][number];

function uniqueGangs(gangs: Gang[]): Gang[] {
  return gangs.filter(
    (gang, at) => gangs.findIndex((each) => each.point === gang.point && each.gang === gang.gang) === at,
  );
}

/** A control without what makes no sense once a switch or sensor of it is gone. */
function without(control: Control): Control {
  const both = control.gangs.length > 0 && control.sensors.length > 0;
  const any = control.gangs.length > 0 || control.sensors.length > 0;
  return { ...control, sensors_behind: control.sensors_behind && both, holds: any ? control.holds : [] };
}

function ControlEditor({
  control,
  scheme,
  view,
  onChange,
  onDrop,
}: {
  control: Control;
  scheme: Scheme;
  view: CircuitView;
  onChange: (to: Control) => void;
  onDrop: () => void;
}) {
  const circuit = view.design;
  const named = (id: string) => circuit.points.find((each) => each.id === id)?.name || id;
  const taken = new Set(scheme.controls.flatMap((each) => each.outputs.map((output) => output.point + output.line)));
  const outputs = circuit.points
    .filter(
      (point) =>
        point.kind !== "unknown-end" &&
        (point.loads.length > 0 || !["joint", "switch", "cord-switch"].includes(point.kind)),
    )
    .flatMap((point) =>
      [...new Set(point.loads.length > 0 ? point.loads.map((load) => load.line) : ["L"])].map((line) => ({
        point: point.id,
        line,
      })),
    );
  const gangs = scheme.controls.flatMap((each) => [
    ...each.gangs,
    ...each.sensors,
    ...each.holds,
    ...(each.master ? [each.master] : []),
  ]);
  const freeGang = (point: string) =>
    [1, 2, 3, 4, 5, 6].find((gang) => !gangs.some((each) => each.point === point && each.gang === gang)) ?? 1;
  const boxes = circuit.points.filter(
    (point) =>
      ["switch", "cord-switch"].includes(point.kind) || (point.accessories.length > 0 && point.kind !== "light"),
  );
  // A sensor or a receiver may be built into a light.
  const units = [...boxes, ...circuit.points.filter((point) => point.kind === "light" && !boxes.includes(point))];
  const masters = uniqueGangs(
    scheme.controls.flatMap((each) => (each.master && each.id !== control.id ? [each.master] : [])),
  );
  const gangName = (gang: Gang) => named(gang.point) + (gang.gang > 1 ? `, gang ${gang.gang}` : "");
  return (
    <div className="my-1.5 border-l-4 border-accent bg-base-200 px-2 py-1.5" data-control={control.id}>
      <div className="flex items-center gap-2">
        <Words
          name={`Name of ${control.id}`}
          value={control.name}
          placeholder="its name"
          onCommit={(name) => onChange({ ...control, name })}
          className="grow font-semibold"
        />
        <button className="btn btn-ghost btn-sm" onClick={onDrop}>
          Take out
        </button>
      </div>
      <div className="flex flex-wrap items-center gap-1 pt-1">
        <span className="w-16 text-sm font-semibold">Lights</span>
        {control.outputs.map((output) => (
          <Chip
            key={output.point + output.line}
            words={named(output.point) + (output.line === "L" ? "" : ` ${output.line}`)}
            onDrop={
              control.outputs.length > 1
                ? () => onChange({ ...control, outputs: control.outputs.filter((each) => each !== output) })
                : undefined
            }
          />
        ))}
        <More
          name={`Another light of ${control.id}`}
          options={outputs
            .filter((each) => !taken.has(each.point + each.line))
            .map(
              (each) =>
                [`${each.point}|${each.line}`, named(each.point) + (each.line === "L" ? "" : ` ${each.line}`)] as const,
            )}
          onPick={(key) => {
            const [point, line] = key.split("|");
            if (point && line) onChange({ ...control, outputs: [...control.outputs, { point, line }] });
          }}
        />
      </div>
      <div className="flex flex-wrap items-center gap-1 pt-1">
        <span className="w-16 text-sm font-semibold">Switches</span>
        {control.gangs.map((gang) => (
          <Chip
            key={`${gang.point}/${gang.gang}`}
            words={gangName(gang)}
            onDrop={() => onChange(without({ ...control, gangs: control.gangs.filter((each) => each !== gang) }))}
          />
        ))}
        {control.gangs.length === 0 && control.sensors.length === 0 && (
          <span className="quiet text-sm">none: on for good</span>
        )}
        <More
          name={`Another switch of ${control.id}`}
          options={boxes.map((point) => [point.id, point.name || point.id] as const)}
          onPick={(point) => onChange({ ...control, gangs: [...control.gangs, { point, gang: freeGang(point) }] })}
        />
      </div>
      <div className="flex flex-wrap items-center gap-1 pt-1">
        <span className="w-16 text-sm font-semibold">Sensors</span>
        {control.sensors.map((sensor) => (
          <Chip
            key={`${sensor.point}/${sensor.gang}`}
            words={gangName(sensor)}
            onDrop={() => onChange(without({ ...control, sensors: control.sensors.filter((each) => each !== sensor) }))}
          />
        ))}
        <More
          name={`Sensor of ${control.id}`}
          options={units.map((point) => [point.id, point.name || point.id] as const)}
          onPick={(point) => onChange({ ...control, sensors: [...control.sensors, { point, gang: freeGang(point) }] })}
        />
        {control.sensors.length > 0 && control.gangs.length > 0 && (
          <Tick
            words="behind the switches"
            checked={control.sensors_behind}
            onChange={(sensors_behind) => onChange({ ...control, sensors_behind })}
          />
        )}
      </div>
      {(control.gangs.length > 0 || control.sensors.length > 0) && (
        <details open={control.master !== null || control.holds.length > 0}>
          <summary className="cursor-pointer pt-1 text-sm">
            <b>Also:</b> {control.master ? `master at ${gangName(control.master)}` : "no master"},{" "}
            {control.holds.length > 0 ? `held on at ${control.holds.map(gangName).join(", ")}` : "nothing holds it on"}
          </summary>
          <div className="flex flex-wrap items-center gap-1 pt-1">
            <span className="w-16 text-sm font-semibold">Master</span>
            {control.master ? (
              <Chip words={gangName(control.master)} onDrop={() => onChange({ ...control, master: null })} />
            ) : (
              <More
                name={`Master of ${control.id}`}
                options={[
                  ...masters.map((gang) => [`${gang.point}/${gang.gang}`, `${gangName(gang)}, there already`] as const),
                  ...boxes.map((point) => [point.id, point.name || point.id] as const),
                ]}
                onPick={(id) => {
                  const [point, gang] = id.split("/");
                  if (point) onChange({ ...control, master: { point, gang: gang ? Number(gang) : freeGang(point) } });
                }}
              />
            )}
          </div>
          <div className="flex flex-wrap items-center gap-1 pt-1">
            <span className="w-16 text-sm font-semibold">Holds on</span>
            {control.holds.map((hold) => (
              <Chip
                key={`${hold.point}/${hold.gang}`}
                words={gangName(hold)}
                onDrop={() => onChange({ ...control, holds: control.holds.filter((each) => each !== hold) })}
              />
            ))}
            <More
              name={`What holds ${control.id} on`}
              options={boxes.map((point) => [point.id, point.name || point.id] as const)}
              onPick={(point) => onChange({ ...control, holds: [...control.holds, { point, gang: freeGang(point) }] })}
            />
          </div>
        </details>
      )}
    </div>
  );
}

function Chip({ words, onDrop }: { words: string; onDrop: (() => void) | undefined }) {
  return (
    <span className="flex items-center gap-1 border border-base-content/60 bg-base-100 px-2 py-0.5">
      {words}
      {onDrop && (
        <button className="px-1 font-bold" aria-label={`Without ${words}`} onClick={onDrop}>
          ✕
        </button>
      )}
    </span>
  );
}

function More({
  name,
  options,
  onPick,
}: {
  name: string;
  options: readonly (readonly [string, string])[];
  onPick: (id: string) => void;
}) {
  if (options.length === 0) return null;
  return (
    <select
      className="select select-sm w-24"
      aria-label={name}
      name={name}
      value=""
      onChange={(event) => event.target.value && onPick(event.target.value)}
    >
      <option value="">add…</option>
      {options.map(([id, words]) => (
        <option key={id} value={id}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** What is joined with each other and with nothing else: alarms that sound together. */
function Links({
  scheme,
  view,
  onLinks,
}: {
  scheme: Scheme;
  view: CircuitView;
  onLinks: (links: Scheme["links"]) => void;
}) {
  const heads = view.design.points.filter(
    (point) => point.kind === "fixed" || point.loads.some((load) => load.name === "Alarm"),
  );
  const [link] = scheme.links;
  if (heads.length < 2 && !link) return null;
  const named = (id: string) => view.design.points.find((each) => each.id === id)?.name || id;
  const ends = link?.ends ?? [];
  const set = (points: string[]) =>
    onLinks(
      points.length < 2 ? [] : [{ id: "I1", name: "interlink", ends: points.map((point) => ({ point, line: "I" })) }],
    );
  return (
    <section>
      <h2 className="text-lg font-bold">Sound together</h2>
      <div className="flex flex-wrap items-center gap-1">
        {ends.map((end) => (
          <Chip
            key={end.point}
            words={named(end.point)}
            onDrop={() => set(ends.filter((each) => each !== end).map((each) => each.point))}
          />
        ))}
        {ends.length === 0 ? (
          <button className="btn btn-sm" onClick={() => set(heads.map((each) => each.id))}>
            Link {heads.length} of them
          </button>
        ) : (
          <More
            name="Another that sounds with them"
            options={heads
              .filter((each) => ends.every((end) => end.point !== each.id))
              .map((each) => [each.id, named(each.id)] as const)}
            onPick={(id) => set([...ends.map((each) => each.point), id])}
          />
        )}
      </div>
    </section>
  );
}

/** The ways that cable can take; what is in the wall already is told by its cores, and may be closed. */
interface RoutesProps {
  choices?: Choices;
  routes: readonly Route[];
  places: readonly (readonly [string, string])[];
  title: (id: string) => string;
  onRoute: (route: Route) => void;
  onDrop: (route: Route) => void;
}

function coresOf(live: number): string {
  return live === 1 ? "single" : `${live}-core`;
}

/** A cable in a route by its colours: the first that is found so. */
function foundWords(choices: Choices | undefined, { live, colours }: Route["cables"][number]): string {
  const found = choices?.found_cables.find((each) => each.route.live === live && each.route.colours === colours);
  return found?.words ?? coresOf(live);
}

function Routes({ choices, routes, places, title, onRoute, onDrop }: RoutesProps) {
  const [from, setFrom] = useState("");
  if (places.length < 2) return null;
  return (
    <section>
      <h2 className="text-lg font-bold">Where cable runs</h2>
      <ul className="flex flex-col">
        {routes.map((route) => (
          <li
            key={`${route.a}/${route.b}`}
            className="flex flex-wrap items-center gap-2 border-b border-base-300 py-1"
            data-route={`${route.a}/${route.b}`}
          >
            <span className="min-w-0 grow">
              {title(route.a)} – {title(route.b)}
            </span>
            <button
              className="px-1 font-bold"
              aria-label={`No cable ${title(route.a)} to ${title(route.b)}`}
              onClick={() => onDrop(route)}
            >
              ✕
            </button>
            <Figure
              name={`Length ${title(route.a)} to ${title(route.b)}`}
              unit="m"
              value={route.length_m ?? null}
              onCommit={(length_m) => onRoute({ ...route, length_m })}
              className="w-24"
            />
            <span className="flex w-full flex-wrap items-center gap-2 text-sm">
              <Tick
                words="cannot be opened"
                checked={route.closed}
                onChange={(closed) => onRoute({ ...route, closed })}
              />
              {route.cables.map((cable, index) => (
                <Chip
                  key={index}
                  words={`${foundWords(choices, cable)} there`}
                  onDrop={() => onRoute({ ...route, cables: route.cables.filter((_, other) => other !== index) })}
                />
              ))}
              <More
                name={`Cable there already ${title(route.a)} to ${title(route.b)}`}
                options={(choices?.found_cables ?? []).map((each) => [each.id, each.words] as const)}
                onPick={(id) => {
                  const found = choices?.found_cables.find((each) => each.id === id);
                  if (found) onRoute({ ...route, cables: [...route.cables, found.route] });
                }}
              />
            </span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2 pt-1">
        <span className="text-sm font-semibold">Another way</span>
        <Choice
          name="Another way from"
          blank="from…"
          value={from}
          options={places}
          className="select-sm w-32"
          onCommit={setFrom}
        />
        {from && (
          <More
            name="Another way to"
            options={places.filter(
              ([id]) => id !== from && !routes.some((route) => sameWay(route, { ...route, a: from, b: id })),
            )}
            onPick={(to) => {
              onRoute({ a: from, b: to, length_m: null, cables: [], closed: false });
              setFrom("");
            }}
          />
        )}
      </div>
    </section>
  );
}

function Found({
  plan,
  title,
  onTake,
}: {
  plan: SwitchingPlan;
  title: (id: string) => string;
  onTake: (planned: Planned) => void;
}) {
  return (
    <section className="flex flex-col gap-2" data-plan={plan.best ? "found" : "missing"}>
      {plan.problems.map((words) => (
        <p key={words} className="border-l-6 border-error px-2 font-semibold">
          {words}
        </p>
      ))}
      {plan.missing.length > 0 && (
        <>
          <h2 className="text-lg font-bold text-error">The walls do not hold it</h2>
          {plan.missing.map((each) => (
            <p
              key={each.words}
              className="border-l-6 border-error px-2 font-semibold"
              data-missing={each.needs - each.holds}
            >
              {each.words}
            </p>
          ))}
        </>
      )}
      {plan.best && (
        <>
          <h2 className="text-2xl font-bold">New cable worth {plan.best.shown_cable} of two-core</h2>
          <p className="text-sm">{plan.why}</p>
          <PlanView planned={plan.best} title={title} />
          <button className="btn btn-primary" onClick={() => plan.best && onTake(plan.best)}>
            Wire it so
          </button>
        </>
      )}
      {plan.next_best && (
        <details>
          <summary className="cursor-pointer font-semibold">Next best: {plan.next_words}</summary>
          <PlanView planned={plan.next_best} title={title} />
          <button className="btn btn-sm" onClick={() => plan.next_best && onTake(plan.next_best)}>
            Wire it so instead
          </button>
        </details>
      )}
      {plan.alternatives.map((other) => (
        <details key={other.words} data-alternative={other.kind}>
          <summary className="cursor-pointer font-semibold">
            {other.words} ({other.plan.shown_cable})
          </summary>
          <PlanView planned={other.plan} title={title} />
          <button className="btn btn-sm" onClick={() => onTake(other.plan)}>
            Wire it so
          </button>
        </details>
      ))}
      {plan.assumptions.map((words) => (
        <p key={words} className="quiet text-sm">
          {words}
        </p>
      ))}
    </section>
  );
}

function PlanView({ planned, title }: { planned: Planned; title: (id: string) => string }) {
  return (
    <div className="text-sm">
      {planned.controls.map((control) => (
        <p key={control.control}>
          <b>{control.name}:</b> {control.words}
          {control.order.length > 1 && `; ${control.order.map((gang) => title(gang.point)).join(" → ")}`}
        </p>
      ))}
      <ul className="pt-1">
        {planned.runs.map((run) => (
          <li key={run.words} className="flex justify-between gap-2 border-b border-base-300">
            <span>{run.words}</span>
            <span className="text-right whitespace-nowrap">
              {[...run.new.map(coresOf), ...run.kept.map((live) => `${coresOf(live)} there`)].join(" + ")}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
