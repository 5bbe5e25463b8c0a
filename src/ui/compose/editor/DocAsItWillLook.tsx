import type { MessageDoc } from '@/core/messages/doc';
import { DocText } from '../../parts/DocText';

/** A text as its editor will show it, as long as that is not there. */
export const DocAsItWillLook = ({ doc }: { readonly doc: MessageDoc }) => (
  <div aria-hidden className="min-h-56 px-3 py-2">
    <DocText doc={doc} fields="chips" />
  </div>
);
