import { useState } from "react";
import type { ExerciseKind, School } from "../api/client";
import { USUAL_SCHOOL } from "../data/usePractice";

export const KIND_WORDS: Record<ExerciseKind, string> = {
  accessories: "What it is from behind, what each terminal takes, which box, what two changed over do",
  isolation: "Find every supply, lock, prove the indicator, test, prove it again",
  switching: "A wall, its cables, what is to switch what: wire it, and every position is proved",
  testing: "Say what you expect before you read; which reading is wrong",
  faults: "A customer's words, a house with something wrong: find it, put it right, prove it",
  design: "Cable, device, drop; the one of five that is wrong, and by which rule",
  inspection: "What you stand before: its code, and on what that turns",
};

const KEPT = "practice-school";

/** By which school somebody learns: kept on this device. */
export function useSchool(): [School, (school: School) => void] {
  const [school, setSchool] = useState<School>(read);
  return [
    school,
    (next) => {
      setSchool(next);
      localStorage.setItem(KEPT, JSON.stringify(next));
    },
  ];
}

function read(): School {
  try {
    return { ...USUAL_SCHOOL, ...(JSON.parse(localStorage.getItem(KEPT) ?? "{}") as Partial<School>) };
  } catch {
    return USUAL_SCHOOL;
  }
}
