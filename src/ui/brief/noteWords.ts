import type { NoteKind } from '@/core/acts/act';

export const NOTE_WORDS: Record<NoteKind, string> = { note: 'Note', talk: 'Talk', call: 'Call' };
