// Packs the program for the browser: node pack.mjs FIELD.WASM WASM_EXEC.JS FOLDER writes field.wasm.br, what starts it, and
// field.json, which says what they weigh and by which digests they are known, to the folder.
import { createHash } from 'node:crypto'
import { copyFileSync, readFileSync, writeFileSync } from 'node:fs'
import { brotliCompressSync, constants } from 'node:zlib'

const [, , from, start, to] = process.argv
const program = readFileSync(from)
const digestOf = (file) => createHash('sha256').update(file).digest('hex')
const packed = brotliCompressSync(program, {
  params: {
    [constants.BROTLI_PARAM_QUALITY]: Number(process.env.PT_BROTLI ?? 5), // 9 takes six times as long for 5 % less
    [constants.BROTLI_PARAM_LGWIN]: 24,
    [constants.BROTLI_PARAM_SIZE_HINT]: program.length,
  },
})
const sha256 = digestOf(program)
writeFileSync(`${to}/field.wasm.br`, packed)
const of = { digest: sha256.slice(0, 16), sha256, start: digestOf(readFileSync(start)), bytes: packed.length, unpacked: program.length }
writeFileSync(`${to}/field.json`, JSON.stringify(of))
copyFileSync(start, `${to}/wasm_exec.js`)
