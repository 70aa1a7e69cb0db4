import { sha256 } from '@noble/hashes/sha256'

const bits = 14
const encoder = new TextEncoder()

/** Finds a word that makes a hash of the stamp begin with enough zeros: a fraction of a second's work. */
export function proofOf(stamp: string): string {
  for (let n = 0; ; n++) {
    const word = n.toString(36)
    const h = sha256(encoder.encode(`${stamp}:${word}`))
    if (((h[0]! << 8) | h[1]!) >> (16 - bits) === 0) return word
  }
}
