import type { useTester } from "../../data/useTester";

/** The tester that is connected, its battery, and the button that makes it read the place in hand. */
export function TesterBar({
  tester,
  place,
  onTake,
  onRcd,
}: {
  tester: ReturnType<typeof useTester>;
  place: string;
  onTake: () => void;
  onRcd: (() => void) | undefined;
}) {
  const { hello, trouble, connect, disconnect } = tester;
  const low = hello !== undefined && hello.battery < 0.2;
  return (
    <div
      className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1 text-sm"
      data-tester={hello ? "connected" : "none"}
    >
      {hello ? (
        <>
          <b>{hello.name}</b>
          {hello.simulated && <span className="bg-warning px-1.5 font-semibold text-warning-content">SIMULATED</span>}
          <span className={low ? "font-bold text-error" : ""}>
            battery {Math.round(hello.battery * 100)} %{low ? ", low" : ""}
          </span>
          <button className="btn btn-sm btn-primary" onClick={onTake}>
            Test: {place || "first open place"}
          </button>
          {onRcd && (
            <button className="btn btn-sm" onClick={onRcd}>
              RCD: ½, 1, 5 IΔn
            </button>
          )}
          <button className="btn btn-ghost btn-sm" onClick={disconnect}>
            Disconnect
          </button>
        </>
      ) : (
        <button className="btn btn-sm" onClick={() => void connect()}>
          Connect a tester
        </button>
      )}
      {trouble && (
        <b role="alert" className="text-error">
          {trouble}
        </b>
      )}
    </div>
  );
}
