import type { Spot } from "../api/client";
import { usePlaces } from "../data/usePlaces";
import { Words } from "../parts/fields";
import { RefusalNote } from "../parts/RefusalNote";

interface Props {
  jobId: string;
  at: Spot;
  onCommit: (at: Spot) => unknown;
  /** What it is the place of, where several stand on a page: "Room of P3". */
  of?: string;
}

/** Where something is: its room, one that is there or a new one by its name, and where in it in one's own words. */
export function SpotFields({ jobId, at, onCommit, of }: Props) {
  const work = usePlaces(jobId);
  const rooms = work.query.data?.rooms ?? [];
  const named = (what: string) => (of ? `${what} of ${of}` : what);
  async function putIn(name: string) {
    const room = name ? await work.roomCalled(name) : null;
    if (room !== undefined) onCommit({ ...at, room });
  }
  return (
    <>
      <Words
        name={named("Room")}
        caption="Room"
        className="input-sm w-32"
        value={rooms.find((room) => room.id === at.room)?.name ?? at.room ?? ""}
        offered={rooms.map((room) => room.name)}
        onCommit={(name) => void putIn(name)}
      />
      <Words
        name={named("Place")}
        caption="Where in it"
        className="input-sm w-40"
        placeholder="beside the door"
        value={at.words}
        onCommit={(words) => onCommit({ ...at, words })}
      />
      {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
    </>
  );
}
