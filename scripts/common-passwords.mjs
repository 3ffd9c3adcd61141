// Writes book/common-passwords.bin: the first eight bytes of SHA-256 of each of the ten thousand
// commonest passwords, sorted. The file holds digests because many of the words are vulgar.
//
//	npm pack @zxcvbn-ts/language-common@3.0.4 && tar xzf zxcvbn-ts-language-common-3.0.4.tgz
//	node scripts/common-passwords.mjs package/dist/passwords.json.js
//
// The list is that of zxcvbn (MIT, Dan Wheeler and Dropbox), the commonest first.
import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'

const text = readFileSync(process.argv[2], 'utf8')
const list = /123456,password,[^'"]*/.exec(text)[0].split(',')
const digests = list.slice(0, 10_000).map((word) => createHash('sha256').update(word.toLowerCase()).digest().subarray(0, 8))
digests.sort(Buffer.compare)
writeFileSync(new URL('../book/common-passwords.bin', import.meta.url), Buffer.concat(digests))
