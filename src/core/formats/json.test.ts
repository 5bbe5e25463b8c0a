import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseJson } from './json';
import { readStatementFile } from './xapi/file';

const reason = (text: string) => {
  const read = parseJson(text);
  return read.ok ? 'read' : read.reason;
};

describe('JSON from outside (RFC 8259)', () => {
  it('is read as the language reads it', () => {
    fc.assert(
      fc.property(fc.json({ maxDepth: 20 }), (text) => {
        expect(parseJson(text)).toEqual({ ok: true, value: JSON.parse(text) as unknown });
      }),
    );
  });

  it('is refused where it is too deep, hollow, or none; brackets in strings are none', () => {
    expect(reason(`${'['.repeat(100)}${']'.repeat(100)}`)).toBe('read');
    expect(reason(`${'['.repeat(101)}${']'.repeat(101)}`)).toMatch(/deeper than 100/);
    expect(reason(JSON.stringify('['.repeat(500)))).toBe('read');
    expect(reason(`"\\"${'['.repeat(500)}"`)).toBe('read');
    expect(reason(`[${'{},'.repeat(200_000)}{}]`)).toMatch(/hardly anything but brackets/);
    expect(reason('[')).not.toBe('read');
    const bad = readStatementFile('{"actor":{},"verb":{},"object":{}}\n'.repeat(60_000));
    expect(bad).toMatchObject({ ok: false, reason: expect.stringMatching(/hardly anything/) as string });
  });

  it('of many small statements is read', () => {
    const one = '{"actor":{"mbox":"mailto:a@b.c"},"verb":{"id":"x:y"},"object":{"id":"x:y"}}';
    expect(reason(`[${`${one},`.repeat(60_000)}${one}]`)).toBe('read');
  });
});
