import type { Selection } from '../rules/selection';
import type { MergeField } from './fields';
import { parseTemplate } from './template';

/** A word or phrase in bold, or that leads somewhere. */
export type Mark =
  { readonly type: 'bold' } | { readonly type: 'link'; readonly attrs: { readonly href: string } };

export interface TextNode {
  readonly type: 'text';
  readonly text: string;
  readonly marks?: readonly Mark[];
}
/** A merge field, and what stands there where it is empty; null if nothing does, so that it must not be. */
export interface FieldNode {
  readonly type: 'field';
  readonly attrs: { readonly name: MergeField; readonly fallback: string | null };
}
export interface BreakNode {
  readonly type: 'hardBreak';
}
export type Inline = TextNode | FieldNode | BreakNode;

/** A paragraph; with a condition only those read it of whom that holds. */
export interface Paragraph {
  readonly type: 'paragraph';
  readonly attrs?: { readonly shownIf: Selection | null };
  readonly content?: readonly Inline[];
}
export interface ListItem {
  readonly type: 'listItem';
  readonly content: readonly Paragraph[];
}
export interface List {
  readonly type: 'bulletList' | 'orderedList';
  readonly content: readonly ListItem[];
}
export type Block = Paragraph | List;

/** The text of a message as the editor holds it (JSON of a ProseMirror document, of these kinds of nodes only). */
export interface MessageDoc {
  readonly type: 'doc';
  readonly content: readonly Block[];
}

/** A text with merge fields in braces as a document: empty lines part paragraphs. Braces that name no field stay text. */
export function docOf(source: string): MessageDoc {
  return {
    type: 'doc',
    content: source.split(/\n{2,}/).map((text): Paragraph => {
      const content = text
        .split('\n')
        .flatMap((line, i): Inline[] => [
          ...(i > 0 ? [{ type: 'hardBreak' } as const] : []),
          ...inlineOf(line),
        ]);
      return content.length > 0 ? { type: 'paragraph', content } : { type: 'paragraph' };
    }),
  };
}

const inlineOf = (line: string): Inline[] => {
  const { parts, errors } = parseTemplate(line);
  if (errors.length > 0) return line ? [{ type: 'text', text: line }] : [];
  return parts.map((part): Inline =>
    'text' in part
      ? { type: 'text', text: part.text }
      : { type: 'field', attrs: { name: part.field, fallback: part.fallback } },
  );
};

/** The paragraphs of a document, those of lists among them. */
export const paragraphsOf = (doc: MessageDoc): Paragraph[] =>
  doc.content.flatMap((block) =>
    block.type === 'paragraph' ? [block] : block.content.flatMap((item) => item.content),
  );

/** The conditions in a document. */
export const conditionsIn = (doc: MessageDoc): Selection[] =>
  paragraphsOf(doc).flatMap((p) => (p.attrs?.shownIf ? [p.attrs.shownIf] : []));
