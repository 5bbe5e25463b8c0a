import { describe, expect, it } from 'vitest';
import { readStatement, type SpokenVersion } from './statement';

/**
 * Statements by the sections of the xAPI specification 1.0.3, part two (“Experience API - Data”), and of the standards
 * that it rests on: RFC 5646 for languages, RFC 3987 for IRIs, ISO 8601 for durations and instants, RFC 9562 for UUIDs.
 * IEEE 9274.1.1 is named where version 2.0.0 adds something.
 */
interface Case {
  readonly section: string;
  readonly what: string;
  readonly statement: unknown;
  readonly taken: boolean;
  readonly version?: SpokenVersion;
}

const ADL = 'http://adlnet.gov/expapi/verbs/';
const ID = '6690e6c9-3ef0-4ed3-8b37-7f3964730bee';
const MBOX = { mbox: 'mailto:ida@x.example' };
const ACTIVITY = { id: 'https://x.example/works/q1' };
const base = { id: ID, actor: MBOX, verb: { id: `${ADL}experienced` }, object: ACTIVITY };
const sub = (more: object = {}) => ({
  objectType: 'SubStatement',
  actor: MBOX,
  verb: base.verb,
  object: ACTIVITY,
  ...more,
});
const without = (value: object, key: string) =>
  Object.fromEntries(Object.entries(value).filter(([k]) => k !== key));

const cases: Case[] = [];
const add = (taken: boolean, section: string, what: string, statement: unknown, version?: SpokenVersion) =>
  cases.push({ section, what, statement, taken, version });
const good = add.bind(null, true);
const bad = add.bind(null, false);
/** The same value in several places of a statement. */
const everywhere = (
  places: Readonly<Record<string, (value: unknown) => unknown>>,
  values: readonly (readonly [boolean, string, string, unknown])[],
) => {
  for (const [place, put] of Object.entries(places))
    for (const [taken, section, what, value] of values)
      add(taken, section, `${what}, as ${place}`, put(value));
};

// 2.2: formatting of statements.
good('2.2', 'the least there is', without(base, 'id'));
for (const key of ['actor', 'verb', 'object']) bad('2.2', `no ${key}`, without(base, key));
for (const [what, value] of Object.entries({ text: 'x', number: 1, list: [], nothing: null, true: true }))
  bad('2.2', `a ${what} for a statement`, value);
for (const key of [
  'actor',
  'verb',
  'object',
  'id',
  'result',
  'context',
  'timestamp',
  'attachments',
  'version',
])
  bad('2.2', `${key} is null`, { ...base, [key]: null });
for (const key of ['Actor', 'verbs', 'extra', 'extensions', 'objectType'])
  bad('2.2', `a property ${key}`, { ...base, [key]: {} });
for (const [key, value] of Object.entries({
  actor: 'Ida',
  verb: 'experienced',
  object: 'q1',
  result: 'passed',
  context: [],
  attachments: {},
  timestamp: 5,
}))
  bad('2.2', `${key} of another type`, { ...base, [key]: value });
bad('2.2', 'null deep inside', { ...base, result: { score: { raw: null } } });
good('2.2', 'null inside of extensions', { ...base, context: { extensions: { 'x:e': null } } });

// 2.4.1: id, a UUID (RFC 9562: any version and variant).
const UUIDS: readonly (readonly [boolean, string, string, unknown])[] = [
  [true, '2.4.1', 'version 1', 'c232ab00-9414-11ec-b3c8-9f6bdeced846'],
  [true, '2.4.1', 'version 4', '919108f7-52d1-4320-9bac-f847db4148a8'],
  [true, '2.4.1', 'version 6', '1ec9414c-232a-6b00-b3c8-9f6bdeced846'],
  [true, '2.4.1', 'version 7', '017f22e2-79b0-7cc3-98c4-dc0c0c07398f'],
  [true, '2.4.1', 'capitals', '919108F7-52D1-4320-9BAC-F847DB4148A8'],
  [true, '2.4.1', 'another variant', '919108f7-52d1-4320-1bac-f847db4148a8'],
  [true, '2.4.1', 'nil', '00000000-0000-0000-0000-000000000000'],
  [false, '2.4.1', 'one digit short', '919108f7-52d1-4320-9bac-f847db4148a'],
  [false, '2.4.1', 'a letter that is no digit', '919108f7-52d1-4320-9bac-f847db4148ag'],
  [false, '2.4.1', 'no hyphens', '919108f752d143209bacf847db4148a8'],
  [false, '2.4.1', 'braces', '{919108f7-52d1-4320-9bac-f847db4148a8}'],
  [false, '2.4.1', 'a number', 5],
];
everywhere(
  {
    'the id': (id) => ({ ...base, id }),
    'the registration': (registration) => ({ ...base, context: { registration } }),
    'the statement referred to': (id) => ({ ...base, object: { objectType: 'StatementRef', id } }),
  },
  UUIDS,
);

// 2.4.2: actors.
const AGENTS: readonly (readonly [boolean, string, string, unknown])[] = [
  [true, '2.4.2.1', 'an address', MBOX],
  [true, '2.4.2.1', 'an agent that says so', { objectType: 'Agent', ...MBOX }],
  [true, '2.4.2.3', 'a hash', { mbox_sha1sum: 'ebd31e95054c018b10727ccffd2ef2ec3a016ee9' }],
  [true, '2.4.2.3', 'an OpenID', { openid: 'https://ida.example/' }],
  [true, '2.4.2.4', 'an account', { account: { homePage: 'https://x.example', name: 'ida' } }],
  [false, '2.4.2.1', 'nobody', {}],
  [false, '2.4.2.1', 'a name alone', { name: 'Ida' }],
  [false, '2.4.2.3', 'two identifiers', { ...MBOX, openid: 'https://ida.example/' }],
  [false, '2.4.2.3', 'an address without its scheme', { mbox: 'ida@x.example' }],
  [false, '2.4.2.3', 'a scheme without an address', { mbox: 'mailto:ida' }],
  [false, '2.4.2.3', 'a hash of another length', { mbox_sha1sum: 'ebd31e95' }],
  [false, '2.4.2.3', 'an OpenID that is no IRI', { openid: 'ida' }],
  [false, '2.4.2.4', 'an account without a home', { account: { name: 'ida' } }],
  [false, '2.4.2.4', 'an account without a name', { account: { homePage: 'https://x.example' } }],
  [false, '2.4.2.4', 'an account of a home that is no IRI', { account: { homePage: 'x', name: 'ida' } }],
  [false, '2.4.2.4', 'an account with more', { account: { homePage: 'x:y', name: 'ida', id: 1 } }],
  [false, '2.4.2.1', 'an agent with more', { ...MBOX, age: 30 }],
  [false, '2.4.2.1', 'an unknown objectType', { objectType: 'Person', ...MBOX }],
  [false, '2.4.2.1', 'a name that is no text', { ...MBOX, name: 5 }],
];
const GROUPS: readonly (readonly [boolean, string, string, unknown])[] = [
  [true, '2.4.2.2', 'a group of members', { objectType: 'Group', member: [MBOX] }],
  [true, '2.4.2.2', 'a group with an identifier', { objectType: 'Group', ...MBOX }],
  [true, '2.4.2.2', 'both', { objectType: 'Group', ...MBOX, name: 'Watch', member: [MBOX] }],
  [false, '2.4.2.2', 'a group of nobody', { objectType: 'Group', member: [] }],
  [false, '2.4.2.2', 'a group that says nothing', { objectType: 'Group', name: 'Watch' }],
  [
    false,
    '2.4.2.2',
    'a group of a group',
    { objectType: 'Group', member: [{ objectType: 'Group', ...MBOX }] },
  ],
  [false, '2.4.2.2', 'members of an agent', { ...MBOX, member: [MBOX] }],
  [false, '2.4.2.2', 'a group of two identifiers', { objectType: 'Group', ...MBOX, openid: 'x:y' }],
  [false, '2.4.2.2', 'members that are no list', { objectType: 'Group', member: MBOX }],
];
everywhere(
  {
    actor: (actor) => ({ ...base, actor }),
    'actor of the inner statement': (actor) => ({ ...base, object: sub({ actor }) }),
    instructor: (instructor) => ({ ...base, context: { instructor } }),
  },
  [...AGENTS, ...GROUPS],
);
everywhere({ member: (member) => ({ ...base, actor: { objectType: 'Group', member: [member] } }) }, AGENTS);
for (const [taken, section, what, value] of GROUPS.slice(0, 6))
  add(taken, section, `${what}, as team`, { ...base, context: { team: value } });
bad('2.4.6', 'an agent as team', { ...base, context: { team: { objectType: 'Agent', ...MBOX } } });
for (const [taken, section, what, value] of AGENTS)
  // Without a word on what it is, an object is an activity.
  add(taken, section, `${what}, as object`, {
    ...base,
    object: { objectType: 'Agent', ...(value as object) },
  });
cases.splice(
  cases.findIndex((c) => c.what === 'an unknown objectType, as object'),
  1,
);
bad('2.4.4.2', 'an unknown objectType, as object', { ...base, object: { objectType: 'Person', ...MBOX } });
bad('2.4.4', 'an unknown objectType with an id', { ...base, object: { objectType: 'Course', ...ACTIVITY } });
bad('2.4.4', 'an objectType in another case', { ...base, object: { objectType: 'activity', ...ACTIVITY } });

// 2.4.3 and RFC 3987: verbs and other IRIs.
const IRIS: readonly (readonly [boolean, string, string, unknown])[] = [
  [true, '4.1', 'http', 'http://x.example/a?b=c#d'],
  [true, '4.1', 'urn', 'urn:uuid:919108f7-52d1-4320-9bac-f847db4148a8'],
  [true, '4.1', 'tag', 'tag:x.example,2026:works/q1'],
  [true, '4.1', 'mailto', 'mailto:ida@x.example'],
  [true, '4.1', 'a host without a domain', 'http://localhost:3000/works/q1'],
  [true, '4.1', 'letters of any script', 'https://x.example/werke/prüfung-äöü-試験'],
  [false, '4.1', 'no scheme', 'x.example/works'],
  [false, '4.1', 'nothing', ''],
  [false, '4.1', 'a space', 'https://x.example/a b'],
  [false, '4.1', 'a bracket', 'https://x.example/<a>'],
  [false, '4.1', 'a number', 7],
];
everywhere(
  {
    'a verb': (id) => ({ ...base, verb: { id } }),
    'an activity': (id) => ({ ...base, object: { id } }),
    'the type of an activity': (type) => ({ ...base, object: { ...ACTIVITY, definition: { type } } }),
    'more about an activity': (moreInfo) => ({ ...base, object: { ...ACTIVITY, definition: { moreInfo } } }),
    'a parent': (id) => ({ ...base, context: { contextActivities: { parent: [{ id }] } } }),
  },
  IRIS,
);
for (const [taken, section, what, key] of IRIS.slice(0, 10))
  add(taken, section, `${what}, as the name of an extension`, {
    ...base,
    result: { extensions: { [String(key)]: 1 } },
  });
bad('2.4.3', 'a verb without id', { ...base, verb: { display: { en: 'did' } } });
bad('2.4.3', 'a verb with more', { ...base, verb: { ...base.verb, past: true } });
const voided = { id: `${ADL}voided` };
good('2.3.2', 'voids a statement', { ...base, verb: voided, object: { objectType: 'StatementRef', id: ID } });
bad('2.3.2', 'voids an activity', { ...base, verb: voided });
bad('2.3.2', 'voids an agent', { ...base, verb: voided, object: { objectType: 'Agent', ...MBOX } });
bad('2.3.2', 'voids a statement inside of it', { ...base, verb: voided, object: sub() });
bad('2.3.2', 'voids inside of it', { ...base, object: sub({ verb: voided }) });

// 4.2 and RFC 5646: language tags; the examples of its appendix A.
for (const tag of (
  'de fr ja i-enochian zh-Hant zh-Hans sr-Cyrl sr-Latn zh-cmn-Hans-CN cmn-Hans-CN zh-yue-HK yue-HK zh-Hans-CN ' +
  'sr-Latn-RS sl-rozaj sl-rozaj-biske sl-nedis de-CH-1901 sl-IT-nedis hy-Latn-IT-arevela de-DE en-US es-419 ' +
  'de-CH-x-phonebk az-Arab-x-AZE-derbend x-whatever qaa-Qaaa-QM-x-southern de-Qaaa sr-Latn-QM sr-Qaaa-RS ' +
  'en-US-u-islamcal zh-CN-a-myext-x-private en-a-myext-b-another EN und i-klingon zh-min-nan en-GB-oed'
).split(' '))
  good('RFC 5646, A', tag, { ...base, verb: { ...base.verb, display: { [tag]: 'did' } } });
for (const tag of [
  'de-419-DE',
  'a-DE',
  '',
  'e',
  'english language',
  'en_US',
  'en-',
  '-en',
  'abcdefghi',
  'en-a',
  'x-',
])
  bad('RFC 5646, 2.1', tag || 'nothing', { ...base, verb: { ...base.verb, display: { [tag]: 'did' } } });
const MAPS: readonly (readonly [boolean, string, string, unknown])[] = [
  [true, '4.2', 'two languages', { en: 'Tides', 'pt-PT': 'Marés' }],
  [true, '4.2', 'no language', {}],
  [false, '4.2', 'text alone', 'Tides'],
  [false, '4.2', 'a list', ['Tides']],
  [false, '4.2', 'a number for text', { en: 5 }],
];
everywhere(
  {
    'the name of an activity': (name) => ({ ...base, object: { ...ACTIVITY, definition: { name } } }),
    'its description': (description) => ({ ...base, object: { ...ACTIVITY, definition: { description } } }),
    'the display of a verb': (display) => ({ ...base, verb: { ...base.verb, display } }),
  },
  MAPS,
);
for (const tag of ['en-GB', 'x-whatever', 'i-klingon'])
  good('2.4.6', `language ${tag}`, { ...base, context: { language: tag } });
for (const tag of ['en_GB', '', 5]) bad('2.4.6', `language ${tag}`, { ...base, context: { language: tag } });

// 2.4.4.1: activities and interactions.
const interacts = (more: object) => ({ ...base, object: { ...ACTIVITY, definition: more } });
for (const interactionType of 'true-false choice fill-in long-fill-in matching performance sequencing likert numeric other'.split(
  ' ',
))
  good('2.4.4.1', interactionType, interacts({ interactionType, correctResponsesPattern: ['a'] }));
bad('2.4.4.1', 'another interaction', interacts({ interactionType: 'essay' }));
for (const key of ['choices', 'scale', 'source', 'target', 'steps']) {
  const list = [{ id: 'a' }, { id: 'b', description: { en: 'B' } }];
  good('2.4.4.1', key, interacts({ interactionType: 'choice', [key]: list }));
  bad('2.4.4.1', `${key} without interactionType`, interacts({ [key]: list }));
  bad(
    '2.4.4.1',
    `${key} with an id twice`,
    interacts({ interactionType: 'choice', [key]: [...list, { id: 'a' }] }),
  );
  bad(
    '2.4.4.1',
    `${key} without ids`,
    interacts({ interactionType: 'choice', [key]: [{ description: {} }] }),
  );
  bad('2.4.4.1', `${key} that is no list`, interacts({ interactionType: 'choice', [key]: { id: 'a' } }));
}
bad(
  '2.4.4.1',
  'a pattern that is no list',
  interacts({ interactionType: 'choice', correctResponsesPattern: 'a' }),
);
bad(
  '2.4.4.1',
  'a pattern of numbers',
  interacts({ interactionType: 'numeric', correctResponsesPattern: [1] }),
);
bad('2.4.4.1', 'an activity with more', { ...base, object: { ...ACTIVITY, title: 'x' } });
bad('2.4.4.1', 'a definition with more', interacts({ title: 'x' }));
bad('2.4.4.1', 'an activity without id', { ...base, object: { definition: {} } });

// 2.4.4.3: inner statements and references.
good('2.4.4.3', 'an inner statement', { ...base, object: sub() });
good('2.4.4.3', 'an inner statement about a statement', {
  ...base,
  object: sub({ object: { objectType: 'StatementRef', id: ID } }),
});
for (const key of ['actor', 'verb', 'object'])
  bad('2.4.4.3', `an inner statement without ${key}`, { ...base, object: without(sub(), key) });
for (const [key, value] of Object.entries({
  id: ID,
  stored: '2026-11-02T10:00:00Z',
  version: '1.0.3',
  authority: MBOX,
  object: sub(),
}))
  bad('2.4.4.3', `an inner statement with ${key}`, { ...base, object: sub({ [key]: value }) });
bad('2.4.4.3', 'a reference with more', {
  ...base,
  object: { objectType: 'StatementRef', id: ID, verb: base.verb },
});
bad('2.4.4.3', 'a reference without id', { ...base, object: { objectType: 'StatementRef' } });

// 2.4.5: results.
const scored = (score: unknown) => ({ ...base, result: { score } });
for (const score of [
  { scaled: 0 },
  { scaled: -1 },
  { scaled: 1 },
  { raw: 5 },
  { raw: 5, min: 5, max: 6 },
  {},
])
  good('2.4.5.1', JSON.stringify(score), scored(score));
for (const score of [
  { scaled: 1.01 },
  { scaled: -1.01 },
  { scaled: '1' },
  { raw: 7, max: 6 },
  { raw: 4, min: 5 },
  { min: 6, max: 5 },
  { min: 5, max: 5 },
  { points: 5 },
  5,
])
  bad('2.4.5.1', JSON.stringify(score), scored(score));
for (const [key, value] of Object.entries({
  success: 'yes',
  completion: 1,
  response: 5,
  grade: 'A',
  extensions: [],
}))
  bad('2.4.5', `${key} ${JSON.stringify(value)}`, { ...base, result: { [key]: value } });
for (const duration of [
  'PT0S',
  'PT5M30S',
  'P4W',
  'P1.5W',
  'P1Y',
  'P2M',
  'P1Y2M10DT2H30M',
  'P1D',
  'PT16559.14S',
  'PT4H35M59,14S',
  'P1000Y',
  'PT99999999999999999999S',
  'PT1000000H',
])
  good('4.6', duration, { ...base, result: { duration } });
for (const duration of [
  '',
  'P',
  'PT',
  'P1DT',
  '-P1D',
  'PT-5M',
  '5M',
  'PT5',
  'P1H',
  'PT1.5H30M',
  'p1d',
  'P0003-06-04T12:30:05',
  90,
])
  bad('4.6', String(duration) || 'nothing', { ...base, result: { duration } });

// 2.4.6: context.
good('2.4.6', 'platform and revision of an activity', { ...base, context: { platform: 'p', revision: '2' } });
for (const key of ['platform', 'revision']) {
  const about = (object: unknown) => ({ ...base, object, context: { [key]: 'x' } });
  bad('2.4.6', `${key} of an agent`, about({ objectType: 'Agent', ...MBOX }));
  bad('2.4.6', `${key} of a group`, about({ objectType: 'Group', ...MBOX }));
  bad('2.4.6', `${key} of a reference`, about({ objectType: 'StatementRef', id: ID }));
  bad('2.4.6', `${key} of an agent, inside`, {
    ...base,
    object: sub({ object: { objectType: 'Agent', ...MBOX }, context: { [key]: 'x' } }),
  });
  bad('2.4.6', `${key} that is no text`, { ...base, context: { [key]: 5 } });
}
for (const key of ['parent', 'grouping', 'category', 'other']) {
  good('2.4.6.2', `one ${key}`, { ...base, context: { contextActivities: { [key]: ACTIVITY } } });
  good('2.4.6.2', `a list of ${key}`, { ...base, context: { contextActivities: { [key]: [ACTIVITY] } } });
  bad('2.4.6.2', `an agent as ${key}`, {
    ...base,
    context: { contextActivities: { [key]: [{ objectType: 'Agent', ...MBOX }] } },
  });
}
bad('2.4.6.2', 'another relation', { ...base, context: { contextActivities: { child: [ACTIVITY] } } });
bad('2.4.6', 'a context with more', { ...base, context: { room: 'x' } });
bad('2.4.6', 'a statement that is an activity', { ...base, context: { statement: ACTIVITY } });
good('2.4.6', 'a statement', { ...base, context: { statement: { objectType: 'StatementRef', id: ID } } });

// 2.4.7, 4.5 and ISO 8601: instants.
for (const timestamp of [
  '2026-11-02T10:00:00Z',
  '2026-11-02T10:00:00.123456Z',
  '2026-11-02T10:00:00,5Z',
  '2026-11-02T10:00Z',
  '2026-11-02T10:00:00+05',
  '2026-11-02T10:00:00+05:30',
  '2026-11-02T10:00:00-0330',
  '1850-01-01T00:00:00Z',
  '9999-12-31T23:59:59Z',
  '0100-01-01T00:00:00+18:00',
])
  good('4.5', timestamp, { ...base, timestamp });
for (const timestamp of [
  '2026-11-02T10:00:00-00:00',
  '2026-11-02T10:00:00-0000',
  '2026-11-02T10:00:00-00',
  '2026-11-02T10:00:00',
  '2026-11-02',
  '2026-02-29T10:00:00Z',
  '2026-13-01T10:00:00Z',
  '2026-11-02T25:00:00Z',
  '9999-12-31T23:59:59-01:00',
  'yesterday',
  '',
])
  bad('4.5', timestamp || 'nothing', { ...base, timestamp });
bad('2.4.8', 'stored with the offset -00:00', { ...base, stored: '2026-11-02T10:00:00-00:00' });
good('2.4.8', 'stored', { ...base, stored: '2026-11-02T10:00:00Z' });

// 2.4.9 and 2.4.10: authority and version.
good('2.4.9', 'an agent', { ...base, authority: MBOX });
good('2.4.9', 'an application and its user', {
  ...base,
  authority: { objectType: 'Group', member: [MBOX, { account: { homePage: 'x:y', name: 'app' } }] },
});
bad('2.4.9', 'a group of one', { ...base, authority: { objectType: 'Group', member: [MBOX] } });
bad('2.4.9', 'a group of three', { ...base, authority: { objectType: 'Group', member: [MBOX, MBOX, MBOX] } });
for (const version of ['1.0.0', '1.0.3', '1.0.15']) good('2.4.10', version, { ...base, version }, '1.0.3');
for (const version of ['0.95', '1.1.0', '2.0.0', '3', 'one'])
  bad('2.4.10', version, { ...base, version }, '1.0.3');
good('2.4.10', '2.0.0 by its own request', { ...base, version: '2.0.0' }, '2.0.0');

// 2.4.11: attachments.
const attached = (more: object, left?: string) => ({
  ...base,
  attachments: [
    Object.fromEntries(
      Object.entries({
        usageType: 'https://x.example/log',
        display: { en: 'Log' },
        contentType: 'text/plain; charset=ascii',
        length: 3,
        sha2: 'a'.repeat(64),
        fileUrl: 'https://x.example/log.txt',
        ...more,
      }).filter(([key]) => key !== left),
    ),
  ],
});
good('2.4.11', 'an attachment', attached({}));
good('2.4.11', 'of no bytes', attached({ length: 0 }));
good('2.4.11', 'of an inner statement', { ...base, object: sub({ attachments: attached({}).attachments }) });
for (const key of ['usageType', 'display', 'contentType', 'length', 'sha2'])
  bad('2.4.11', `without ${key}`, attached({}, key));
for (const [key, value] of Object.entries({
  length: -1,
  size: 3,
  contentType: 'text',
  display: 'Log',
  usageType: 'log',
  fileUrl: 'log.txt',
  sha2: 5,
}))
  bad('2.4.11', `${key} ${JSON.stringify(value)}`, attached({ [key]: value }));
bad('2.4.11', 'of half a byte', attached({ length: 0.5 }));
bad('2.4.11', 'a header inside of its type', attached({ contentType: 'text/plain\r\nX-Y: z' }));

// IEEE 9274.1.1, 4.2.7: what version 2.0.0 adds.
const agents = (more: object = {}) => ({
  ...base,
  context: { contextAgents: [{ objectType: 'contextAgent', agent: MBOX, ...more }] },
});
const groups = {
  ...base,
  context: {
    contextGroups: [
      { objectType: 'contextGroup', group: { objectType: 'Group', member: [MBOX] }, relevantTypes: ['x:y'] },
    ],
  },
};
good('IEEE 4.2.7', 'agents of the context', agents(), '2.0.0');
good('IEEE 4.2.7', 'with their types', agents({ relevantTypes: ['x:y'] }), '2.0.0');
good('IEEE 4.2.7', 'groups of the context', groups, '2.0.0');
bad('IEEE 4.2.7', 'agents of the context under 1.0.3', agents(), '1.0.3');
bad('IEEE 4.2.7', 'groups of the context under 1.0.3', groups, '1.0.3');
bad('IEEE 4.2.7', 'an agent that is none', agents({ agent: {} }), '2.0.0');
bad('IEEE 4.2.7', 'an agent of another objectType', agents({ objectType: 'Agent' }), '2.0.0');
bad('IEEE 4.2.7', 'no types', agents({ relevantTypes: [] }), '2.0.0');
bad('IEEE 4.2.7', 'types that are no IRIs', agents({ relevantTypes: ['reviewer'] }), '2.0.0');
bad('IEEE 4.2.7', 'an agent with more', agents({ role: 'x' }), '2.0.0');

describe('statements by the sections of the standard', () => {
  it('are more than 400', () => expect(cases.length).toBeGreaterThan(400));

  it.each(cases)('$section: $what', ({ statement, taken, version }) => {
    const read = readStatement(statement, version);
    expect(read).toMatchObject(
      taken ? { ok: true } : { ok: false, reason: expect.stringMatching(/\w{2}/) as string },
    );
  });
});
