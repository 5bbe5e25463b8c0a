import fc from 'fast-check';
import { simpleParser } from 'mailparser';
import { describe, expect, it } from 'vitest';
import type { Selection } from '../rules/selection';
import { daysIn, embarrassments } from './checks';
import { docOf, type Block, type Inline, type MessageDoc, type Paragraph } from './doc';
import { docFault, isLink, readDoc } from './docSchema';
import { docHtml, docText } from './docText';
import { MERGE_FIELDS, type MergeValues } from './fields';
import { fillDoc } from './fillDoc';

const word = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
  // Blanks at the ends and lines within are not what a node holds.
  .map((s) => s.replace(/\s+/g, ' ').trim())
  .filter((s) => s !== '' && !/[{}]/.test(s));
const inline: fc.Arbitrary<Inline> = fc.oneof(
  word.map((text): Inline => ({ type: 'text', text })),
  word.map((text): Inline => ({ type: 'text', text, marks: [{ type: 'bold' }] })),
  word.map((text): Inline => ({
    type: 'text',
    text,
    marks: [{ type: 'link', attrs: { href: 'https://x.example/?a=1&b=2' } }],
  })),
  fc.constant<Inline>({ type: 'hardBreak' }),
);
const paragraph: fc.Arbitrary<Paragraph> = fc
  .array(inline, { minLength: 1, maxLength: 4 })
  .map((content) => ({ type: 'paragraph', content }));
const block: fc.Arbitrary<Block> = fc.oneof(
  paragraph,
  fc
    .tuple(
      fc.constantFrom('bulletList' as const, 'orderedList' as const),
      fc.array(paragraph, { minLength: 1, maxLength: 3 }),
    )
    .map(([type, all]): Block => ({ type, content: all.map((p) => ({ type: 'listItem', content: [p] })) })),
);
const doc: fc.Arbitrary<MessageDoc> = fc
  .array(block, { minLength: 1, maxLength: 4 })
  .map((content) => ({ type: 'doc', content }));

const values = Object.fromEntries(MERGE_FIELDS.map((f) => [f, null])) as MergeValues;
const always = () => true;

/** The texts of a document, one after the other, without anything between them. */
const texts = (d: MessageDoc): string =>
  JSON.stringify(d)
    .match(/"text":"(?:[^"\\]|\\.)*"/g)!
    .map((m) => (JSON.parse(`{${m}}`) as { text: string }).text)
    .join('');

describe('a document', () => {
  it('is read back as it is, and nothing else of it', () => {
    fc.assert(
      fc.property(doc, (d) => {
        expect(readDoc(JSON.parse(JSON.stringify(d)))).toEqual(d);
        const more = JSON.parse(
          JSON.stringify(d).replaceAll('"type":"paragraph"', '"type":"paragraph","x":1'),
        ) as unknown;
        expect(readDoc(more)).toEqual(d);
      }),
    );
  });
  it('of plain text is that text again', () => {
    const line = word.filter((t) => !/^(- |\d+\. )/.test(t));
    fc.assert(
      fc.property(
        fc.array(fc.array(line, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 4 }),
        (lines) => {
          const text = lines.map((l) => l.join('\n')).join('\n\n');
          expect(docText(docOf(text))).toBe(text);
        },
      ),
    );
    expect(docText(docOf('Hello {first name | you}, {standing}'))).toBe(
      'Hello {first name | you}, {standing}',
    );
  });
  it('as HTML says nothing but its texts: no character of them becomes an element', async () => {
    // mailparser turns HTML into text by a library of its own (html-to-text).
    await fc.assert(
      fc.asyncProperty(paragraph, async (p) => {
        const d: MessageDoc = { type: 'doc', content: [p] };
        if (!JSON.stringify(d).includes('"text"') || !JSON.stringify(p).includes('"text":')) return;
        const own = (p.content ?? []).flatMap((n) => (n.type === 'text' ? [n.text] : []));
        if (own.length === 0) return;
        const html = docHtml(d);
        const mail = `Content-Type: text/html; charset=utf-8\r\nContent-Transfer-Encoding: base64\r\n\r\n${Buffer.from(html).toString('base64')}`;
        const parsed = await simpleParser(mail);
        const read = (parsed.text ?? '').replaceAll('[https://x.example/?a=1&b=2]', '').replace(/\s+/g, '');
        expect(read).toBe(texts(d).replace(/\s+/g, ''));
      }),
      { numRuns: 60 },
    );
  });
  it.each([
    ['no document', null, 'no text'],
    ['a kind of node that is not ours', { type: 'doc', content: [{ type: 'image' }] }, 'holds no image'],
    [
      'an unknown field',
      { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { name: 'age' } }] }] },
      '“age”',
    ],
    [
      'a link that runs',
      {
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: 'javascript:x' } }] },
            ],
          },
        ],
      },
      'A link must begin',
    ],
    [
      'a condition that is none',
      { type: 'doc', content: [{ type: 'paragraph', attrs: { shownIf: { all: 1 } } }] },
      'not whole',
    ],
    ['an empty list', { type: 'doc', content: [{ type: 'bulletList', content: [] }] }, 'is empty'],
    ['a very long one', docOf('x'.repeat(90_000)), 'longer than 20,000'],
  ])('%s is refused', (_, value, said) => expect(docFault(value)).toContain(said));
  it('links only to pages and addresses', () => {
    expect(['https://a.example', 'http://a', 'mailto:a@b.example'].every(isLink)).toBe(true);
    expect(
      ['javascript:alert(1)', 'data:text/html,x', '//a', 'a.example', 'https://a b', 'ftp://x'].some(isLink),
    ).toBe(false);
  });
});

describe('filling', () => {
  const where: Selection = { all: [] };
  const conditional = (text: string): Paragraph => ({
    type: 'paragraph',
    attrs: { shownIf: where },
    content: [{ type: 'text', text }],
  });
  it('leaves a paragraph out where its condition does not hold, and a list without a point', () => {
    const d: MessageDoc = {
      type: 'doc',
      content: [
        conditional('a'),
        { type: 'bulletList', content: [{ type: 'listItem', content: [conditional('b')] }] },
        { type: 'paragraph', content: [{ type: 'text', text: 'c' }] },
      ],
    };
    expect(docText(fillDoc(d, values, () => false).doc)).toBe('c');
    expect(docText(fillDoc(d, values, always).doc)).toBe('a\n\n- b\n\nc');
    expect(JSON.stringify(fillDoc(d, values, always).doc)).not.toContain('shownIf');
  });
  it('uses the fallback, names the holes, and never reads again what it filled in', () => {
    const d = docOf('{first name | you} {standing} {score |}');
    expect(fillDoc(d, values, always)).toMatchObject({ holes: ['standing'] });
    const filled = fillDoc(d, { ...values, standing: '{course}' }, always);
    expect(docText(filled.doc)).toBe('you {course} ');
  });
  it('counts no hole in a paragraph that is left out', () => {
    const d: MessageDoc = {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          attrs: { shownIf: where },
          content: [{ type: 'field', attrs: { name: 'standing', fallback: null } }],
        },
      ],
    };
    expect(fillDoc(d, values, () => false).holes).toEqual([]);
  });
});

describe('what would embarrass', () => {
  const today = '2026-11-25';
  const found = (text: string, givenName = 'Bo') => embarrassments(text, { givenName, today });
  it.each([
    ['Hand it in by 20 Nov.', '“20 Nov” has gone by.'],
    ['Hand it in by 2026-11-24.', '“2026-11-24” has gone by.'],
    ['You have 0 assignments open.', '“0 assignments” says that there is nothing.'],
    ['Hello ,\nhow are you?', '“Hello ,” greets nobody.'],
    ['Hello {first name', '“{first name” was left as it is.'],
    ['Your score is undefined.', 'Something is missing in it.'],
  ])('%s', (text, said) => expect(found(text)).toEqual([said]));
  it('is nothing in a text that is as it should be', () => {
    expect(found('Hello Bo,\nhand it in by 25 Nov or 3 December 2026. You have 10 assignments.')).toEqual([]);
    expect(found('Hello.', ' ')).toContain('Their name is missing.');
    expect(daysIn('on 31 Feb and 5th May', today)).toEqual([{ said: '5th May', day: '2026-05-05' }]);
  });
});
