import { docOf, type MessageDoc } from '@/core/messages/doc';
import { readDoc } from '@/core/messages/docSchema';

/** The text of a message or a copy as a document; of one that was written before there were any, from its plain text. */
export const docIn = ({ doc, body }: { readonly doc: unknown; readonly body: string }): MessageDoc =>
  doc == null ? { type: 'doc', content: plain(body) } : readDoc(doc);

/** Plain text as it stands: what looks like a field in it is none. */
const plain = (body: string): MessageDoc['content'] => docOf(body.replaceAll('{', '{{')).content;
