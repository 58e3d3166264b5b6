import { api, ask, type VerifyAnswer } from "../api/client";

/** Ask what is known of a file by its hash, or of a code: nobody need be signed in for it. */
export function useVerify() {
  return (sha256: string, code: string): Promise<VerifyAnswer> =>
    ask(api.POST("/api/verify", { body: { sha256, code } }));
}

/** The SHA-256 of a file, worked out where it is. */
export async function hashOf(file: Blob): Promise<string> {
  const hash = await crypto.subtle.digest("SHA-256", await file.arrayBuffer());
  return [...new Uint8Array(hash)].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}
