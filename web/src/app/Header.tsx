import type { ReactNode } from "react";
import { Link } from "react-router-dom";
import type { Right } from "../api/client";
import { Wordmark } from "../parts/Wordmark";
import { useMe } from "../data/me";
import { signOut } from "../data/useSession";
import { switchTheme } from "./theme";

/** The top of every page. `needs` are the rights of which one lets somebody change what is below; without any they read. */
export function Header({
  needs = ["design", "test"],
  children,
}: {
  needs?: readonly Right[] | undefined;
  children?: ReactNode;
}) {
  const me = useMe();
  return (
    <header className="flex items-center gap-x-3 border-b-2 md:gap-x-5 border-base-content/80 bg-base-100 px-3 py-1.5 md:px-4">
      <Link to="/" aria-label="Lumbek: all jobs" className="text-primary">
        <Wordmark className="text-lg" short />
      </Link>
      <div className="flex min-w-0 grow items-center gap-5">{children}</div>
      {!me.rights.some((right) => needs.includes(right)) && (
        <span
          data-reading-only
          className="shrink-0 border border-base-content/60 px-2 text-sm font-semibold"
          title="What you change here is not kept: your account says what you may do"
        >
          Reading<span className="max-sm:hidden"> only</span>
        </span>
      )}
      <button className="btn btn-ghost btn-sm" onClick={switchTheme} title="Light or dark">
        <svg viewBox="0 0 24 24" width="20" height="20" aria-hidden="true">
          <circle cx="12" cy="12" r="9" fill="none" stroke="currentColor" strokeWidth="2.4" />
          <path d="M12 3a9 9 0 0 1 0 18z" fill="currentColor" />
        </svg>
        <span className="sr-only">Switch between light and dark</span>
      </button>
      <details className="dropdown dropdown-end">
        <summary className="btn btn-ghost btn-sm max-w-24 truncate px-1 sm:max-w-36">{me.name}</summary>
        <div className="dropdown-content z-20 mt-1 w-56 border border-base-300 bg-base-100 p-3 shadow">
          <p className="font-semibold">{me.name}</p>
          <p className="quiet">{me.firm}</p>
          <nav className="mt-2 flex flex-col border-t border-base-300 pt-2" aria-label="You and the firm">
            <Link className="link py-1" to="/practice">
              Practice
            </Link>
            <Link className="link py-1" to="/due">
              What falls due
            </Link>
            <Link className="link py-1" to="/prices">
              Prices
            </Link>
            <Link className="link py-1" to="/account">
              Your account
            </Link>
            {me.rights.includes("manage") && (
              <>
                <Link className="link py-1" to="/people">
                  People of the firm
                </Link>
                <Link className="link py-1" to="/audit">
                  What was done
                </Link>
              </>
            )}
          </nav>
          <button className="btn btn-sm mt-3 w-full" onClick={() => void signOut()}>
            Sign out
          </button>
        </div>
      </details>
    </header>
  );
}
