import { createHmac } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { base32, fromBase32, localPart, readLocalPart, TOKEN_USES, type Sign } from './answerToken';

const signWith =
  (secret: string): Sign =>
  (use, payload) =>
    createHmac('sha256', `${secret} ${use}`).update(payload).digest();
const sign = signWith('a secret of ours');
const text = (s: string) => new TextEncoder().encode(s);

describe('base32', () => {
  // RFC 4648, section 10, in lower case and without padding.
  it.each([
    ['', ''],
    ['f', 'my'],
    ['fo', 'mzxq'],
    ['foo', 'mzxw6'],
    ['foob', 'mzxw6yq'],
    ['fooba', 'mzxw6ytb'],
    ['foobar', 'mzxw6ytboi'],
  ])('of “%s” is “%s”', (plain, encoded) => {
    expect(base32(text(plain))).toBe(encoded);
    expect(fromBase32(encoded.toUpperCase())).toEqual(text(plain));
  });
  it('is read back, and only as it was written', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => {
        expect(fromBase32(base32(bytes))).toEqual(bytes);
      }),
    );
    expect(['m', 'mz1', 'mzxw6y!', 'mz'].map(fromBase32)).toEqual([null, null, null, null]);
  });
});

describe('the address of a copy', () => {
  const id = fc.integer({ min: 1, max: 2 ** 31 - 1 });
  it('says which copy, whatever becomes of its case, and fits into a local part', () => {
    fc.assert(
      fc.property(fc.constantFrom(...TOKEN_USES), id, (use, id) => {
        const local = localPart(use, id, sign);
        // RFC 5321, 4.5.3.1.1: 64 octets.
        expect(local.length).toBeLessThanOrEqual(64);
        expect(local).toMatch(/^[a-z]+\.[a-z2-7]+$/);
        expect(readLocalPart(local, sign)).toEqual({ use, id });
        expect(readLocalPart(local.toUpperCase(), sign)).toEqual({ use, id });
      }),
    );
  });
  it('cannot be made, changed or used for something else without the secret', () => {
    fc.assert(
      fc.property(id, fc.nat(), fc.integer({ min: 1, max: 31 }), (recipientId, at, by) => {
        const local = localPart('answer', recipientId, sign);
        expect(readLocalPart(localPart('answer', recipientId, signWith('theirs')), sign)).toBeNull();
        expect(readLocalPart(local.replace('answer', 'bounce'), sign)).toBeNull();
        const place = 'answer.'.length + (at % (local.length - 'answer.'.length));
        const alphabet = 'abcdefghijklmnopqrstuvwxyz234567';
        const other = alphabet[(alphabet.indexOf(local[place]!) + by) % 32]!;
        const changed = local.slice(0, place) + other + local.slice(place + 1);
        expect(readLocalPart(changed, sign)).toBeNull();
      }),
    );
    expect(
      ['', 'answer', 'answer.', 'ines.calloway', 'answer.a.b'].map((l) => readLocalPart(l, sign)),
    ).toEqual(Array<null>(5).fill(null));
  });
});
