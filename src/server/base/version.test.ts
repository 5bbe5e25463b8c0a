import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Conflict, refuseStale } from './version';

const shuffled = (o: object) => Object.fromEntries(Object.entries(o).reverse());

describe('the version a form was opened with', () => {
  it('is the stored one, whatever the order of its keys and whatever else came along', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (stored) => {
        // What crosses the wire as JSON has no minus zero.
        const plain = JSON.parse(JSON.stringify(stored)) as object;
        expect(() => refuseStale({ 'not of it ': 1, ...shuffled(plain) }, plain)).not.toThrow();
      }),
    );
  });
  it('is refused where anything in it differs, and what is stored is told', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
        fc.pre(JSON.stringify(a) !== JSON.stringify(b));
        fc.pre(typeof a !== 'object' && typeof b !== 'object');
        try {
          refuseStale({ title: a, deep: [{ x: 1 }] }, { title: b, deep: [{ x: 1 }] });
          expect.unreachable();
        } catch (error) {
          expect(error).toBeInstanceOf(Conflict);
          expect((error as Conflict).theirs).toEqual({ title: b, deep: [{ x: 1 }] });
        }
      }),
    );
  });
  it('of something new is never that of something stored', () =>
    expect(() => refuseStale(null, { title: 'x' })).toThrow('was changed while you were editing'));
});
