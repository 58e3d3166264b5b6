import type { Supply } from "../api/client";
import { plain } from "../numbers";

/** The intake as it hangs on the wall: cut-out, meter, tails, board, earth terminal and bonds. */
export function IntakeDrawing({ supply }: { supply: Supply }) {
  const say = (value: number | null | undefined, unit: string) =>
    value === null || value === undefined ? "?" : `${plain(value)} ${unit}`;
  const bonds = supply.services;
  const ink = "var(--color-base-content)";
  return (
    <svg viewBox="0 0 440 470" className="w-full max-w-md" role="img" aria-label="The intake with what is known of it">
      <g fill="none" stroke={ink} strokeWidth="3">
        <path d="M100 0v36" strokeDasharray={supply.earthing ? undefined : "6 5"} />
        <rect x="60" y="36" width="80" height="62" rx="4" />
        <path d="M92 56h16v22H92z" />
        <path d="M100 98v34" />
        <rect x="54" y="132" width="92" height="66" rx="33" />
        <path d="M86 198v62M114 198v62" />
        <rect x="40" y="260" width="230" height="84" rx="4" />
        {[66, 96, 126, 156, 186, 216, 246].map((x) => (
          <path key={x} d={`M${x} 282v30`} strokeWidth="10" />
        ))}
        <path d="M330 344v-2M270 302h60v78" strokeDasharray={supply.earthing_conductor_mm2 ? undefined : "6 5"} />
        <rect x="272" y="380" width="116" height="22" rx="3" />
        {supply.earthing === "TT" ? (
          <path d="M400 391h18v34M402 425h32M408 433h20M414 441h8" />
        ) : supply.earthing ? (
          <path d="M388 391h30V46H140" />
        ) : (
          <path d="M388 391h30V46H140" strokeDasharray="6 6" />
        )}
        {bonds.slice(0, 5).map((service, index) => (
          <path
            key={index}
            d={`M${286 + index * 22} 402v22`}
            strokeDasharray={service.material === "metal" && service.bonded === "yes" ? undefined : "3 4"}
          />
        ))}
      </g>
      <g fill={ink} fontFamily="var(--font-sans)">
        <text x="154" y="72" fontSize="15">
          Main fuse
        </text>
        <text x="154" y="98" fontSize="24" fontWeight="700">
          {say(supply.main_fuse.rating_a, "A")}
        </text>
        <text x="100" y="171" textAnchor="middle" fontSize="15">
          meter
        </text>
        <text x="128" y="218" fontSize="15">
          Tails
        </text>
        <text x="128" y="244" fontSize="24" fontWeight="700">
          {say(supply.tails.csa_mm2, "mm²")}
        </text>
        <text x="48" y="366" fontSize="15">
          {supply.board || "Board"}
        </text>
        <text x="284" y="284" fontSize="24" fontWeight="700">
          {say(supply.earthing_conductor_mm2, "mm²")}
        </text>
        <text x="330" y="396" fontSize="13" textAnchor="middle">
          main earth
        </text>
        <text x="280" y="442" fontSize="15">
          {bonds.length ? `${bonds.length} services` : "services?"}
        </text>
        <text x="250" y="142" fontSize="15">
          {supply.earthing ?? "earthing?"}
        </text>
        <text x="250" y="178" fontSize="32" fontWeight="700">
          {say(supply.ze_ohm, "Ω")}
        </text>
        <text x="250" y="200" fontSize="15">
          Ze
        </text>
        <text x="250" y="232" fontSize="24" fontWeight="700">
          {say(supply.fault_current_ka, "kA")}
        </text>
      </g>
    </svg>
  );
}
