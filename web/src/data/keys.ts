/** What the answers are kept under, in one place: who changes something knows what it makes stale. */
export const keys = {
  me: ["me"] as const,
  about: ["about"] as const,
  jobs: (search?: string) => (search === undefined ? (["jobs"] as const) : (["jobs", search] as const)),
  job: (jobId: string | undefined) => ["job", jobId] as const,
  boards: (jobId: string) => ["boards", jobId] as const,
  boardProposals: (jobId: string, version: number, order: string) => ["board-proposals", jobId, version, order] as const,
  labels: (jobId: string, version: number) => ["labels", jobId, version] as const,
  circuit: (circuitId: string | undefined) => ["circuit", circuitId] as const,
  lit: (jobId: string, changedAt: string) => ["lit", jobId, changedAt] as const,
  switching: (circuitId: string, version: number) => ["switching", circuitId, version] as const,
  mending: (circuitId: string, version: number) => ["mending", circuitId, version] as const,
  makeOff: (circuitId: string, version: number) => ["make-off", circuitId, version] as const,
  records: (circuitId: string) => ["records", circuitId] as const,
  sheet: (circuitId: string, ambientC?: number) =>
    ambientC === undefined ? (["sheet", circuitId] as const) : (["sheet", circuitId, ambientC] as const),
  schedule: (jobId: string, version: number, changedAt: string) => ["schedule", jobId, version, changedAt] as const,
  proposals: (circuitId: string, version: number) => ["proposals", circuitId, version] as const,
  library: ["library"] as const,
  choices: (rulebook: string, edition: string) => ["choices", rulebook, edition] as const,
  rulebook: (rulebook: string | undefined) => ["rulebook", rulebook] as const,
  run: (text: string) => ["run", text] as const,
};
