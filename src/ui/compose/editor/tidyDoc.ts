import type { JSONContent } from '@tiptap/core';
import type { MessageDoc } from '@/core/messages/doc';
import { docFault, readDoc } from '@/core/messages/docSchema';

/** The text in the editor as it is kept: without what the editor notes for itself. What cannot be stays as it is, to be said. */
export const tidyDoc = (json: JSONContent): MessageDoc => {
  // The editor keeps to the same kinds of nodes; only lengths and links can be at fault.
  return docFault(json) == null ? readDoc(json) : (json as unknown as MessageDoc);
};
