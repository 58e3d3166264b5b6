/** What the answers are kept under, in one place: who changes something knows what it makes stale. */
export const keys = {
  me: ["me"] as const,
  about: ["about"] as const,
  sessions: ["sessions"] as const,
  people: ["people"] as const,
  audit: (asked: object) => ["audit", asked] as const,
  jobs: (search?: string) => (search === undefined ? (["jobs"] as const) : (["jobs", search] as const)),
  job: (jobId: string | undefined) => ["job", jobId] as const,
  boards: (jobId: string) => ["boards", jobId] as const,
  places: (jobId: string) => ["places", jobId] as const,
  boardProposals: (jobId: string, version: number, order: string) =>
    ["board-proposals", jobId, version, order] as const,
  labels: (jobId: string, version?: number) =>
    version === undefined ? (["labels", jobId] as const) : (["labels", jobId, version] as const),
  /** Every circuit that was opened, and every sheet: for what all of them hear of. */
  circuits: ["circuit"] as const,
  sheets: ["sheet"] as const,
  link: (token: string) => ["link", token] as const,
  circuit: (circuitId: string | undefined) => ["circuit", circuitId] as const,
  lit: (jobId: string, changedAt: string) => ["lit", jobId, changedAt] as const,
  switching: (circuitId: string, version: number) => ["switching", circuitId, version] as const,
  mending: (circuitId: string, version: number, atOnce: boolean) => ["mending", circuitId, version, atOnce] as const,
  makeOff: (circuitId: string, version: number) => ["make-off", circuitId, version] as const,
  records: (circuitId: string) => ["records", circuitId] as const,
  sheet: (circuitId: string, ambientC?: number) =>
    ambientC === undefined ? (["sheet", circuitId] as const) : (["sheet", circuitId, ambientC] as const),
  house: (jobId: string) => ["house", jobId] as const,
  looseEnds: (circuitId: string) => ["loose-ends", circuitId] as const,
  lengths: (circuitId: string, ambientC: number) => ["sheet", circuitId, "lengths", ambientC] as const,
  trips: (jobId: string, search: object) => ["trips", jobId, search] as const,
  codes: (search: object) => ["codes", search] as const,
  diagnosis: (circuitId: string) => ["diagnosis", circuitId] as const,
  attachments: (jobId: string) => ["attachments", jobId] as const,
  issued: (jobId: string) => ["issued", jobId] as const,
  paperKinds: ["paper-kinds"] as const,
  paper: (jobId: string, kind: string, version: number, changedAt: string) =>
    ["paper", jobId, kind, version, changedAt] as const,
  proposals: (circuitId: string, version: number) => ["proposals", circuitId, version] as const,
  library: ["library"] as const,
  choices: (rulebook: string, edition: string) => ["choices", rulebook, edition] as const,
  rulebook: (rulebook: string | undefined) => ["rulebook", rulebook] as const,
  run: (text: string) => ["run", text] as const,
};
