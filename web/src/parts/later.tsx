import { useEffect, useState, type ComponentType } from "react";

/** A part of the pages that is fetched when it is first shown, or asked for. */
export type Later<Props> = ComponentType<Props> & { bring: () => Promise<ComponentType<Props>> };

/**
 * Make a part that is fetched when it is first shown. React's own `lazy` holds each "Opening…" for three tenths of a
 * second, and a stage of a job waited so twice; without a signal it leaves an empty page.
 */
export function later<Props extends object>(from: () => Promise<ComponentType<Props>>): Later<Props> {
  let found: ComponentType<Props> | undefined;
  let asked: Promise<ComponentType<Props>> | undefined;
  const bring = () => {
    asked ??= from().then(
      (part) => (found = part),
      (error: unknown) => {
        // Whoever asks again may have a signal by then.
        asked = undefined;
        throw error;
      },
    );
    return asked;
  };
  function Part(props: Props) {
    const [Shown, setShown] = useState(() => found);
    const [failed, setFailed] = useState(false);
    useEffect(() => {
      if (Shown || failed) return;
      bring().then(
        (part) => setShown(() => part),
        () => setFailed(true),
      );
    }, [Shown, failed]);
    if (Shown) return <Shown {...props} />;
    if (!failed) return <p className="quiet p-6">Opening…</p>;
    return (
      <div role="alert" className="p-6" data-not-fetched>
        <p className="font-semibold">This page is not on this device yet, and it could not be fetched.</p>
        <p className="mb-3">With a signal it comes; what you entered is kept.</p>
        <button className="btn btn-primary" onClick={() => setFailed(false)}>
          Try again
        </button>
      </div>
    );
  }
  return Object.assign(Part, { bring });
}
