import type { Mark, PlacesCommand, PlanView, RouteRules } from "../../api/client";

type Follows = (now: PlanView) => PlacesCommand[];
type Between = PlanView["places"]["between"][number];
type Face = Between["one"];

/** A mark is put down as a whole: what was said of it meanwhile stands. */
export function changingMark(id: string, change: (now: Mark) => Partial<Mark>): Follows {
  return ({ places }) =>
    places.marks.filter((each) => each.id === id).map((now) => ({ op: "mark", mark: { ...now, ...change(now) } }));
}

/** So are the rules of the ways. */
export function changingWays(change: (now: RouteRules) => Partial<RouteRules>): Follows {
  return ({ places: { ways } }) => [{ op: "ways", ways: { ...ways, ...change(ways) } }];
}

/** And what is between two rooms. */
export function changingBetween(about: Between, more: Partial<Between>): Follows {
  return ({ places }) =>
    places.between
      .filter((each) => isFace(each.one, about.one) && isFace(each.other, about.other))
      .map((now) => ({ op: "between", between: { ...now, ...more } }));
}

export function isFace(one: Face, other: Face): boolean {
  return one.room === other.room && one.wall === other.wall;
}
