// Runs the devices' program without a browser:
//
//	node field.mjs PAGES FOLDER
//
// FOLDER/part.db is the book that a device would download. For each line of input, "digest PATH"
// or "text PATH", it prints the answer as one line of JSON.
import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import { brotliDecompressSync } from 'node:zlib'
import { pathToFileURL } from 'node:url'
import { resolve } from 'node:path'

const [, , pages, folder] = process.argv

/** A file as only a worker of a browser can have it, in memory (File System Standard). */
function handle(bytes) {
  let size = bytes.length
  return {
    read(into, { at }) {
      const part = bytes.subarray(Math.min(at, size), Math.min(at + into.length, size))
      into.set(part)
      return part.length
    },
    write(from, { at }) {
      this.truncate(Math.max(size, at + from.length))
      bytes.set(from, at)
      return from.length
    },
    truncate(to) {
      if (to > bytes.length) {
        const more = new Uint8Array(2 * to)
        more.set(bytes)
        bytes = more
      }
      if (to > size) bytes.fill(0, size, to)
      size = to
    },
    getSize: () => size,
    flush() {},
    close() {},
  }
}
const files = new Map([['book.db', handle(new Uint8Array(readFileSync(`${folder}/part.db`)))]])
const getFileHandle = async (name) => {
  if (!files.has(name)) files.set(name, handle(new Uint8Array()))
  return { createSyncAccessHandle: async () => files.get(name) }
}
Object.defineProperty(globalThis, 'navigator', { value: { storage: { getDirectory: async () => ({ getFileHandle }) } } })

await import(pathToFileURL(resolve(pages, 'wasm_exec.js')))
const done = (...args) => args.at(-1)(null)
Object.assign(globalThis.fs, { mkdir: done, rmdir: done, unlink: done })
globalThis.fs.writeSync = (fd, text) => (process.stderr.write(text), text.length) // its log
const go = new Go()
const { instance } = await WebAssembly.instantiate(brotliDecompressSync(readFileSync(`${pages}/field.wasm.br`)), go.importObject)
await new Promise((ready) => {
  globalThis.ready = ready
  void go.run(instance)
})
const taken = {
  tracts: ['Lantern Creek watershed forest'],
  photos: false,
  guarded: false,
  device: 'test',
  name: 'Test',
  role: '',
  token: '',
  until: '',
}
await globalThis.field.take('book.db', '', 'http://home.invalid', JSON.stringify(taken))

for await (const line of createInterface({ input: process.stdin })) {
  const [form, path] = [line.slice(0, line.indexOf(' ')), line.slice(line.indexOf(' ') + 1)]
  const { body } = await globalThis.field.ask('GET', path, [], null)
  const text = form === 'digest' ? createHash('sha256').update(body).digest('hex') : Buffer.from(body).toString()
  process.stdout.write(JSON.stringify(text) + '\n')
}
process.exit()
