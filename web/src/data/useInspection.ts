import { useQuery } from "@tanstack/react-query";
import { api, ask, type FindingSaid, type InspectionSaid, type InspectionView } from "../api/client";
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
function useSaidHere(jobId: string): Waiting<SaidRecord>[] {
  return useWaiting().filter((each): each is Waiting<SaidRecord> => each.kind === "said" && each.about === jobId);
}

/** Keep what is said: on this device first, so that it is not lost; throws where the device will not. */
function useSaying(jobId: string): (said: InspectionSaid) => void {
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

/** What stands once something that waits is said: findings and items, which are looked at on the spot. */
export function laidOver(view: InspectionView, record: Pick<SaidRecord, "said" | "saidAt">): InspectionView {
  const { said } = record;
  const last = { by: "here, not sent yet", at: record.saidAt };
  if (said.record === "finding") return withFinding(view, said, last);
  if (said.record === "items") {
    const areas = view.whole.areas.map((area) =>
      area.key !== said.area
        ? area
        : {
            ...area,
            items: area.items.map((item) => {
              const line = said.lines.find((each) => each.item === item.kind.id);
              return line ? { ...item, standing: { line, last } } : item;
            }),
          },
    );
    return { ...view, whole: { ...view.whole, areas } };
  }
  if (said.record === "dismissed") {
    const offers = view.whole.offers.filter((each) => each.key !== said.offer);
    return { ...view, whole: { ...view.whole, offers } };
  }
  return view;
}

function withFinding(view: InspectionView, said: FindingSaid, last: { by: string; at: string }): InspectionView {
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

/** The dangers of an inspection that nobody has dealt with. */
export function dangersOf({ whole }: InspectionView): FindingSaid[] {
  return whole.findings.map((each) => each.said).filter((each) => whole.dangers.includes(each.finding));
}

/** Dangers once a finding is said: it is one of them, or no longer. */
export function withDanger(dangers: FindingSaid[], said: FindingSaid): FindingSaid[] {
  const others = dangers.filter((each) => each.finding !== said.finding);
  return isDanger(said) ? [...others, said] : others;
}

/** Whether a danger waits to be dealt with: made safe or refused, and somebody told. */
export function isDanger(said: FindingSaid): boolean {
  const dealt = said.danger;
  const answered = dealt && (dealt.made_safe || dealt.refused) && dealt.told && dealt.told_at;
  return said.code === "C1" && ["open", "made-safe", "refused"].includes(said.status) && !answered;
}
