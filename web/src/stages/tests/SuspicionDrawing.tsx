import type { Circuit, CircuitResult, Diagnosis } from "../../api/client";
import { layOut, type Spot } from "../../drawing/layout";
import { PointSymbol } from "../../drawing/symbols";
import { clip } from "../../numbers";

interface Props {
  circuit: Circuit;
  shape: CircuitResult["shape"];
  along: Diagnosis["along"];
}

/** The run as it is drawn, with suspicion lying on it: the heavier the line, the likelier; with the figure beside it. */
export function SuspicionDrawing({ circuit, shape, along }: Props) {
  const layout = layOut(circuit, shape);
  // Words stay readable however much of the run has to fit.
  const em = Math.max(15, layout.width / 40, layout.height / 20);
  const share = new Map(along.map((each) => [`${each.kind}:${each.id}`, each.share]));
  return (
    <svg
      viewBox={`0 0 ${String(layout.width)} ${String(layout.height)}`}
      className="run mx-auto block max-h-96 w-full"
      role="img"
      aria-label={`Suspicion along the run: ${said(circuit, along)}`}
      data-suspicion
    >
      {layout.legs.map((line) => (
        <g key={line.id} data-leg={line.id} className="leg">
          <path className="cable" d={line.path} />
          <Weight path={line.path} share={share.get(`leg:${line.id}`) ?? 0} at={line.label} em={em} />
        </g>
      ))}
      {[...layout.points].map(([id, spot]) => {
        const point = circuit.points.find((each) => each.id === id);
        const part = share.get(`point:${id}`) ?? 0;
        if (!point) return null;
        return (
          <g key={id} className="point" data-point={id} transform={`translate(${String(spot.x)} ${String(spot.y)})`}>
            {part > 0.004 && <circle className="suspect" r={16 + 14 * part} style={{ opacity: 0.25 + 0.75 * part }} />}
            <PointSymbol point={point} />
            <text className="name" fontSize={fitting(em, point.name || point.id)} y={24 + em} textAnchor="middle">
              {clip(point.name || point.id, 18)}
            </text>
            {part > 0.004 && (
              <text className="part" fontSize={em * 1.3} y={-26} textAnchor="middle">
                {percent(part)}
              </text>
            )}
          </g>
        );
      })}
      <g className="point" transform={`translate(${String(layout.board.x)} ${String(layout.board.y)})`}>
        <rect className="body" x={-22} y={-22} width={44} height={44} />
        <text className="name" fontSize={em} y={30 + em} textAnchor="middle">
          board
        </text>
        {(share.get("board:board") ?? 0) > 0.004 && (
          <text className="part" fontSize={em * 1.3} y={-30} textAnchor="middle">
            {percent(share.get("board:board") ?? 0)}
          </text>
        )}
      </g>
    </svg>
  );
}

function Weight({ path, share, at, em }: { path: string; share: number; at: Spot; em: number }) {
  if (share <= 0.004) return null;
  return (
    <>
      <path className="suspect-leg" d={path} style={{ strokeWidth: 6 + 16 * share, opacity: 0.3 + 0.7 * share }} />
      <text className="part" fontSize={em * 1.3} x={at.x} y={at.y - 14} textAnchor="middle">
        {percent(share)}
      </text>
    </>
  );
}

/** The size that a name may have without reaching its neighbours'. */
function fitting(em: number, name: string): number {
  return Math.min(em, 250 / Math.min(name.length, 18));
}

function percent(share: number): string {
  return share > 0.995 ? "✕" : `${String(Math.max(1, Math.round(share * 100)))} %`;
}

function said(circuit: Circuit, along: Diagnosis["along"]): string {
  const most = [...along].sort((a, b) => b.share - a.share).slice(0, 3);
  const name = (id: string) => circuit.points.find((point) => point.id === id)?.name ?? id;
  return most.map((each) => `${name(each.id)} ${percent(each.share)}`).join(", ") || "none";
}
