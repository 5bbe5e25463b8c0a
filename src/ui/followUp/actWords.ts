import type { ActKind } from '@/core/acts/act';

/** An act in a word, as a follow-up names it. */
export const ACT_WORDS: Readonly<Record<ActKind, string>> = {
  'put off': 'Put off',
  seen: 'Seen',
  messaged: 'Message',
  planned: 'Message with a plan',
  note: 'Note',
  talk: 'Talk',
  call: 'Call',
  'by rule': 'Message by a rule',
  paired: 'Asked a helper',
};
