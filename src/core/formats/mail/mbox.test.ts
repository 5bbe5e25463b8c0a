import fc from 'fast-check';
import { simpleParser } from 'mailparser';
import PostalMime from 'postal-mime';
import { expect, test } from 'vitest';
import { writeMbox, type Kept } from './mbox';

/** Reads a mailbox file back by the rule of RFC 4155: a message begins with a line "From ", and ends before the next. */
function readMbox(text: string): { from: string; at: number; raw: string }[] {
  const found: { from: string; at: number; lines: string[] }[] = [];
  for (const line of text.split('\n')) {
    const [, from, time] = /^From (\S+) (.*)$/.exec(line) ?? [];
    if (from && time) found.push({ from, at: Date.parse(`${time} UTC`), lines: [] });
    else found.at(-1)!.lines.push(line.replace(/^>(>*From )/, '$1'));
  }
  return found.map(({ lines, ...rest }) => ({
    ...rest,
    raw: `${lines.join('\r\n').replace(/(\r\n)+$/, '')}\r\n`,
  }));
}

const message = (subject: string, body: string) =>
  `From: Ines <ines@x.example>\r\nTo: bo@x.example\r\nSubject: ${subject}\r\nMIME-Version: 1.0\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n${body}\r\n`;

test('the separator is that of the RFC, and each message is read as it was, by two readers', async () => {
  const kept: Kept[] = [
    {
      from: 'ines@x.example',
      at: Date.UTC(2026, 10, 5, 9, 3, 7),
      raw: message('One', 'From here on\r\n>From there'),
    },
    { from: '', at: Date.UTC(2026, 10, 25, 10, 35), raw: message('Two', 'Hello') },
  ];
  const text = writeMbox(kept);
  expect(text.split('\n')[0]).toBe('From ines@x.example Thu Nov  5 09:03:07 2026');
  expect(text).not.toContain('\r');
  const read = readMbox(text);
  expect(read.map((m) => m.at)).toEqual(kept.map((k) => k.at));
  expect(read.map((m) => m.raw)).toEqual(kept.map((k) => k.raw));
  const [one] = await Promise.all(read.map((m) => simpleParser(m.raw)));
  expect(one!.text!.trim()).toBe('From here on\n>From there');
  expect((await PostalMime.parse(read[1]!.raw)).subject).toBe('Two');
});

test('whatever stands in messages, as many come back as went in, line by line', () => {
  const line = fc.oneof(
    fc.string({ unit: 'grapheme-ascii' }).map((s) => s.replace(/[\r\n]/g, '')),
    fc.constantFrom('From ', 'From a b', '>From x', '>>From y', ' From', ''),
  );
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          from: fc.constantFrom('a@x.example', 'b@y.example'),
          at: fc.integer({ min: 0, max: 2e9 }).map((s) => s * 1000),
          raw: fc.array(line, { maxLength: 8 }).map((lines) => message('S', [...lines, 'end'].join('\r\n'))),
        }),
        { minLength: 1, maxLength: 4 },
      ),
      (kept) => {
        expect(readMbox(writeMbox(kept))).toEqual(kept);
      },
    ),
  );
});
