/** Photos that wait on this device: too large for the place where the rest of what waits is kept. */
const NAME = "lumbek";
const STORE = "waiting";

function opened(): Promise<IDBDatabase> {
  return new Promise((done, fail) => {
    const asked = indexedDB.open(NAME, 1);
    asked.onupgradeneeded = () => asked.result.createObjectStore(STORE);
    asked.onsuccess = () => done(asked.result);
    asked.onerror = () => fail(asked.error ?? new Error("no place to keep photos"));
  });
}

async function doing<T>(mode: IDBTransactionMode, act: (store: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const base = await opened();
  try {
    return await new Promise<T>((done, fail) => {
      const work = base.transaction(STORE, mode);
      const asked = act(work.objectStore(STORE));
      // Only when it is on the disk is it kept.
      work.oncomplete = () => done(asked.result);
      work.onerror = () => fail(work.error ?? new Error("not kept"));
      work.onabort = () => fail(work.error ?? new Error("not kept"));
    });
  } finally {
    base.close();
  }
}

export async function keepBlob(id: string, blob: Blob): Promise<void> {
  await doing("readwrite", (store) => store.put(blob, id));
}

export async function blobOf(id: string): Promise<Blob | undefined> {
  return (await doing("readonly", (store) => store.get(id))) as Blob | undefined;
}

export async function dropBlob(id: string): Promise<void> {
  await doing("readwrite", (store) => store.delete(id));
}
