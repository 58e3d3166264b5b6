import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Check = Schemas["Check"];
export type Verdict = Schemas["Verdict"];
export type Circuit = Schemas["Circuit"];
export type CircuitView = Schemas["CircuitView"];
export type CircuitResult = Schemas["CircuitResult"];
export type CircuitLine = Schemas["CircuitLine"];
export type Point = Schemas["Point"];
export type Leg = Schemas["Leg"];
export type Segment = Schemas["Segment"];
export type JobView = Schemas["JobView"];
export type Supply = Schemas["Supply"];
export type Service = Schemas["Service"];
export type Choices = Schemas["Choices"];
export type SheetView = Schemas["SheetView"];
export type Item = Schemas["Item"];
export type Reading = Schemas["Reading"];
export type ReadingTaken = Pick<Schemas["ReadingTaken"], "quantity" | "beyond" | "note" | "source"> &
  Partial<Schemas["ReadingTaken"]>;
export type Sheet = Schemas["Sheet"];
export type AttachmentLine = Schemas["AttachmentLine"];
/** What a photo shows: of which sort, its id, and the circuit where it is a point of one. */
export type Shown = Omit<
  NonNullable<paths["/api/jobs/{job_id}/attachments"]["post"]["parameters"]["query"]>,
  "id" | "note" | "taken_at"
>;
export type FoundMade = Schemas["FoundMade"];
export type InspectionView = Schemas["InspectionView"];
export type InspectionSaid = Schemas["InspectionMade"]["said"];
export type FindingSaid = Schemas["FindingSaid"];
export type FindingKind = Schemas["FindingKind"];
export type Offer = Schemas["Offer"];
export type WalkArea = Schemas["WalkArea"];
export type WalkItem = Schemas["WalkItem"];
export type StandingFinding = Schemas["StandingFinding"];
export type TaskSaid = Schemas["TaskSaid-Output"];
export type Particulars = Schemas["Particulars"];
export type Code = Schemas["FindingSaid"]["code"];
export type VerifyAnswer = Schemas["VerifyAnswer"];
export type Issued = Schemas["Issued"];
export type PlanView = Schemas["PlanView"];
export type RoomPlan = Schemas["RoomPlan"];
export type Outline = Schemas["Outline"];
export type Opening = Schemas["Opening"];
export type Mark = Schemas["Mark"];
export type RoutesView = Schemas["RoutesView"];
export type LegRoute = Schemas["LegRoute"];
export type LegBreaks = Schemas["LegBreaks"];
export type PipeLayout = Schemas["PipeLayout"];
export type RunOrder = Schemas["RunOrder"];
export type RouteRules = Schemas["RouteRules"];
export type Laid = Omit<Schemas["LaidThrough"], "id">;
export type QuoteView = Schemas["QuoteView"];
export type QuoteTerms = QuoteView["terms"];
export type OfferLine = Schemas["OfferLine"];
export type OfferMade = Schemas["OfferMade"];
export type OfferSeen = Schemas["OfferSeen"];
export type CustomerSays = Schemas["CustomerSays"];
export type WorkView = Schemas["WorkView"];
export type WorkStep = Schemas["WorkStep"];
export type StepSaid = Schemas["StepSaid"];
export type Tick = Schemas["TickMark"];
export type Joists = Schemas["Joists"];
export type Storey = Schemas["Storey"];
export type SetOut = Schemas["SetOut"];
export type PriceList = Schemas["PriceList"];
export type NotifyingView = Schemas["NotifyingView"];
export type InstallationView = Schemas["InstallationView"];
export type Visit = Schemas["Visit"];
export type VisitMade = Schemas["VisitMade"];
export type Diagnosis = Schemas["Diagnosis"];
export type NextTest = Schemas["NextTest"];
export type SuspectLine = Schemas["SuspectLine"];
export type ReadFile = Schemas["ReadFile"];
export type TripSearch = Schemas["TripSearch"];
export type CodeSearch = Schemas["CodeSearch"];
export type Paper = Schemas["Paper"];
export type PaperBlock = Paper["sections"][number]["blocks"][number];
export type PaperTable = Schemas["Table"];
export type PaperKind = Schemas["PaperKind"];
export type Command = Schemas["CircuitChange"]["commands"][number];
export type JobCommand = Schemas["JobChange"]["commands"][number];
export type BoardsView = Schemas["BoardsView"];
export type PlacesView = Schemas["PlacesView"];
export type Board = Schemas["Board"];
export type Way = Schemas["Way"];
export type WayView = Schemas["WayView"];
export type GroupView = Schemas["GroupView"];
export type Trip = Schemas["Trip"];
export type BoardProposals = Schemas["BoardProposals"];
export type BoardSheet = Schemas["BoardSheet"];
export type PlacesCommand = Schemas["PlacesChange"]["commands"][number];
export type Spot = Schemas["Spot"];
export type BoardCommand = Schemas["BoardsChange"]["commands"][number];
export type JobHead = Schemas["JobHead"];
export type Quick = Schemas["Quick"];
export type NewCircuit = Omit<Schemas["StartCircuit"], "id">;
export type Preview = Schemas["Preview"];
export type Problem = Schemas["Problem"];
export type ErrorBody = Schemas["ErrorBody"];
export type Proposals = Schemas["Proposals"];
export type Typed = Schemas["Typed"];
export type LibraryLine = Schemas["LibraryLine"];
export type Load = Schemas["Load"];
export type Ahead = Schemas["Ahead"];
export type SwitchingView = Schemas["SwitchingView"];
export type SwitchingLine = Schemas["SwitchingLine"];
export type SwitchingPlan = Schemas["SwitchingPlan"];
export type Planned = Schemas["Planned"];
export type Scheme = Schemas["Scheme"];
export type Control = Schemas["Control"];
export type Route = Schemas["Route"];
export type Proof = Schemas["Proof"];
export type StateTable = Schemas["StateTable"];
export type Hazard = Schemas["Hazard"];
export type Face = Schemas["Face"];
export type FaceCore = Schemas["FaceCore"];
export type FaceTerminal = Schemas["FaceTerminal"];
export type Accessory = Schemas["Accessory"];
export type ExerciseView = Schemas["ExerciseView"];
export type ExerciseAct = Partial<Schemas["Act"]>;
export type ExerciseAsked = Omit<Schemas["ExerciseAsked"], "school"> & { school?: Schemas["School"] };
export type ExerciseAsk = Schemas["Ask"];
export type ExerciseChoice = Schemas["Choice"];
export type ExerciseTogether = Schemas["Together"];
export type ExerciseKind = ExerciseView["kind"];
export type ExerciseSeen = Schemas["CameOf"];
export type Reckoning = Schemas["Reckoning"];
export type WireBox = Schemas["WireBox"];
export type Wired = Schemas["WiredEnd"];
export type LinkWire = Schemas["LinkWire"];
export type Picture = Schemas["Picture"];
export type PracticeHome = Schemas["PracticeHome"];
export type PracticeRung = Schemas["Rung"];
export type RunLine = Schemas["RunLine"];
export type RunView = Schemas["RunView"];
export type SetDocument = Schemas["SetDocument"];
export type SetLine = Schemas["SetLine"];
export type LearnerLine = Schemas["LearnerLine"];
export type School = Schemas["School"];
export type DesignCompared = Schemas["DesignCompared"];
export type Mended = Schemas["Mended"];
export type MakeOff = Schemas["MakeOff"];
export type BoxSheet = Schemas["BoxSheet"];
export type WiringRecord = Schemas["WiringRecordView"];
export type Me = Schemas["Me"];
export type Role = Schemas["Role"];
export type Right = Schemas["Right"];
export type PersonLine = Schemas["PersonLine"];
export type PeopleView = Schemas["PeopleView"];
export type Handed = Schemas["Handed"];
export type FactorOffer = Schemas["FactorOffer"];
export type LinkView = Schemas["LinkView"];

/** A request that was refused, in the API's one shape of error. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly body: ErrorBody,
  ) {
    super(body.message);
  }
}

let csrfToken = "";
export function keepToken(token: string): void {
  csrfToken = token;
}

/** Asked when a session has ended while somebody works: signs in again, in place, before the request goes on. */
let signInAgain: (() => Promise<void>) | undefined;
export function whenSessionEnds(ask: () => Promise<void>): void {
  signInAgain = ask;
}

/** Asked when what matters wants the password again; answers whether it was given. */
let proveAgain: (() => Promise<boolean>) | undefined;
export function whenProofIsAsked(ask: () => Promise<boolean>): void {
  proveAgain = ask;
}

// Where a refusal is an answer to what was typed, not to who one is.
const SIGNING_IN: readonly string[] = ["/api/session", "/api/session/proof"];
const sent = new WeakMap<Request, Request>();

export const api = createClient<paths>({ baseUrl: "/" });
api.use({
  onRequest({ request, schemaPath }) {
    if (request.method !== "GET") request.headers.set("X-CSRF-Token", csrfToken);
    // Kept to be sent again as it was, should the session turn out to have ended.
    if (!SIGNING_IN.includes(schemaPath)) sent.set(request, request.clone());
    return request;
  },
  async onResponse({ request, response }) {
    const again = sent.get(request);
    if (!again) return undefined;
    if (response.status === 401 && signInAgain) await signInAgain();
    else if (!(await asksForProof(response)) || !(await proveAgain?.())) return undefined;
    if (again.method !== "GET") again.headers.set("X-CSRF-Token", csrfToken);
    return fetch(again);
  },
});

async function asksForProof(response: Response): Promise<boolean> {
  if (response.status !== 403) return false;
  const body: unknown = await response.clone().json();
  return isErrorBody(body) && body.code === "prove-again";
}

const UNREACHABLE: ErrorBody = {
  code: "unreachable",
  message: "Lumbek cannot be reached. What is marked saved is saved; try again when the connection is back.",
  problems: [],
};

function isErrorBody(value: unknown): value is ErrorBody {
  return typeof value === "object" && value !== null && "message" in value && "code" in value;
}

/** Return the data of an answer, or throw it as Refused. */
export async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: T; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch {
    throw new Refused(0, UNREACHABLE);
  }
  if (!answer.response.ok) {
    const body = isErrorBody(answer.error)
      ? answer.error
      : { ...UNREACHABLE, message: "The server gave no answer that can be read." };
    throw new Refused(answer.response.status, body);
  }
  return answer.data as T;
}

export function asRefused(error: unknown): Refused {
  if (error instanceof Refused) return error;
  return new Refused(0, { code: "our-fault", message: String(error), problems: [] });
}
