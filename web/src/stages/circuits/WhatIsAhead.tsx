import { Link } from "react-router-dom";
import type { Choices, Circuit } from "../../api/client";
import { plain } from "../../numbers";

/** What stands between the origin and the circuit's own device, as the boards have it; it is changed there. */
export function WhatIsAhead({ circuit, choices, jobId }: { circuit: Circuit; choices: Choices; jobId: string }) {
  return (
    <div className="flex w-full flex-wrap items-center gap-x-4 gap-y-1" data-ahead>
      {circuit.ahead.map((item, index) => (
        <span key={index} className="flex flex-col leading-tight">
          <span className="quiet text-xs font-semibold">{item.name || (item.feed ? "Feed" : "Device")}</span>
          <b>
            {item.device
              ? `${choices.devices.find((each) => each.id === item.device?.standard)?.short ?? ""} ${item.device.curve ?? ""} ${plain(item.device.rating_a)} A`
              : `${plain(item.feed?.csa_mm2 ?? 0)} mm², ${item.length_m ? `${plain(item.length_m)} m` : "length?"}, ${item.method}`}
          </b>
        </span>
      ))}
      <Link className="btn btn-sm" to={`/jobs/${jobId}/board`}>
        Change it on the board
      </Link>
    </div>
  );
}
