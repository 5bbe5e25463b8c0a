import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boundaryOf, readMultipart, writeMultipart, type Part } from './multipart';

const bytes = (text: string) => new TextEncoder().encode(text);
const told = (body: string, boundary: string) => {
  const read = readMultipart(bytes(body), boundary);
  return read.ok
    ? read.value.map((p) => [Object.fromEntries(p.headers), new TextDecoder().decode(p.content)])
    : read.reason;
};

describe('a multipart body (RFC 2046, 5.1.1)', () => {
  it('is cut like the example of the standard', () => {
    const body = [
      'This is the preamble.  It is to be ignored, though it',
      'is a handy place for composition agents to include an',
      'explanatory note to non-MIME conformant readers.',
      '',
      '--simple boundary',
      '',
      'This is implicitly typed plain US-ASCII text.',
      'It does NOT end with a linebreak.',
      '--simple boundary',
      'Content-type: text/plain; charset=us-ascii',
      '',
      'This is explicitly typed plain US-ASCII text.',
      'It DOES end with a linebreak.',
      '',
      '--simple boundary--',
      '',
      'This is the epilogue.  It is also to be ignored.',
    ].join('\r\n');
    expect(told(body, 'simple boundary')).toEqual([
      [{}, 'This is implicitly typed plain US-ASCII text.\r\nIt does NOT end with a linebreak.'],
      [
        { 'content-type': 'text/plain; charset=us-ascii' },
        'This is explicitly typed plain US-ASCII text.\r\nIt DOES end with a linebreak.\r\n',
      ],
    ]);
  });

  it.each([
    ['', /begin/],
    ['--b', /cut off/],
    ['--b\r\n\r\nx', /cut off/],
    ['--b\r\nno header\r\n\r\nx\r\n--b--', /no header/],
    ['--b\r\nX: 1\r\n--b--', /end of its headers/],
    ['x--b\r\n\r\nx\r\n--b--', /begin/],
    ['--bx\r\n\r\nx\r\n--b--', /cut off/],
  ])('%j is refused', (body, words) => expect(told(body, 'b')).toMatch(words));

  it.each([
    ['multipart/mixed; boundary=abc', 'abc'],
    ['multipart/mixed; charset=utf-8; boundary="a b:c"', 'a b:c'],
    ['multipart/mixed', null],
    ['multipart/mixed; boundary=""', null],
    [`multipart/mixed; boundary=${'x'.repeat(71)}`, null],
  ])('the boundary of %s', (type, boundary) => expect(boundaryOf(type)).toBe(boundary));

  it('comes back as it was put together, whatever bytes it holds', () => {
    const part: fc.Arbitrary<Part> = fc.record({
      headers: fc
        .uniqueArray(fc.tuple(fc.stringMatching(/^[a-z-]{1,20}$/), fc.stringMatching(/^[!-~]{0,20}$/)), {
          selector: ([name]) => name,
          maxLength: 3,
        })
        .map((list) => new Map(list)),
      content: fc.oneof(
        fc.uint8Array({ maxLength: 200 }),
        fc.constantFrom('\r\n', '--', '\r\n--', '').map(bytes),
      ),
    });
    fc.assert(
      fc.property(fc.array(part, { maxLength: 5 }), (parts) => {
        const read = readMultipart(writeMultipart(parts, 'b0undary'), 'b0undary');
        expect(read).toEqual({
          ok: true,
          value: parts.map((p) => ({ ...p, content: Uint8Array.from(p.content) })),
        });
      }),
    );
  });
});
