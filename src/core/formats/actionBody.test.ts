import fc from 'fast-check';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { isActionBody } from './actionBody';

/** What a page sends is written by the framework's own writer, for values as our forms have them. */
const { encodeReply } = createRequire(import.meta.url)(
  'next/dist/compiled/react-server-dom-turbopack/client.edge.js',
) as { encodeReply: (value: unknown) => Promise<string | FormData> };

describe('the text of a call of an action', () => {
  it('is what the framework writes for plain values', async () => {
    const leaf = fc.oneof(
      fc.string(),
      fc.constantFrom('$', '$0', '$$0', '$undefined', '$F1', '__proto__'),
      fc.integer(),
      fc.double(),
      fc.boolean(),
      fc.constant(null),
      fc.constant(undefined),
    );
    const key = fc.string().filter((k) => k !== '__proto__');
    const value = fc.letrec((tie) => ({
      any: fc.oneof(
        { depthSize: 'small' },
        leaf,
        fc.array(tie('any')),
        fc.dictionary(key, tie('any'), { noNullPrototype: true }),
      ),
    })).any;
    await fc.assert(
      fc.asyncProperty(value, fc.boolean(), async (input, twice) => {
        const shared = { seen: [1, { points: null }] };
        const text = await encodeReply([twice ? { input, a: shared, b: [shared, shared] } : input]);
        expect(typeof text === 'string' && isActionBody(text), String(text)).toBe(true);
      }),
    );
  });

  it.each([
    '',
    '{}',
    '"x"',
    '[',
    '["$F1"]',
    '["$1"]',
    '["$0:1"]',
    '["$0:0:x"]',
    '["$Q1"]',
    '["$K1"]',
    '["$B1"]',
    '["$@1"]',
    '["$h1"]',
    '["$Dyesterday"]',
    '[{"__proto__":1}]',
    '["$0:__proto__"]',
    // Rings: what stands again would hold itself.
    '[["$0:0"]]',
    '["$0"]',
    '[{"a":"$0:1"},{"b":"$0:0"}]',
    '["$0:1",{"b":1}]',
    '["x","$0:0"]',
    `${'['.repeat(101)}${']'.repeat(101)}`,
  ])('is not %j', (text) => expect(isActionBody(text)).toBe(false));
});
