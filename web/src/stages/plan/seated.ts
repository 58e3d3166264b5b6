import type { PlanView } from "../../api/client";
import type { Spot } from "./geometry";

/** The measured rooms of a storey as they lie in the house: each with its corners there, and what moves its own spots. */
export function seatedOn(view: PlanView, storeyId: string | null) {
  return view.places.rooms.flatMap((room) => {
    const seat = view.answer.seats.find((each) => each.room === room.id);
    const answer = view.answer.rooms.find((each) => each.room === room.id);
    if (!room.outline || (room.storey ?? null) !== storeyId || !seat || !answer) return [];
    const at = (spot: Spot) => ({ x: spot.x + seat.x, y: spot.y + seat.y });
    return [{ room, answer, group: seat.group, at, corners: answer.corners.map(at) }];
  });
}

/** A wall by its room and what it is called there. */
export function wallWords(view: PlanView, face: { room: string; wall: string }): string {
  const room = view.places.rooms.find((each) => each.id === face.room);
  const called = view.answer.rooms.find((each) => each.room === face.room)?.walls[face.wall];
  return `${room?.name ?? face.room}, wall ${called ?? face.wall}`;
}
