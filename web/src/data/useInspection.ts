import { useQuery } from "@tanstack/react-query";
import { api, ask, type FindingSaid, type InspectionSaid, type InspectionView, type Particulars } from "../api/client";
import { dangersOf, withDanger } from "./dangers";
import { keys } from "./keys";
import { useMe } from "./me";
import { newId } from "./once";
import { putIn, useWaiting, type SaidRecord, type Waiting } from "./outbox";

/** The inspection of a job as it stands, with what waits on this device laid over it; saying more. */
export function useInspection(jobId: string) {
  const query = useQuery({
    queryKey: keys.inspection(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/inspection", { params: { path: { job_id: jobId } } })),
  });
  const waiting = useSaidHere(jobId);
  const say = useSaying(jobId);
  const view = query.data && waiting.reduce(laidOver, query.data);
  return { query, view, waiting, say };
}

/** The dangers of a job that nobody has dealt with, by what waits on this device too; saying more. */
export function useDangers(jobId: string) {
  const query = useQuery({
    queryKey: keys.dangers(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/dangers", { params: { path: { job_id: jobId } } })),
  });
  const dangers = useSaidHere(jobId).reduce(
    (before, { said }) => (said.record === "finding" ? withDanger(before, said) : before),
    query.data ?? [],
  );
  return { dangers, say: useSaying(jobId) };
}

/** What was said of the inspection of a job and waits on this device. */
export function useSaidHere(jobId: string): Waiting<SaidRecord>[] {
  return useWaiting().filter((each): each is Waiting<SaidRecord> => each.kind === "said" && each.about === jobId);
}

/** Keep what is said: on this device first, so that it is not lost; throws where the device will not. */
export function useSaying(jobId: string): (said: InspectionSaid) => void {
  const me = useMe();
  return (said) => putIn({ kind: "said", about: jobId, by: me.id, said, saidAt: stampNow() });
}

/** Every sort of thing that is found, with what its code turns on. */
export function useFindingKinds() {
  return useQuery({
    queryKey: keys.findingKinds,
    queryFn: () => ask(api.GET("/api/inspection/kinds")),
    staleTime: Infinity,
  });
}

export function newRecordId(): string {
  return newId().replaceAll("-", "");
}

export function stampNow(): string {
  return `${new Date().toISOString().slice(0, 19)}Z`;
}

/** What stands once something that waits is said: whoever says more of it here says it of that. */
export function laidOver(view: InspectionView, { said, saidAt }: Pick<SaidRecord, "said" | "saidAt">): InspectionView {
  const last = { by: "here, not sent yet", at: saidAt };
  const now = (more: Partial<Whole>): InspectionView => ({ ...view, whole: { ...view.whole, ...more } });
  switch (said.record) {
    case "finding":
      return withFinding(view, said, last);
    case "items":
      return now({
        areas: view.whole.areas.map((area) => (area.key === said.area ? withLines(area, said, last) : area)),
      });
    case "dismissed":
      return now({ offers: view.whole.offers.filter((each) => each.key !== said.offer) });
    case "particulars":
      return now({ particulars: { ...view.whole.particulars, ...saidOf(said) } });
    case "notify":
      return now({ notify_answers: said.answers });
    case "task":
      return now({ tasks: withTask(view.whole.tasks, said, last) });
    case "opened":
      return now({ samples: view.whole.samples.map((each) => withOpened(each, said)) });
    default:
      return view;
  }
}

type Whole = InspectionView["whole"];
type Last = Whole["findings"][number]["last"];
type Said<Record extends InspectionSaid["record"]> = Extract<InspectionSaid, { record: Record }>;

function withLines(area: Whole["areas"][number], said: Said<"items">, last: Last) {
  const items = area.items.map((item) => {
    const line = said.lines.find((each) => each.item === item.kind.id);
    return line ? { ...item, standing: { line, last } } : item;
  });
  return { ...area, items };
}

/** The fields of particulars that say something: one of nothing leaves what stood. */
function saidOf(said: Particulars): Partial<Particulars> {
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value != null));
}

function withTask(tasks: Whole["tasks"], said: Said<"task">, last: Last): Whole["tasks"] {
  const parts = said.parts.map((part) => ({ ...part, price: String(part.price) }));
  const task = { said: { ...said, parts }, last, price: priceOf(said) };
  const isKnown = tasks.some((each) => each.said.task === said.task);
  return isKnown ? tasks.map((each) => (each.said.task === said.task ? task : each)) : [...tasks, task];
}

/** What the parts of a task cost together, until the server says it. */
export function priceOf({ parts }: Pick<Said<"task">, "parts">): string {
  return parts.reduce((sum, part) => sum + part.count * Number(part.price), 0).toFixed(2);
}

function withOpened(sample: Whole["samples"][number], said: Said<"opened">) {
  const next = sample.next.filter((each) => each.circuit !== said.circuit || each.point !== said.point);
  if (next.length === sample.next.length) return sample;
  return { ...sample, next, opened: sample.opened + 1, faulty: sample.faulty + (said.sound ? 0 : 1) };
}

function withFinding(view: InspectionView, said: FindingSaid, last: Last): InspectionView {
  const before = view.whole.findings.find((each) => each.said.finding === said.finding);
  const now = {
    said,
    last,
    earlier: before ? [...before.earlier, before.said] : [],
    earlier_by: before ? [...before.earlier_by, before.last] : [],
  };
  const findings = before
    ? view.whole.findings.map((each) => (each === before ? now : each))
    : [...view.whole.findings, now];
  const offers = view.whole.offers.filter((each) => each.key !== said.offer);
  const dangers = withDanger(dangersOf(view), said).map((each) => each.finding);
  return { ...view, whole: { ...view.whole, findings, offers, dangers } };
}
