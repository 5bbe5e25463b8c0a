import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatDuration, parseDuration } from './duration';
import { idAndAddress, personFinder, personKey } from './person';
import { activityFinder, EVENT_ID, recordOf, voidedBy } from './records';
import { sameStatement } from './compare';
import { readStatement, type Statement } from './statement';
import { meaningOf, VERB_OF, VOIDED } from './verbs';

const sha1 = (text: string) => createHash('sha1').update(text).digest('hex');
const ADL = 'http://adlnet.gov/expapi/verbs/';
const ID = '6690e6c9-3ef0-4ed3-8b37-7f3964730bee';
const base = {
  id: ID,
  actor: { mbox: 'mailto:ida@x.example' },
  verb: { id: `${ADL}experienced` },
  object: { id: 'https://x.example/works/q1' },
};
const reason = (value: unknown) => {
  const read = readStatement(value);
  return read.ok ? 'taken' : read.reason;
};

describe('durations (ISO 8601:2004, 4.4.3.2: designators)', () => {
  it.each([
    // The examples of the standard and of xAPI 1.0.3, part two, 4.6.
    ['P1Y2M10DT2H30M', 365 * 86400 + 2 * 30 * 86400 + 10 * 86400 + 9000],
    ['PT4H35M59.14S', 16559.14],
    ['PT16559.14S', 16559.14],
    ['P1D', 86400],
    ['PT36H', 129600],
    ['P4W', 4 * 7 * 86400],
    ['PT0S', 0],
    ['PT1,5M', 90],
    ['PT0.5H', 1800],
  ])('%s', (text, seconds) => {
    expect(parseDuration(text)).toEqual({ ok: true, value: seconds });
  });

  it.each([
    '',
    'P',
    'PT',
    'P1DT',
    '-PT5M',
    'PT-5M',
    'PT5',
    '5M',
    'PT1.5H30M',
    'P1H',
    `PT${'9'.repeat(1_000_000)}S`,
  ])('refuses one like %.10s', (text) => expect(parseDuration(text).ok).toBe(false));

  it('reads what it writes, to the hundredth', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999_900 }), (hundredths) => {
        expect(parseDuration(formatDuration(hundredths / 100))).toEqual({
          ok: true,
          value: hundredths / 100,
        });
      }),
    );
  });
});

describe('statements (xAPI 1.0.3, part two)', () => {
  it('takes the simplest, and one with everything of the data model', () => {
    expect(reason({ actor: base.actor, verb: base.verb, object: base.object })).toBe('taken');
    const full = {
      ...base,
      actor: { objectType: 'Group', name: 'Watch B', member: [{ mbox: 'mailto:ida@x.example' }] },
      verb: { id: `${ADL}answered`, display: { 'en-GB': 'answered' } },
      object: {
        objectType: 'Activity',
        id: 'https://x.example/works/q1#2',
        definition: {
          name: { en: 'Question 2' },
          type: `${ADL.replace('verbs', 'activities')}cmi.interaction`,
          interactionType: 'choice',
          correctResponsesPattern: ['golf[,]tetris'],
          choices: [{ id: 'golf', description: { en: 'Golf' } }],
          extensions: { 'https://x.example/e': { any: [1, null] } },
        },
      },
      result: {
        score: { scaled: 0.95, raw: 95, min: 0, max: 100 },
        success: true,
        completion: false,
        response: 'golf',
        duration: 'PT1M30S',
      },
      context: {
        registration: ID,
        instructor: { account: { homePage: 'https://x.example', name: 'bo' } },
        contextActivities: { parent: { id: 'https://x.example/works/q1' }, other: [{ id: 'x:y' }] },
        language: 'en-GB',
        platform: 'a platform',
        extensions: { 'https://x.example/e': null },
      },
      timestamp: '2026-11-02T10:00:00.123+01:00',
      version: '1.0.3',
    };
    expect(reason(full)).toBe('taken');
    expect(
      reason({
        ...full,
        version: '2.0.0',
        context: { contextAgents: [{ objectType: 'contextAgent', agent: base.actor }] },
      }),
    ).toBe('taken');
    const sub = { objectType: 'SubStatement', actor: base.actor, verb: base.verb, object: base.object };
    expect(reason({ ...base, object: sub })).toBe('taken');
    expect(reason({ ...base, object: { objectType: 'StatementRef', id: ID } })).toBe('taken');
  });

  it.each([
    [{ verb: base.verb, object: base.object }, /actor is missing/],
    [{ ...base, actor: { mbox: 'ida@x.example' } }, /actor.mbox is not a mailto/],
    [{ ...base, actor: { name: 'Ida' } }, /exactly one/],
    [{ ...base, actor: { ...base.actor, openid: 'https://ida.example' } }, /exactly one/],
    [{ ...base, actor: { mbox_sha1sum: 'abc' } }, /SHA-1/],
    [{ ...base, actor: { account: { name: 'ida' } } }, /homePage/],
    [{ ...base, actor: { objectType: 'Group' } }, /members/],
    [{ ...base, verb: { id: 'experienced' } }, /verb.id is not an IRI/],
    [{ ...base, verb: { id: base.verb.id, display: 'experienced' } }, /verb.display/],
    [{ ...base, object: {} }, /object.id/],
    [{ ...base, id: '1' }, /id is not a UUID/],
    [{ ...base, result: null }, /result is null/],
    [{ ...base, result: { score: { scaled: 1.5 } } }, /scaled/],
    [{ ...base, result: { score: { raw: 11, max: 10 } } }, /out of order/],
    [{ ...base, result: { success: 'yes' } }, /success/],
    [{ ...base, result: { duration: '-PT5M' } }, /not a duration/],
    [{ ...base, timestamp: '2026-11-02T10:00:00' }, /no zone/],
    [{ ...base, timestamp: '2026-02-29T10:00:00Z' }, /does not exist/],
    [{ ...base, timestamp: '2026-11-02T10:00:00-00:00' }, /-00:00/],
    [{ ...base, extra: 1 }, /properties/],
    [{ ...base, context: { registration: 'x' } }, /registration is not a UUID/],
    [{ ...base, context: { platform: 'p' }, object: { objectType: 'StatementRef', id: ID } }, /platform/],
    [{ ...base, version: '0.95' }, /version/],
    [JSON.parse(`{"actor":${'{"a":'.repeat(160)}1${'}'.repeat(160)},"verb":{},"object":{}}`), /deeper/],
    [[base], /not a statement/],
    ['text', /not a statement/],
  ])('refuses %j', (value, words) => expect(reason(value)).toMatch(words));

  it('never throws, whatever comes', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
        expect(typeof reason(a)).toBe('string');
        expect(typeof reason({ ...base, context: a, result: b })).toBe('string');
        expect(typeof reason({ ...base, actor: a, object: b })).toBe('string');
      }),
      { numRuns: 150 },
    );
  });

  it('compares by content: order of keys, one activity or a list, and what the store adds do not count', () => {
    const read = (value: object) => value as Statement;
    const one = read({ ...base, context: { contextActivities: { parent: { id: 'x:y' } } } });
    const other = read({
      object: base.object,
      verb: base.verb,
      actor: base.actor,
      stored: '2026-01-01T00:00:00Z',
      context: { contextActivities: { parent: [{ id: 'x:y' }] } },
    });
    expect(sameStatement(one, other)).toBe(true);
    expect(sameStatement(one, read({ ...other, verb: { id: 'x:z' } }))).toBe(false);
    const at = (timestamp: string) => read({ ...base, timestamp });
    expect(sameStatement(at('2026-11-02T10:00:00Z'), at('2026-11-02T11:00:00+01:00'))).toBe(true);
    expect(sameStatement(at('2026-11-02T10:00:00Z'), at('2026-11-02T10:00:01Z'))).toBe(false);
  });
});

describe('what a statement says', () => {
  const find = activityFinder([
    { id: 'q1', kind: 'quiz', points: 10 },
    { id: 'p 1', kind: 'page', points: null },
    { id: 'v1', kind: 'video', points: null },
  ]);
  const told = (more: object) => {
    const record = recordOf({ ...base, ...more } as Statement & { id: string }, find, 5);
    return record.ok ? record.value : record.reason;
  };

  it('finds the activity by its id or the last part of its address, or by its parent', () => {
    expect(told({})).toMatchObject({ activity: 'q1', kind: 'view', at: 5, eventId: `xapi:${ID}` });
    expect(told({ object: { id: 'https://x.example/a/p%201' } })).toMatchObject({ activity: 'p 1' });
    expect(told({ object: { id: 'https://x.example/%E0%A4%A' } })).toMatchObject({ activity: null });
    const parent = { contextActivities: { parent: [{ id: 'https://x.example/q1' }] } };
    expect(told({ object: { id: 'https://x.example/questions/7' }, context: parent })).toMatchObject({
      activity: 'q1',
      handedIn: null,
    });
  });

  it('takes scores to the maximum of the work', () => {
    const passed = (score: object) => told({ verb: { id: `${ADL}passed` }, result: { score } });
    expect(passed({ scaled: 0.7 })).toMatchObject({ kind: 'submit', handedIn: { points: 7 } });
    expect(passed({ raw: 15, min: 10, max: 20 })).toMatchObject({ handedIn: { points: 5 } });
    expect(passed({ raw: 8 })).toMatchObject({ handedIn: { points: 8 } });
    expect(passed({ raw: 80 })).toMatchObject({ handedIn: { points: 10 } });
    expect(told({ result: { duration: 'P2Y' } })).toMatchObject({ duration: null });
    expect(passed({ scaled: -0.5 })).toMatchObject({ handedIn: { points: 0 } });
    expect(told({ verb: { id: `${ADL}completed` } })).toMatchObject({ handedIn: { points: null } });
    expect(told({ verb: { id: `${ADL}completed` }, object: { id: 'v1' } })).toMatchObject({
      kind: 'watch',
      handedIn: null,
    });
  });

  it('keeps unknown verbs as other, and the kinds we write come back', () => {
    expect(told({ verb: { id: 'https://x.example/verbs/juggled' } })).toMatchObject({ kind: 'other' });
    for (const [kind, verb] of Object.entries(VERB_OF)) expect(meaningOf(verb, 'quiz').kind).toBe(kind);
  });

  it('knows people by address, its SHA-1, account or alias, and nobody by a name that two share', () => {
    const finder = personFinder(
      [
        { id: 's1', email: 'Ida@x.example' },
        { id: 's2', email: 'bo@x.example' },
        { id: 's3', email: 'bo@x.example' },
      ],
      new Map([['openid:https://ida.example', 's1']]),
      sha1,
    );
    const who = (agent: object) => finder(personKey(agent) ?? '');
    expect(who({ mbox: 'mailto:ida@X.example' })).toBe('s1');
    expect(who({ mbox_sha1sum: sha1('mailto:Ida@x.example') })).toBe('s1');
    expect(who({ mbox_sha1sum: sha1('mailto:ida@x.example').toUpperCase() })).toBe('s1');
    expect(who({ account: { homePage: 'https://x.example', name: 's2' } })).toBe('s2');
    expect(who({ openid: 'https://ida.example' })).toBe('s1');
    expect(who({ mbox: 'mailto:bo@x.example' })).toBeNull();
    expect(who({ openid: 'https://bo.example' })).toBeNull();
  });

  it('tells the id and address by which a person would be found', () => {
    const word = fc.stringMatching(/^[a-z0-9._-]{1,12}$/);
    const address = fc.tuple(word, word).map(([a, b]) => `${a}@${b}.example`);
    const agent = fc.oneof(
      address.map((a) => ({ mbox: `mailto:${a}` })),
      fc.oneof(word, address).map((name) => ({ account: { homePage: 'https://x.example', name } })),
    );
    fc.assert(
      fc.property(fc.oneof(agent.map(personKey), word), (key) => {
        const { id, email } = idAndAddress(key!);
        expect(personFinder([{ id: id ?? 'theirs', email }], new Map(), sha1)(key!)).toBe(id ?? 'theirs');
      }),
    );
    for (const key of [`sha1:${sha1('mailto:ida@x.example')}`, 'openid:https://ida.example'])
      expect(idAndAddress(key)).toEqual({ id: null, email: null });
  });

  it('tells a voiding statement, and takes our own event id back', () => {
    const voiding = { verb: { id: VOIDED }, object: { objectType: 'StatementRef', id: ID.toUpperCase() } };
    expect(voidedBy({ ...base, ...voiding })).toBe(ID);
    expect(voidedBy(base)).toBeNull();
    expect(told({ context: { extensions: { [EVENT_ID]: 's1-004' } } })).toMatchObject({
      eventId: `xapi:${ID}`,
      ownId: 's1-004',
    });
  });
});
