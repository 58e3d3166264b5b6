import type { InspectionSaid } from "../../api/client";
import { parseFigure } from "../../numbers";

type Last = Extract<InspectionSaid, { record: "last" }>["readings"][number];

const KNOWN = [
  "zs",
  "ze",
  "r1",
  "rn",
  "r2",
  "r1+r2",
  "insulation-ll",
  "insulation-le",
  "rcd-trip",
  "bonding",
  "electrode",
  "fault-current",
];
const CALLED: Record<string, string> = {
  "r1+r2 (ω)": "r1+r2",
  insulation: "insulation-le",
  rcd: "rcd-trip",
  ipf: "fault-current",
};

/** Return the readings of lines as somebody types them, or what is wrong with the first line that is none. */
export function readLines(text: string): { readings: Last[]; trouble: string } {
  const readings: Last[] = [];
  for (const [at, line] of text.split(/\r?\n/).entries()) {
    if (!line.trim()) continue;
    const [circuit = "", quantity = "", value = "", place = ""] = line
      .split(/[,;\t]/)
      .map((each) => each.trim().replace(/^"|"$/g, ""));
    // A heading line of a file.
    if (at === 0 && !/\d/.test(value)) continue;
    const name = CALLED[quantity.toLowerCase()] ?? quantity.toLowerCase();
    const beyond = value.startsWith(">");
    const figure = parseFigure(value.replace(/^>/, ""));
    const number = circuit === "" || circuit === "-" ? null : Number(circuit);
    const where = `Line ${String(at + 1)}: `;
    if (number !== null && !(Number.isInteger(number) && number > 0))
      return { readings, trouble: `${where}“${circuit}” is no circuit number` };
    if (!KNOWN.includes(name)) return { readings, trouble: `${where}“${quantity}” is none of ${KNOWN.join(", ")}` };
    if (figure === undefined || figure === null || figure < 0)
      return { readings, trouble: `${where}“${value}” is no figure` };
    readings.push({ circuit: number, place, quantity: name, value: figure, beyond, day: null, by: "" });
  }
  return { readings, trouble: "" };
}
