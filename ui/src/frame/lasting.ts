/**
 * Texts by a key, on the disk once it is said so: what is in localStorage is written there up to a minute later, and a browser
 * that is ended before has lost it. Where there is no such storage, everything is said to be kept.
 */
const name = 'palethicket-lasting'
const texts = 'texts'

let opening: Promise<IDBDatabase> | undefined

function database(): Promise<IDBDatabase> {
  opening ??= new Promise((resolve, reject) => {
    const ask = indexedDB.open(name, 1)
    ask.onupgradeneeded = () => ask.result.createObjectStore(texts)
    ask.onsuccess = () => resolve(ask.result)
    ask.onerror = () => reject(new Error(ask.error?.message))
  })
  return opening
}

async function change(does: (store: IDBObjectStore) => void): Promise<void> {
  if (!('indexedDB' in globalThis)) return
  const at = (await database()).transaction(texts, 'readwrite', { durability: 'strict' })
  does(at.objectStore(texts))
  return new Promise((resolve, reject) => {
    at.oncomplete = () => resolve()
    at.onabort = () => reject(new Error(at.error?.message))
  })
}

export const putLasting = (key: string, text: string) => change((s) => s.put(text, key))
export const dropLasting = (key: string) => change((s) => s.delete(key))

/** Everything that is kept, by its key. */
export async function allLasting(): Promise<Map<string, string>> {
  if (!('indexedDB' in globalThis)) return new Map()
  const store = (await database()).transaction(texts).objectStore(texts)
  const got = <T>(ask: IDBRequest<T>) =>
    new Promise<T>((resolve, reject) => {
      ask.onsuccess = () => resolve(ask.result)
      ask.onerror = () => reject(new Error(ask.error?.message))
    })
  const [keys, values] = await Promise.all([got(store.getAllKeys()), got(store.getAll())])
  return new Map(keys.map((k, i) => [String(k), String(values[i])]))
}
