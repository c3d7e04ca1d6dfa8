import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { canonicalJson, digestOf, newSalt, saltedDigest, sha256 } from '../src/chain/index.ts';
import { plainText } from '../src/http/csv.ts';

describe('canonical JSON', () => {
  // RFC 8785, 3.2.3: members sorted by name; numbers and strings as ECMAScript prints them.
  it('orders the keys at every depth and leaves arrays in order', () => {
    expect(canonicalJson({ b: [3, 1, { z: 1, a: null }], a: 'x"' })).toBe(
      '{"a":"x\\"","b":[3,1,{"a":null,"z":1}]}',
    );
    expect(canonicalJson({ a: undefined, b: 1e21 })).toBe('{"b":1e+21}');
  });

  it('reads back as the same value, whatever the order of the keys was', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (value) => {
        const turned = Object.fromEntries(Object.entries(value).reverse());
        expect(canonicalJson(turned)).toBe(canonicalJson(value));
        expect(JSON.parse(canonicalJson(value))).toEqual(JSON.parse(JSON.stringify(value)));
      }),
    );
  });
});

describe('digests', () => {
  // FIPS 180-4, the one-block example: SHA-256 of "abc".
  it('are SHA-256', () => {
    expect(sha256('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
    expect(digestOf({ b: 1, a: 2 })).toBe(sha256('{"a":2,"b":1}'));
  });

  it('of personal text differ by their salt', () => {
    const one = newSalt();
    const two = newSalt();
    expect(one).not.toBe(two);
    expect(saltedDigest('same', one)).not.toBe(saltedDigest('same', two));
    expect(saltedDigest('same', one)).toBe(saltedDigest('same', one));
  });
});

describe('text in a spreadsheet', () => {
  it.each(['=1+1', '+1', '-1', '@x', '\tx'])('%j is kept from running', (text) => {
    expect(plainText(text)).toBe(`'${text}`);
  });
  it('plain text stays as it is', () => {
    expect(plainText('Ada - Bench 1')).toBe('Ada - Bench 1');
  });
});
