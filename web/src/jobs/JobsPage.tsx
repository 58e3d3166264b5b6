import { useEffect, useRef, useState, type KeyboardEvent, type SyntheticEvent } from "react";
import { Link, useNavigate } from "react-router-dom";
import { asRefused, type Refused } from "../api/client";
import { Header } from "../app/Header";
import { useJobQuery } from "../data/useJob";
import { useJobs, useNewJob } from "../data/useJobs";
import { timeOf } from "../numbers";
import { Choice, Labelled } from "../parts/fields";
import { later } from "../parts/later";
import { RefusalNote } from "../parts/RefusalNote";
import { VerdictMark } from "../parts/verdict";
import { SMALL, type Small } from "./small";

// What only a small job needs is fetched when one is begun.
const QuickJob = later(() => import("./QuickJob").then((form) => form.QuickJob));

// So many jobs of the list are looked into: those worked on last.
const MOST_GISTS = 12;
const STATES = [
  ["new", "new work"],
  ["altered", "new and old together"],
  ["as-found", "what is there already"],
] as const;
const RULEBOOKS = [
  ["bs7671", "BS 7671"],
  ["iec60364", "IEC 60364"],
] as const;

export function JobsPage() {
  const [search, setSearch] = useState("");
  const [starting, setStarting] = useState(false);
  const [small, setSmall] = useState<Small>();
  const [refused, setRefused] = useState<Refused>();
  const [at, setAt] = useState(0);
  const searchBox = useRef<HTMLInputElement>(null);
  const fileBox = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const newJob = useNewJob();
  const jobs = useJobs(search);
  const found = jobs.data ?? [];

  useEffect(() => {
    function onKey(event: globalThis.KeyboardEvent) {
      if (event.target instanceof HTMLInputElement || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "/") {
        event.preventDefault();
        searchBox.current?.focus();
      }
      if (event.key === "n") {
        event.preventDefault();
        setStarting(true);
      }
    }
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);

  function onSearchKey(event: KeyboardEvent) {
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter" && found[at]) void navigate(`/jobs/${found[at].id}/survey`);
    else return;
    event.preventDefault();
  }

  async function takeIn(file: File) {
    try {
      const job = await newJob.takeIn(file);
      void navigate(`/jobs/${job.id}/survey`);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }

  return (
    <>
      <Header />
      <main className="mx-auto max-w-5xl p-4">
        <div className="flex flex-wrap items-end justify-between gap-3 py-3">
          <h1 className="text-3xl font-bold">Jobs</h1>
          <div className="flex flex-wrap gap-2">
            <Link className="btn btn-ghost" to="/practice">
              Practice
            </Link>
            <button className="btn" onClick={() => fileBox.current?.click()}>
              Take in a job file
            </button>
            <input
              ref={fileBox}
              type="file"
              accept=".json,application/json"
              className="hidden"
              aria-label="Job file"
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = "";
                if (file) void takeIn(file);
              }}
            />
            <button className="btn btn-primary" onClick={() => setStarting(true)}>
              Start a job <kbd className="text-xs opacity-80">n</kbd>
            </button>
          </div>
        </div>
        {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
        {starting && <StartJob onCancel={() => setStarting(false)} />}
        {small ? (
          <QuickJob key={small.id} small={small} onCancel={() => setSmall(undefined)} />
        ) : (
          <div className="flex flex-wrap items-center gap-2 py-1">
            <span className="quiet text-sm font-semibold">Small jobs</span>
            {SMALL.map((each) => (
              <button
                key={each.id}
                className="btn btn-sm max-md:btn-md"
                data-small={each.id}
                onClick={() => setSmall(each)}
              >
                {each.title}
              </button>
            ))}
          </div>
        )}
        <input
          ref={searchBox}
          type="search"
          name="search"
          className="input input-lg my-3 w-full"
          placeholder="Find by name, client or address   /"
          aria-label="Find a job"
          autoFocus
          value={search}
          onChange={(event) => {
            setSearch(event.target.value);
            setAt(0);
          }}
          onKeyDown={onSearchKey}
        />
        {jobs.isError && <RefusalNote refused={asRefused(jobs.error)} />}
        <ul className="border-t border-base-300">
          {found.map((job, index) => (
            <li key={job.id} className="border-b border-base-300">
              <Link
                to={`/jobs/${job.id}/survey`}
                className={`grid grid-cols-[1fr_auto] gap-x-4 border-l-6 px-4 py-3 hover:bg-base-200 md:grid-cols-[2fr_1.2fr_7rem_11rem] ${
                  index === at ? "border-accent bg-base-200" : "border-transparent"
                }`}
              >
                <span className="text-xl font-semibold">{job.name}</span>
                <span className="text-right md:text-left">{job.client}</span>
                <span className="quiet">
                  {job.circuits} {job.circuits === 1 ? "circuit" : "circuits"}
                </span>
                <span className="quiet text-right">{timeOf(job.changed_at)}</span>
                <span className="quiet col-span-2 md:col-span-4">
                  {job.rulebook === "bs7671" ? "BS 7671" : "IEC 60364"}
                  {job.address && ` · ${job.address}`}
                </span>
                {index < MOST_GISTS && <Standing jobId={job.id} />}
              </Link>
            </li>
          ))}
        </ul>
        {jobs.isSuccess && found.length === 0 && (
          <p className="py-10 text-center text-lg">
            {search ? `Nothing found for “${search}”.` : "No jobs yet. Start one, or take in a job file."}
          </p>
        )}
      </main>
    </>
  );
}

/** Where a job stands, and what is next. */
function Standing({ jobId }: { jobId: string }) {
  const job = useJobQuery(jobId);
  const gist = job.data?.gist;
  if (!gist) return <span className="quiet col-span-2 md:col-span-4">…</span>;
  return (
    <span className="col-span-2 flex items-start gap-2 pt-0.5 md:col-span-4" data-gist={gist.verdict}>
      <VerdictMark state={gist.verdict} size={20} />
      <span className="min-w-0">
        <span className="quiet">Next: </span>
        <b>{gist.next}</b>
      </span>
    </span>
  );
}

function StartJob({ onCancel }: { onCancel: () => void }) {
  const [name, setName] = useState("");
  const [client, setClient] = useState("");
  const [address, setAddress] = useState("");
  const [rulebook, setRulebook] = useState<"bs7671" | "iec60364">("bs7671");
  const [state, setState] = useState<(typeof STATES)[number][0]>("new");
  const [refused, setRefused] = useState<Refused>();
  const navigate = useNavigate();
  const newJob = useNewJob();
  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => event.key === "Escape" && onCancel();
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [onCancel]);
  async function start(event: SyntheticEvent) {
    event.preventDefault();
    const extent = { state, work: "whole", sampling: "every", limits: "" } as const;
    try {
      const job = await newJob.start({
        name,
        client,
        address,
        rulebook,
        edition: "",
        protection_school: "rcbo-each",
        extent,
      });
      void navigate(`/jobs/${job.id}/survey`);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  return (
    <form
      className="grid gap-3 border-l-6 border-accent bg-base-200 p-4 md:grid-cols-2"
      onSubmit={(event) => void start(event)}
    >
      <Labelled label="What do you call it?">
        <input
          name="job name"
          className="input w-full"
          autoFocus
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Labelled>
      <Labelled label="Client">
        <input
          name="client"
          className="input w-full"
          maxLength={80}
          value={client}
          onChange={(event) => setClient(event.target.value)}
        />
      </Labelled>
      <Labelled label="Address">
        <input
          name="address"
          className="input w-full"
          maxLength={400}
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
      </Labelled>
      <Labelled label="Rulebook">
        <Choice name="rulebook" className="w-full" value={rulebook} options={RULEBOOKS} onCommit={setRulebook} />
      </Labelled>
      <Labelled label="What you draw" hint="What is there already begins with nothing credited.">
        <Choice name="state of the job" className="w-full" value={state} options={STATES} onCommit={setState} />
      </Labelled>
      {refused && (
        <div className="md:col-span-2">
          <RefusalNote refused={refused} />
        </div>
      )}
      <div className="flex gap-2 md:col-span-2">
        <button className="btn btn-primary">Start with the survey</button>
        <button type="button" className="btn btn-ghost" onClick={onCancel}>
          Not now
        </button>
      </div>
    </form>
  );
}
