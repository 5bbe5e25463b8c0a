import type { MessageDoc } from '@/core/messages/doc';
import type { ClassAbout } from '@/core/people/traitAbout';

export interface EditorProps {
  readonly label: string;
  /** What it begins with; later changes are its own. */
  readonly doc: MessageDoc;
  readonly course: ClassAbout;
  /** The text of one person alone: nothing in it is filled in or left out. */
  readonly plain?: boolean;
  readonly onChange: (doc: MessageDoc) => void;
  readonly describedBy?: string;
}
