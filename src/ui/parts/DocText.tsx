import { Fragment, type ReactNode } from 'react';
import type { Block, Inline, MessageDoc, Paragraph } from '@/core/messages/doc';

/** How merge fields that are not filled are shown: by their names in braces, or as they look where one writes. */
type Fields = 'braces' | 'chips';

/** The text of a message as its recipient reads it. */
export function DocText({ doc, fields = 'braces' }: { readonly doc: MessageDoc; readonly fields?: Fields }) {
  return (
    <div className="message-text">
      {doc.content.map((block, i) => (
        <Fragment key={i}>{blockOf(block, fields)}</Fragment>
      ))}
    </div>
  );
}

function blockOf(block: Block, fields: Fields): ReactNode {
  if (block.type === 'paragraph') return paragraphOf(block, fields);
  const items = block.content.map((item, i) => (
    <li key={i}>{item.content.map((p, at) => paragraphOf(p, fields, at))}</li>
  ));
  return block.type === 'bulletList' ? <ul>{items}</ul> : <ol>{items}</ol>;
}

const paragraphOf = (p: Paragraph, fields: Fields, key = 0) => (
  <p key={key}>
    {(p.content ?? []).map((node, i) => (
      <Fragment key={i}>{inlineOf(node, fields)}</Fragment>
    ))}
  </p>
);

function inlineOf(node: Inline, fields: Fields): ReactNode {
  if (node.type === 'hardBreak') return <br />;
  if (node.type === 'field') {
    const { name, fallback } = node.attrs;
    if (fields === 'braces') return `{${name}}`;
    return <span className="field-chip">{fallback == null ? name : `${name} | ${fallback}`}</span>;
  }
  const link = node.marks?.find((m) => m.type === 'link');
  const text = node.marks?.some((m) => m.type === 'bold') ? <strong>{node.text}</strong> : node.text;
  return link?.type === 'link' ? (
    <a href={link.attrs.href} rel="noreferrer nofollow" className="text-teal underline">
      {text}
    </a>
  ) : (
    text
  );
}
