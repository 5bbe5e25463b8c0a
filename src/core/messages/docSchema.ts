import * as yup from 'yup';
import { readSelection } from '../rules/selectionSchema';
import type { Block, Inline, ListItem, Mark, MessageDoc, Paragraph } from './doc';
import { docText } from './docText';
import { isMergeField, MERGE_FIELDS } from './fields';
import { LIMITS } from './limits';

/** What keeps a document from being one, in words for whoever wrote it. */
export class DocFault extends Error {}

const record = (value: unknown): Record<string, unknown> => {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new DocFault('The message is no text.');
  return value as Record<string, unknown>;
};
const list = (value: unknown): unknown[] => {
  if (value === undefined) return [];
  if (!Array.isArray(value)) throw new DocFault('The message is no text.');
  return value;
};

/** Links that a message may hold. */
const LINK = /^(https?:\/\/[^\s<>"']+|mailto:[^\s<>"']+@[^\s<>"']+)$/i;
export const isLink = (href: string): boolean => href.length <= 2000 && LINK.test(href);

function markOf(value: unknown): Mark {
  const { type, attrs } = record(value);
  if (type === 'bold') return { type };
  if (type === 'link') {
    const { href } = record(attrs);
    if (typeof href !== 'string' || !isLink(href))
      throw new DocFault('A link must begin with https://, http:// or mailto:.');
    return { type, attrs: { href } };
  }
  throw new DocFault(`A message holds no ${String(type)}.`);
}

function inlineOf(value: unknown): Inline {
  const { type, text, marks, attrs } = record(value);
  if (type === 'hardBreak') return { type };
  if (type === 'text') {
    if (typeof text !== 'string' || text === '') throw new DocFault('The message is no text.');
    const all = list(marks).map(markOf);
    return all.length > 0 ? { type, text, marks: all } : { type, text };
  }
  if (type === 'field') {
    const { name, fallback } = record(attrs);
    if (typeof name !== 'string' || !isMergeField(name))
      throw new DocFault(
        `There is no merge field “${String(name)}”. The fields are: ${MERGE_FIELDS.join(', ')}.`,
      );
    if (fallback != null && (typeof fallback !== 'string' || fallback.length > 300))
      throw new DocFault(`What stands in place of “${name}” is longer than 300 characters.`);
    return { type, attrs: { name, fallback: fallback ?? null } };
  }
  throw new DocFault(`A message holds no ${String(type)}.`);
}

function paragraphOf(value: unknown): Paragraph {
  const { type, content, attrs } = record(value);
  if (type !== 'paragraph') throw new DocFault(`A message holds no ${String(type)}.`);
  const inline = list(content).map(inlineOf);
  const shownIf = attrs == null ? null : record(attrs).shownIf;
  return {
    type,
    ...(shownIf == null ? {} : { attrs: { shownIf: conditionOf(shownIf) } }),
    ...(inline.length > 0 ? { content: inline } : {}),
  };
}

function conditionOf(value: unknown) {
  try {
    return readSelection(value);
  } catch (error) {
    if (error instanceof yup.ValidationError)
      throw new DocFault(`The condition of a paragraph is not whole: ${error.message}.`);
    throw error;
  }
}

function blockOf(value: unknown): Block {
  const { type, content } = record(value);
  if (type !== 'bulletList' && type !== 'orderedList') return paragraphOf(value);
  const items = list(content).map((item): ListItem => {
    const own = record(item);
    if (own.type !== 'listItem') throw new DocFault(`A list holds no ${String(own.type)}.`);
    return { type: 'listItem', content: list(own.content).map(paragraphOf) };
  });
  if (items.length === 0) throw new DocFault('A list of a message is empty.');
  return { type, content: items };
}

/** Nodes and marks come on top of the characters. */
const MOST_JSON = 10 * LIMITS.body;

/** Reads a document; what is not of it is dropped, and what cannot be is said by a `DocFault`. */
export function readDoc(value: unknown): MessageDoc {
  const { type, content } = record(value);
  if (type !== 'doc') throw new DocFault('The message is no text.');
  const doc: MessageDoc = { type, content: list(content).map(blockOf) };
  if (docText(doc).length > LIMITS.body || JSON.stringify(doc).length > MOST_JSON)
    throw new DocFault(`The message is longer than ${LIMITS.body.toLocaleString('en')} characters.`);
  return doc;
}

/** What is wrong with a document, in words; undefined if nothing is. */
export function docFault(value: unknown): string | undefined {
  try {
    readDoc(value);
    return undefined;
  } catch (error) {
    if (error instanceof DocFault) return error.message;
    throw error;
  }
}
