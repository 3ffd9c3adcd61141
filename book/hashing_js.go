package book

import "github.com/alexedwards/argon2id"

// hashing are the parameters of argon2id on a device, where everything waits meanwhile: the
// least that OWASP's Password Storage Cheat Sheet names.
var hashing = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}
