import type { Selection } from '../rules/selection';
import type { Block, Inline, ListItem, MessageDoc, Paragraph } from './doc';
import type { MergeField, MergeValues } from './fields';

export interface Filled {
  /** Without fields and conditions. */
  readonly doc: MessageDoc;
  /** Fields that were empty and had no fallback: the text has a hole there. */
  readonly holes: readonly MergeField[];
}

/**
 * A document as one recipient reads it: fields filled, paragraphs left out whose condition does not hold of them. What is
 * not known of somebody does not hold. A list that has lost all of its points is left out.
 *
 * @param holds whether a condition holds of the recipient
 */
export function fillDoc(doc: MessageDoc, values: MergeValues, holds: (where: Selection) => boolean): Filled {
  const holes: MergeField[] = [];
  const inline = (node: Inline): Inline[] => {
    if (node.type !== 'field') return [node];
    const { name, fallback } = node.attrs;
    const value = values[name];
    const text = value != null && value !== '' ? value : fallback;
    if (text == null) holes.push(name);
    return text ? [{ type: 'text', text }] : [];
  };
  const paragraph = (p: Paragraph): Paragraph[] => {
    if (p.attrs?.shownIf && !holds(p.attrs.shownIf)) return [];
    const content = joined((p.content ?? []).flatMap(inline));
    return [content.length > 0 ? { type: 'paragraph', content } : { type: 'paragraph' }];
  };
  const block = (b: Block): Block[] => {
    if (b.type === 'paragraph') return paragraph(b);
    const items = b.content.flatMap((item): ListItem[] => {
      const content = item.content.flatMap(paragraph);
      return content.length > 0 ? [{ type: 'listItem', content }] : [];
    });
    return items.length > 0 ? [{ type: b.type, content: items }] : [];
  };
  return { doc: { type: 'doc', content: doc.content.flatMap(block) }, holes };
}

/** Texts that stand beside one another, and look alike, as one. */
function joined(nodes: readonly Inline[]): Inline[] {
  const out: Inline[] = [];
  for (const node of nodes) {
    const last = out.at(-1);
    if (node.type === 'text' && !node.marks?.length && last?.type === 'text' && !last.marks?.length)
      out[out.length - 1] = { type: 'text', text: last.text + node.text };
    else out.push(node);
  }
  return out;
}
