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
export type Schedule = Schemas["Schedule"];
export type Edit = Schemas["EditChange"]["edit"];
export type Problem = Schemas["Problem"];
export type ErrorBody = Schemas["ErrorBody"];
export type Proposals = Schemas["Proposals"];
export type Typed = Schemas["Typed"];
export type LibraryLine = Schemas["LibraryLine"];
export type Load = Schemas["Load"];
export type Ahead = Schemas["Ahead"];
export type Me = Schemas["Me"];

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

export const api = createClient<paths>({ baseUrl: "/" });
api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRF-Token", csrfToken);
    return request;
  },
});

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
    const body = isErrorBody(answer.error) ? answer.error : { ...UNREACHABLE, message: "The server gave no answer that can be read." };
    throw new Refused(answer.response.status, body);
  }
  return answer.data as T;
}

export function asRefused(error: unknown): Refused {
  if (error instanceof Refused) return error;
  return new Refused(0, { code: "our-fault", message: String(error), problems: [] });
}
