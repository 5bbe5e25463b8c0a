import { Node } from '@tiptap/core';
import { Bold } from '@tiptap/extension-bold';
import { Document } from '@tiptap/extension-document';
import { HardBreak } from '@tiptap/extension-hard-break';
import { Link } from '@tiptap/extension-link';
import { BulletList, ListItem, ListKeymap, OrderedList } from '@tiptap/extension-list';
import { Paragraph } from '@tiptap/extension-paragraph';
import { Text } from '@tiptap/extension-text';
import { UndoRedo } from '@tiptap/extensions';
import { isLink } from '@/core/messages/docSchema';
import { isMergeField } from '@/core/messages/fields';
import { selectionSentence } from '@/core/people/selectionWords';
import type { ClassAbout } from '@/core/people/traitAbout';
import type { Selection } from '@/core/rules/selection';
import { readSelection } from '@/core/rules/selectionSchema';

/** A condition in an attribute of the page; null for none, or for what is none. */
function readCondition(text: string | null): Selection | null {
  try {
    return text ? readSelection(JSON.parse(text)) : null;
  } catch {
    return null;
  }
}

/** A merge field: one thing that is selected, moved and deleted as a whole. */
const Field = Node.create({
  name: 'field',
  group: 'inline',
  inline: true,
  atom: true,
  selectable: true,
  addAttributes: () => ({
    name: { default: null, parseHTML: (e: HTMLElement) => e.dataset.field },
    fallback: { default: null, parseHTML: (e: HTMLElement) => e.dataset.fallback ?? null },
  }),
  // What is pasted and names no field of ours stays text.
  parseHTML: () => [
    { tag: 'span[data-field]', getAttrs: (e) => isMergeField(e.dataset.field ?? '') && null },
  ],
  renderHTML: ({ node }) => {
    const { name, fallback } = node.attrs as { name: string; fallback: string | null };
    return [
      'span',
      {
        'data-field': name,
        ...(fallback == null ? {} : { 'data-fallback': fallback }),
        class: 'field-chip',
      },
      fallback == null ? name : `${name} | ${fallback}`,
    ];
  },
});

/** A paragraph that may be for those only of whom a condition holds: it says so above itself. */
const Shown = (course: ClassAbout) =>
  Paragraph.extend({
    addAttributes: () => ({
      shownIf: {
        default: null,
        keepOnSplit: false,
        parseHTML: (e: HTMLElement) => readCondition(e.dataset.if ?? null),
        renderHTML: ({ shownIf }: { shownIf?: Selection | null }) =>
          shownIf
            ? {
                'data-if': JSON.stringify(shownIf),
                'data-says': `Only for: ${selectionSentence(shownIf, course)}`,
                class: 'shown-if',
              }
            : {},
      },
    }),
  });

/**
 * What a message is made of: plain paragraphs, bold, lists, links; and, but for the text of one person alone, merge
 * fields and conditions.
 */
export const extensionsFor = (course: ClassAbout, plain: boolean) => [
  Document,
  plain ? Paragraph : Shown(course),
  Text,
  HardBreak,
  Bold,
  BulletList,
  OrderedList,
  ListItem.extend({ content: 'paragraph+' }),
  ListKeymap,
  Link.configure({
    openOnClick: false,
    autolink: true,
    defaultProtocol: 'https',
    isAllowedUri: (url) => isLink(url),
    HTMLAttributes: { target: null, rel: null },
  }),
  UndoRedo,
  ...(plain ? [] : [Field]),
];
