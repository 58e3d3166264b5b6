import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, type AttachmentLine, type Shown } from "../api/client";
import { blobOf } from "./blobs";
import { keys } from "./keys";
import { useMe } from "./me";
import { putPhotoIn, useWaiting, type PhotoRecord, type Waiting } from "./outbox";

/** A photo larger than this is made smaller before it is kept: figures on a plate can still be read. */
const LARGE = 1_500_000;
const LONG_SIDE = 2400;

/** The photos and papers of what is shown, and adding one: kept on this device first, then on the server. */
export function useAttachments(jobId: string, shown: Shown) {
  const me = useMe();
  const query = useQuery({
    queryKey: keys.attachments(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/attachments", { params: { path: { job_id: jobId } } })),
  });
  const isMine = (each: Pick<AttachmentLine, "shows" | "of" | "circuit">) =>
    each.shows === shown.shows &&
    each.of === (shown.of ?? "") &&
    (shown.shows !== "point" || each.circuit === shown.circuit_id?.replaceAll("-", ""));
  const waiting = useWaiting().filter(
    (each): each is Waiting<PhotoRecord> =>
      each.kind === "photo" && each.about === jobId && JSON.stringify(each.shown) === JSON.stringify(shown),
  );
  async function add(file: File): Promise<void> {
    const takenAt = `${new Date().toISOString().slice(0, 19)}Z`;
    await putPhotoIn({ about: jobId, by: me.id, shown, note: "", takenAt }, await smaller(file));
  }
  return { lines: (query.data ?? []).filter(isMine), waiting, add };
}

/** An address for a picture that waits on this device, as long as it is shown. */
export function useWaitingPicture(id: string): string | undefined {
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    let over = false;
    void blobOf(id).then((blob) => {
      if (!blob || over) return;
      made = URL.createObjectURL(blob);
      setAddress(made);
    });
    return () => {
      over = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [id]);
  return address;
}

async function smaller(file: File): Promise<Blob> {
  if (file.size <= LARGE || !file.type.startsWith("image/")) return file;
  try {
    return await drawnSmaller(file);
  } catch {
    // A device that cannot draw it smaller sends it as it is.
    return file;
  }
}

async function drawnSmaller(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, LONG_SIDE / Math.max(picture.width, picture.height));
  const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale));
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  return canvas.convertToBlob({ type: "image/jpeg", quality: 0.85 });
}
