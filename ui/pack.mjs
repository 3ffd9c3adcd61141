// Packs the program for the browser: node pack.mjs FIELD.WASM FOLDER writes field.wasm.br
// and field.json, which says what it weighs, to the folder.
import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { brotliCompressSync, constants } from 'node:zlib'

const [, , from, to] = process.argv
const program = readFileSync(from)
const packed = brotliCompressSync(program, {
  params: {
    [constants.BROTLI_PARAM_QUALITY]: Number(process.env.PT_BROTLI ?? 5), // 9 takes six times as long for 5 % less
    [constants.BROTLI_PARAM_LGWIN]: 24,
    [constants.BROTLI_PARAM_SIZE_HINT]: program.length,
  },
})
const digest = createHash('sha256').update(program).digest('hex').slice(0, 16)
writeFileSync(`${to}/field.wasm.br`, packed)
writeFileSync(`${to}/field.json`, JSON.stringify({ digest, bytes: packed.length, unpacked: program.length }))
