//go:build !js

package book

import "github.com/alexedwards/argon2id"

// hashing are the parameters of argon2id: the second choice of RFC 9106, section
// 4, with as many lanes as the machines this runs on have cores.
var hashing = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}
