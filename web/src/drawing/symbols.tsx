import type { Point } from "../api/client";

/** Our own signs for points, drawn round the origin, about 40 across. */
export function PointSymbol({ point }: { point: Point }) {
  switch (point.kind) {
    case "socket-twin":
      return (
        <>
          <rect className="body" x="-26" y="-16" width="52" height="32" rx="6" />
          <circle className="inked" cx="-12" r="5.5" />
          <circle className="inked" cx="12" r="5.5" />
        </>
      );
    case "socket-single":
      return (
        <>
          <rect className="body" x="-17" y="-16" width="34" height="32" rx="6" />
          <circle className="inked" r="5.5" />
        </>
      );
    case "fused-spur":
      return (
        <>
          <rect className="body" x="-24" y="-16" width="48" height="32" rx="6" />
          <text y="6" textAnchor="middle" fontSize="16" fontWeight="700">
            {point.fuse_a ?? 13}A
          </text>
        </>
      );
    case "control-with-socket":
      return (
        <>
          <rect className="body" x="-26" y="-16" width="52" height="32" rx="6" />
          <path className="ink" d="M-16 6l10-13" />
          <circle className="inked" cx="12" r="5.5" />
        </>
      );
    case "light":
      return (
        <>
          <circle className="body" r="18" />
          <path className="ink" d="M-7 -3a7 7 0 0 1 14 0c0 4-4 5-4 10h-6c0-5-4-6-4-10z" />
        </>
      );
    case "switch":
      return (
        <>
          <circle className="body" r="15" />
          <path className="ink" d="M-7 6L8 -8" />
        </>
      );
    case "cord-switch":
      return (
        <>
          <circle className="body" r="15" />
          <path className="ink" d="M-7 -4L8 -10M0 -2v11" />
          <circle className="inked" cy="10" r="2.5" />
        </>
      );
    case "isolator":
      return (
        <>
          <rect className="body" x="-17" y="-16" width="34" height="32" rx="3" />
          <path className="ink" d="M-9 8L-3 -8M3 8L9 -8M-6 0h12" />
        </>
      );
    case "cooker-switch":
      return (
        <>
          <rect className="body" x="-20" y="-16" width="40" height="32" rx="3" />
          <path className="ink" d="M-11 7L-2 -7" />
          <circle className="ink" cx="9" r="6" />
        </>
      );
    case "driver":
      return (
        <>
          <rect className="body" x="-26" y="-12" width="52" height="24" rx="12" />
          <path className="ink" d="M-14 0c3 -7 6 -7 8 0s5 7 8 0M8 -3h8M8 3h8" />
        </>
      );
    case "blank":
      return <rect className="body" x="-15" y="-15" width="30" height="30" rx="3" />;
    case "board":
      return (
        <>
          <rect className="body" x="-26" y="-18" width="52" height="36" rx="2" />
          <path className="ink" d="M-16 -8v16M-5 -8v16M6 -8v16M17 -8v16" />
        </>
      );
    case "source":
      return (
        <>
          <rect className="body" x="-24" y="-17" width="48" height="34" rx="3" />
          <path className="ink" d="M-14 0h19M-1 -7l8 7-8 7" />
        </>
      );
    case "charger":
      return (
        <>
          <rect className="body" x="-18" y="-18" width="36" height="36" rx="18" />
          <path className="ink" d="M-10 4h20M-6 4l3-9h6l3 9M-5 8v1M5 8v1" />
        </>
      );
    case "shaver-socket":
      return (
        <>
          <rect className="body" x="-17" y="-16" width="34" height="32" rx="6" />
          <path className="ink" d="M-6 -4v8M6 -4v8" />
        </>
      );
    case "joint":
      return <circle className="body inked" r="8" />;
    default:
      return (
        <>
          <rect className="body" x="-18" y="-18" width="36" height="36" rx="18" />
          <path className="ink" d="M3 -11l-8 13h9l-5 10" />
        </>
      );
  }
}
