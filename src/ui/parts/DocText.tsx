import { Fragment, type ReactNode } from 'react';
import type { Block, Inline, MessageDoc, Paragraph } from '@/core/messages/doc';

/** The text of a message as its recipient reads it. */
export function DocText({ doc }: { readonly doc: MessageDoc }) {
  return (
    <div className="message-text">
      {doc.content.map((block, i) => (
        <Fragment key={i}>{blockOf(block)}</Fragment>
      ))}
    </div>
  );
}

function blockOf(block: Block): ReactNode {
  if (block.type === 'paragraph') return paragraphOf(block);
  const items = block.content.map((item, i) => <li key={i}>{item.content.map(paragraphOf)}</li>);
  return block.type === 'bulletList' ? <ul>{items}</ul> : <ol>{items}</ol>;
}

const paragraphOf = (p: Paragraph, key = 0) => (
  <p key={key}>
    {(p.content ?? []).map((node, i) => (
      <Fragment key={i}>{inlineOf(node)}</Fragment>
    ))}
  </p>
);

function inlineOf(node: Inline): ReactNode {
  if (node.type === 'hardBreak') return <br />;
  if (node.type === 'field') return `{${node.attrs.name}}`;
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
