export { canonicalJson, canonicalRow } from './canonical-json.ts';
export { digestOf, newSalt, saltedDigest, sha256 } from './digest.ts';
