import type { SavedAudience, TraitCells } from '../people/savedAudience';
import type { ClassAbout } from '../people/traitAbout';
import type { CourseHead } from './courseHead';

/** A saved audience with how many are in it now. */
export interface AudienceLine {
  readonly id: number;
  readonly name: string;
  readonly sentence: string;
  readonly by: string | null;
  readonly match: number;
  readonly unknown: number;
  /** What keeps it from being judged, in words. */
  readonly faults: readonly string[];
}

export interface AudiencesView {
  readonly course: CourseHead;
  readonly tray: readonly number[];
  readonly trayFrom: string | null;
  readonly about: ClassAbout;
  /** The active students, by family name: the order of the cells. */
  readonly people: readonly { readonly id: number; readonly name: string; readonly section: string | null }[];
  readonly saved: readonly AudienceLine[];
  /** What the page begins with: a saved one, a condition from elsewhere, or nothing yet. */
  readonly open: SavedAudience & { readonly id: number | null; readonly name: string };
  /** The cells of the traits that it asks for. */
  readonly cells: Readonly<Record<string, TraitCells>>;
}
