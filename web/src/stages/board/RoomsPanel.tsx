import { useState } from "react";
import type { BoardsView, PlacesView, Trip } from "../../api/client";
import { usePlaces, type PlacesWork } from "../../data/usePlaces";
import { ConflictNote } from "../../parts/ConflictNote";
import { Choice, Words } from "../../parts/fields";
import { Opened } from "../../parts/Opened";
import { RefusalNote } from "../../parts/RefusalNote";

interface Props {
  view: BoardsView;
  trip: Trip | undefined;
  onTrip: (id: string | undefined) => void;
}

type Room = PlacesView["rooms"][number];

/** The rooms by storey, with what has gone dark in them; what they are called and where they lie is said here. */
export function RoomsPanel(props: Props) {
  const work = usePlaces(props.view.job_id);
  return (
    <Opened query={work.query}>
      {(places) => (
        <div className="flex flex-col gap-3 px-3 py-3">
          <Worst {...props} />
          <ConflictNote work={work} />
          {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
          {places.storeys.map((storey, index) => (
            <section key={storey.id} data-storey={storey.id}>
              <h3 className="flex items-center gap-1 border-b border-base-300">
                <Words
                  name={`Storey ${storey.name}`}
                  className="input-sm input-ghost grow px-1 text-base font-bold"
                  value={storey.name}
                  onCommit={(name) => void work.command({ op: "storey", storey: storey.id, name: name || storey.name })}
                />
                {index > 0 && (
                  <button
                    className="btn btn-ghost btn-sm"
                    title={`${storey.name} is above`}
                    aria-label={`Move ${storey.name} up`}
                    onClick={() => void work.command({ op: "move-storey", storey: storey.id, index: index - 1 })}
                  >
                    ↑
                  </button>
                )}
                <button
                  className="btn btn-ghost btn-sm"
                  aria-label={`Take storey ${storey.name} away`}
                  title="Its rooms stay, on no storey"
                  onClick={() => void work.command({ op: "drop-storey", storey: storey.id })}
                >
                  ✕
                </button>
              </h3>
              <Rooms
                rooms={places.rooms.filter((room) => room.storey === storey.id)}
                places={places}
                work={work}
                trip={props.trip}
              />
            </section>
          ))}
          <Loose places={places} work={work} trip={props.trip} />
          <Add places={places} work={work} />
          <p className="flex gap-2">
            <button className="btn btn-sm" disabled={!places.can_undo} onClick={() => void work.undo()}>
              Undo of rooms
            </button>
            <button className="btn btn-sm" disabled={!places.can_redo} onClick={() => void work.redo()}>
              Redo
            </button>
          </p>
        </div>
      )}
    </Opened>
  );
}

function Worst({ view, trip, onTrip }: Props) {
  const worst = view.result.trips.find((each) => each.id === view.result.worst_trip);
  if (trip)
    return (
      <p className="text-lg font-bold">
        {trip.title} off
        {trip.needs.length > 0 && <span className="block text-base text-error">Missed: {trip.needs.join(", ")}</span>}
      </p>
    );
  if (!worst) return null;
  return (
    <button className="btn h-auto justify-start py-2 text-left" onClick={() => onTrip(worst.id)}>
      The worst single trip: {worst.title}
    </button>
  );
}

interface Here {
  places: PlacesView;
  work: PlacesWork;
  trip: Trip | undefined;
}

function Loose({ places, work, trip }: Here) {
  const rooms = places.rooms.filter((room) => room.storey === null);
  if (rooms.length === 0) return null;
  return (
    <section data-storey="none">
      <h3 className="border-b border-base-300 px-1 font-bold">
        {places.storeys.length > 0 ? "No storey said" : "Rooms"}
      </h3>
      <Rooms rooms={rooms} places={places} work={work} trip={trip} />
    </section>
  );
}

function Rooms({ rooms, ...here }: Here & { rooms: Room[] }) {
  return (
    <ul>
      {rooms.map((room) => (
        <RoomRow key={room.id} room={room} {...here} />
      ))}
    </ul>
  );
}

function RoomRow({ room, places, work, trip }: Here & { room: Room }) {
  const lost = trip?.lost.find((each) => each.id === room.id)?.what ?? [];
  const dark = lost.length > 0;
  return (
    <li
      data-room={room.name}
      data-dark={dark}
      className={`flex flex-wrap items-center gap-x-1 px-1 ${dark ? "bg-neutral text-neutral-content" : ""}`}
    >
      {trip ? (
        <>
          <span className="py-1 font-semibold">{room.name}</span>
          <span className="grow text-sm">{dark ? `no ${lost.join(", no ")}` : "as before"}</span>
        </>
      ) : (
        <>
          <Words
            name={`Room ${room.name}`}
            className="input-sm input-ghost min-w-24 grow basis-24 px-1 font-semibold"
            value={room.name}
            onCommit={(name) => void work.command({ op: "room", room: room.id, name: name || room.name })}
          />
          {places.storeys.length > 0 && (
            <Choice
              name={`Storey of ${room.name}`}
              className="select-sm w-28"
              value={room.storey ?? ""}
              blank="storey?"
              options={places.storeys.map((each) => [each.id, each.name] as const)}
              onCommit={(storey) => void work.command({ op: "room", room: room.id, storey })}
            />
          )}
        </>
      )}
      {room.holds === 0 && !trip && (
        <button
          className="btn btn-ghost btn-sm"
          aria-label={`Take ${room.name} away`}
          title="Nothing is in it"
          onClick={() => void work.command({ op: "drop-room", room: room.id })}
        >
          ✕
        </button>
      )}
    </li>
  );
}

/** Another room, on a storey that is there; another storey. */
function Add({ places, work }: Pick<Here, "places" | "work">) {
  const [storey, setStorey] = useState("");
  const [count, setCount] = useState(0);
  const add = (command: Parameters<PlacesWork["command"]>[0]) =>
    void work.command(command).then((kept) => kept && setCount((so) => so + 1));
  const on = places.storeys.find((each) => each.id === storey);
  return (
    <div className="flex flex-wrap items-end gap-2" key={count}>
      <Words
        name="New room"
        caption="Another room"
        className="input-sm w-36"
        placeholder="Landing"
        value=""
        onCommit={(name) => name && add({ op: "add-room", name, storey: on?.id ?? null })}
      />
      {places.storeys.length > 0 && (
        <Choice
          name="Storey of the new room"
          caption="on"
          className="select-sm w-32"
          value={on?.id ?? ""}
          blank="storey?"
          options={places.storeys.map((each) => [each.id, each.name] as const)}
          onCommit={setStorey}
        />
      )}
      <Words
        name="New storey"
        caption="Another storey"
        className="input-sm w-36"
        placeholder="Ground floor"
        value=""
        onCommit={(name) => name && add({ op: "add-storey", name })}
      />
    </div>
  );
}
