import type { Block, Inline, MessageDoc, Paragraph } from './doc';

const linkOf = (node: Inline): string | null => {
  const mark = node.type === 'text' ? node.marks?.find((m) => m.type === 'link') : undefined;
  return mark?.type === 'link' ? mark.attrs.href : null;
};

/** A field as it is written in braces. */
const braces = (name: string, fallback: string | null) =>
  fallback == null ? `{${name}}` : `{${name} | ${fallback}}`;

function inlineText(node: Inline): string {
  switch (node.type) {
    case 'hardBreak':
      return '\n';
    case 'field':
      return braces(node.attrs.name, node.attrs.fallback);
    case 'text': {
      const href = linkOf(node);
      // A bare address says itself.
      return href == null || href === node.text || href === `mailto:${node.text}`
        ? node.text
        : `${node.text} (${href})`;
    }
  }
}

const paragraphText = (p: Paragraph): string => (p.content ?? []).map(inlineText).join('');

function blockText(block: Block): string {
  if (block.type === 'paragraph') return paragraphText(block);
  return block.content
    .map((item, i) => {
      const sign = block.type === 'bulletList' ? '- ' : `${i + 1}. `;
      const indent = ' '.repeat(sign.length);
      return `${sign}${item.content.map(paragraphText).join('\n').replaceAll('\n', `\n${indent}`)}`;
    })
    .join('\n');
}

/** A document as plain text: an empty line between paragraphs, the address of a link behind its words. */
export const docText = (doc: MessageDoc): string => doc.content.map(blockText).join('\n\n');

const ENTITIES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => ENTITIES[c]!);

function inlineHtml(node: Inline): string {
  switch (node.type) {
    case 'hardBreak':
      return '<br>';
    case 'field':
      return escapeHtml(braces(node.attrs.name, node.attrs.fallback));
    case 'text': {
      const href = linkOf(node);
      const bold = node.marks?.some((m) => m.type === 'bold') ?? false;
      const text = bold ? `<strong>${escapeHtml(node.text)}</strong>` : escapeHtml(node.text);
      return href == null ? text : `<a href="${escapeHtml(href)}">${text}</a>`;
    }
  }
}

const paragraphHtml = (p: Paragraph): string => `<p>${(p.content ?? []).map(inlineHtml).join('')}</p>`;

function blockHtml(block: Block): string {
  if (block.type === 'paragraph') return paragraphHtml(block);
  const tag = block.type === 'bulletList' ? 'ul' : 'ol';
  const items = block.content.map((item) => `<li>${item.content.map(paragraphHtml).join('')}</li>`);
  return `<${tag}>${items.join('')}</${tag}>`;
}

/** A document as HTML: these few elements, everything else as text. */
export const docHtml = (doc: MessageDoc): string => doc.content.map(blockHtml).join('\n');
