import type { EventKind } from '../../course/kinds';
import { isResource, type ActivityKind } from '../../course/kinds';

const ADL = 'http://adlnet.gov/expapi/verbs/';
const W3ID = 'https://w3id.org/xapi/adl/verbs/';
const VIDEO = 'https://w3id.org/xapi/video/verbs/';
const STREAMS = 'http://activitystrea.ms/schema/1.0/';

/** The verb by which a statement takes another back (xAPI 1.0.3, part two, 2.3.2). */
export const VOIDED = `${ADL}voided`;

/** An item was answered. */
export const ANSWERED = `${ADL}answered`;

interface Meaning {
  readonly kind: EventKind;
  /** The work is handed in by it (on anything but a page, a video or an article). */
  readonly handsIn?: true;
}

/**
 * What verbs mean to us. The ADL vocabulary (ADL verbs) and cmi5 (quartz, 9.3: launched, initialized, completed, passed,
 * failed, abandoned, waived, terminated, satisfied), the video profile, and those of the Activity Streams vocabulary
 * in common use. Any other verb is `other`.
 */
const MEANINGS: Readonly<Record<string, Meaning>> = {
  [`${W3ID}logged-in`]: { kind: 'login' },
  [`${ADL}experienced`]: { kind: 'view' },
  [`${ADL}launched`]: { kind: 'view' },
  [`${ADL}initialized`]: { kind: 'view' },
  [`${ADL}resumed`]: { kind: 'view' },
  [`${ADL}progressed`]: { kind: 'view' },
  [`${STREAMS}open`]: { kind: 'view' },
  [`${STREAMS}read`]: { kind: 'view' },
  [`${STREAMS}watch`]: { kind: 'watch' },
  [`${VIDEO}initialized`]: { kind: 'watch' },
  [`${VIDEO}played`]: { kind: 'watch' },
  [`${VIDEO}paused`]: { kind: 'watch' },
  [`${VIDEO}seeked`]: { kind: 'watch' },
  [`${ADL}interacted`]: { kind: 'practise' },
  [`${ADL}attempted`]: { kind: 'attempt' },
  [ANSWERED]: { kind: 'attempt' },
  [`${ADL}completed`]: { kind: 'submit', handsIn: true },
  [`${ADL}passed`]: { kind: 'submit', handsIn: true },
  [`${ADL}failed`]: { kind: 'submit', handsIn: true },
  [`${ADL}scored`]: { kind: 'submit', handsIn: true },
  [`${STREAMS}submit`]: { kind: 'submit', handsIn: true },
  [`${ADL}commented`]: { kind: 'post' },
  [`${ADL}responded`]: { kind: 'post' },
  [`${ADL}asked`]: { kind: 'post' },
  [`${ADL}shared`]: { kind: 'post' },
};

/** Our kind for a verb on an activity of a kind (null if it is none of the course), and whether that hands it in. */
export function meaningOf(verb: string, on: ActivityKind | null): { kind: EventKind; handsIn: boolean } {
  const meaning = MEANINGS[verb] ?? { kind: 'other' as const };
  // A page or a video that was completed was looked at to its end.
  if (meaning.kind === 'submit' && on && isResource(on))
    return { kind: on === 'video' ? 'watch' : 'view', handsIn: false };
  return { kind: meaning.kind, handsIn: meaning.handsIn === true && on != null };
}

/** The verb we write for each kind of our own. */
export const VERB_OF: Readonly<Record<EventKind, string>> = {
  login: `${W3ID}logged-in`,
  view: `${ADL}experienced`,
  watch: `${VIDEO}played`,
  practise: `${ADL}interacted`,
  attempt: `${ADL}attempted`,
  submit: `${STREAMS}submit`,
  post: `${ADL}commented`,
  other: `${STREAMS}access`,
};
