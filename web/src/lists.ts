/** A list that has one thing, once, or has it no more. */
export function withOrWithout<T>(all: readonly T[], one: T, isIn: boolean): T[] {
  const others = all.filter((each) => each !== one);
  return isIn ? [...others, one] : others;
}
